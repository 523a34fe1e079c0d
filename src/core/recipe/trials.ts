import { TRIALS, type Trial, type Work } from './work';

const LETTERS = 'abcdefghijklmnopqrstuvwxyz';

/** Ids of trials in the order in which they are given: a to z, then aa and on. */
export const trialId = (begunBefore: number): string =>
  begunBefore < LETTERS.length
    ? LETTERS[begunBefore]!
    : trialId(Math.floor(begunBefore / LETTERS.length) - 1) +
      LETTERS[begunBefore % LETTERS.length]!;

/** The trial with an id; the first where there is none. */
export const trialOf = ({ trials }: Pick<Work, 'trials'>, id: string | null): Trial =>
  trials.find((trial) => trial.id === id) ?? trials[0]!;

/**
 * A trial that begins as a copy of another, right behind it, in place. Its id was never given before, so
 * that whatever named one that was deleted names nothing.
 * @param change what it differs in from the start
 * @returns the new trial, or null where there are as many as can be
 */
export function branchTrial(
  work: Work,
  from: Trial,
  change?: (trial: Trial) => void,
): Trial | null {
  if (work.trials.length >= TRIALS) return null;
  const id = trialId(work.begun++);
  const trial: Trial = { ...structuredClone(from), id, name: `Trial ${id.toUpperCase()}` };
  change?.(trial);
  work.trials.splice(work.trials.indexOf(from) + 1, 0, trial);
  return trial;
}

/** Takes a trial out, in place; the last one stays. Returns whether it did. */
export function removeTrial(work: Work, id: string): boolean {
  if (work.trials.length < 2) return false;
  const at = work.trials.findIndex((trial) => trial.id === id);
  if (at < 0) return false;
  work.trials.splice(at, 1);
  return true;
}
