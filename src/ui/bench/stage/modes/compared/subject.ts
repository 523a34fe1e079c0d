import { stagesOf } from '@/core/recipe/stages';
import type { Trial, Work } from '@/core/recipe/work';
import { standing } from '../../overlays/overlay';
import { say } from '@/core/words/say';

/** What a pane beside the result can show. */
export type Subject =
  | { of: 'original' }
  | { of: 'trial'; id: string }
  /** the trial on the bench as a screen shows it, while its print is simulated */
  | { of: 'screen' }
  /** the trial on the bench after one of its steps, by its place among steps that stand so */
  | { of: 'step'; step: number; among: string }
  /** a picture file: that of a finished run, or one brought from outside */
  | { of: 'file'; digest: string };

export const ORIGINAL: Subject = { of: 'original' };
const ON_SCREEN: Subject = { of: 'screen' };

/** Names a subject, for a list of them. */
export function keyOf(subject: Subject): string {
  if (subject.of === 'trial') return say`trial ${subject.id}`;
  if (subject.of === 'file') return say`file ${subject.digest}`;
  return subject.of === 'step' ? say`step ${subject.step} ${subject.among}` : subject.of;
}

/** All that can stand beside a trial, and what each is called. */
export function subjectsBeside(
  { trials }: Pick<Work, 'trials'>,
  { id, name: own, treatment }: Trial,
  files: readonly { name: string; file: { digest: string } }[] = [],
  proofing = false,
): { subject: Subject; name: string }[] {
  const among = standing(treatment);
  return [
    { subject: ORIGINAL, name: say`Original` },
    ...(proofing ? [{ subject: ON_SCREEN, name: say`${own} on the screen` }] : []),
    ...trials
      .filter((other) => other.id !== id)
      .map((other) => ({ subject: { of: 'trial', id: other.id } as const, name: other.name })),
    ...stagesOf(treatment).map(({ index, name }) => ({
      subject: { of: 'step', step: index, among } as const,
      name: `${own} ${name}`,
    })),
    ...files.map(({ name, file }) => ({
      subject: { of: 'file', digest: file.digest } as const,
      name,
    })),
  ];
}

/**
 * What stands beside a trial, in as many panes: what was chosen for each as far as it is still there, else the
 * next that no other pane shows.
 */
export function shownBeside(
  work: Pick<Work, 'trials'>,
  trial: Trial,
  chosen: readonly Subject[],
  panes: number,
  files?: Parameters<typeof subjectsBeside>[2],
  proofing?: boolean,
): Subject[] {
  const all = subjectsBeside(work, trial, files, proofing).map(({ subject }) => subject);
  const there = new Set(all.map(keyOf));
  const kept = chosen.slice(0, panes).map((one) => (there.has(keyOf(one)) ? one : null));
  const taken = new Set(kept.flatMap((one) => (one ? [keyOf(one)] : [])));
  return Array.from({ length: panes }, (_, i) => {
    const next = kept[i] ?? all.find((one) => !taken.has(keyOf(one))) ?? ORIGINAL;
    taken.add(keyOf(next));
    return next;
  });
}
