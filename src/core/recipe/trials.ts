import type { Trial, Work } from './work';

/** The most trials that a picture has. */
export const TRIALS = 26;

const LETTERS = 'abcdefghijklmnopqrstuvwxyz';

/** The trial with an id; the first where there is none. */
export const trialOf = ({ trials }: Pick<Work, 'trials'>, id: string | null): Trial =>
  trials.find((trial) => trial.id === id) ?? trials[0]!;

/** The letter of the next trial: the first that none has. */
const freeLetter = ({ trials }: Work): string | undefined =>
  [...LETTERS].find((letter) => trials.every(({ id }) => id !== letter));

/**
 * A trial that begins as a copy of another, right behind it, in place.
 * @param change what it differs in from the start
 * @returns the new trial, or null where there are as many as can be
 */
export function branchTrial(
  work: Work,
  from: Trial,
  change?: (trial: Trial) => void,
): Trial | null {
  const letter = freeLetter(work);
  if (!letter || work.trials.length >= TRIALS) return null;
  const trial: Trial = {
    ...structuredClone(from),
    id: letter,
    name: `Trial ${letter.toUpperCase()}`,
  };
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
