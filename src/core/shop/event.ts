import { z } from 'zod';
import { Evidence } from '../evidence/evidence';
import { digestOfValue } from '../recipe/canonical';
import type { Recipe } from '../recipe/recipe';
import { Initials } from './initials';
import { JobState } from './job-state';

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
  /** what was measured of it; null where Compare was not open */
  evidence: Evidence.nullable().default(null),
});
export type Approval = z.infer<typeof Approval>;

/** A file on its way to a device. */
const Sent = z.object({ key: z.string(), fileName: z.string(), device: z.string() });

/** What can happen to a job; each is written down once, and never edited. */
const Happened = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('state'), from: JobState, to: JobState }),
  Approval.extend({ kind: z.literal('approved') }),
  z.object({ kind: z.literal('approval withdrawn'), initials: Initials, note: Note }),
  Sent.extend({
    kind: z.literal('sent'),
    material: z.string(),
    copies: z.int(),
    digest: z.string(),
    initials: Initials,
    /** why it was sent though nobody had signed for it; null where somebody had */
    why: z.string().nullable(),
    /** what was not as it should be, in sentences */
    cautions: z.array(z.string()),
  }),
  Sent.extend({ kind: z.literal('device stopped'), words: z.string() }),
  Sent.extend({ kind: z.literal('printed'), spoilt: z.number() }),
  Sent.extend({ kind: z.literal('not printed'), words: z.string() }),
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
  evidence: Approval.shape.evidence,
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

/** Whether an approval is of a recipe: by itself, or by the recipe of its run, as far as that one is known. */
export const isApprovalOf = (
  { recipe, run }: Pick<Approval, 'recipe' | 'run'>,
  signed: string,
  runs: readonly { id: string; payload: { recipe: Recipe } }[],
): boolean => {
  const made = runs.find(({ id }) => id === run);
  // What recipes hold has grown since it was signed for.
  return recipe === signed || (made !== undefined && signedAs(made.payload.recipe) === signed);
};

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
