import { z } from 'zod';
import { digestOfValue } from '../recipe/canonical';
import type { Recipe } from '../recipe/recipe';
import { JobState } from './job-state';

/** Who signs: a few letters. */
export const Initials = z
  .string()
  .trim()
  .min(1, 'Who signs? Give your initials.')
  .max(8, 'Initials are a few letters.')
  .transform((letters) => letters.toUpperCase());

const Note = z.string().trim().max(500);

/** A picture's result that somebody signed for. */
export const Approval = z.object({
  trialId: z.string(),
  trialName: z.string(),
  /** what was signed for, by the recipe that it was made by */
  recipe: z.string(),
  /** the run that made the file, and the file */
  run: z.string(),
  fileName: z.string(),
  digest: z.string(),
  initials: Initials,
  note: Note,
  /** share of the result that nobody had seen at 1:1, 0–1 */
  unseen: z.number().min(0).max(1),
});
export type Approval = z.infer<typeof Approval>;

/** What can happen to a job; each is written down once, and never edited. */
const Happened = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('state'), from: JobState, to: JobState }),
  Approval.extend({ kind: z.literal('approved') }),
  z.object({ kind: z.literal('approval withdrawn'), initials: Initials, note: Note }),
]);
export type Happened = z.infer<typeof Happened>;

/** An entry of a job's record. */
export const ShopEvent = z.intersection(
  z.object({
    id: z.int(),
    at: z.int(),
    /** the picture that it is about; null where it is about the job */
    pieceId: z.int().nullable(),
  }),
  Happened,
);
export type ShopEvent = z.infer<typeof ShopEvent>;

/** Signs for a trial as it stands at a revision. */
export const ApprovalRequest = z.object({
  revision: z.int(),
  trialId: z.string(),
  initials: Initials,
  note: Note,
  unseen: Approval.shape.unseen,
});
export type ApprovalRequest = z.input<typeof ApprovalRequest>;

/** Takes a signature back. */
export const Withdrawal = z.object({ initials: Initials, note: Note });
export type Withdrawal = z.input<typeof Withdrawal>;

/**
 * What a recipe is signed for as. The core's version is left out: what was signed is the file, which an update of the
 * application does not change.
 */
export const signedAs = (recipe: Recipe): string => digestOfValue({ ...recipe, core: '' });

/** The approval that stands for a picture, by its events, the newest first; null where there is none. */
export function standingApproval(
  events: readonly ShopEvent[],
  pieceId: number,
): (Approval & { at: number }) | null {
  const last = events.find(
    (event) =>
      event.pieceId === pieceId &&
      (event.kind === 'approved' || event.kind === 'approval withdrawn'),
  );
  return last?.kind === 'approved' ? last : null;
}
