import { z } from 'zod';

/** The most folds that a print has. */
export const FOLDS = 12;

/** Where a print is folded: so far from its trimmed left or top edge. */
export const Fold = z.object({
  along: z.enum(['width', 'height']),
  /** in millimetres from the left, or from the top */
  mm: z.number().positive().max(100_000),
});
export type Fold = z.infer<typeof Fold>;

/** What is printed about a picture, for those who cut, fold and file it. */
export const Marks = z.object({
  /** where it is trimmed */
  crop: z.boolean(),
  /** that plates or passes lie over each other */
  registration: z.boolean(),
  folds: z.array(Fold).max(FOLDS),
  /** job, trial, size and date in a line */
  slug: z.boolean(),
});
export type Marks = z.infer<typeof Marks>;

export const NO_MARKS: Marks = { crop: false, registration: false, folds: [], slug: false };

/** Whether anything is printed about the picture. */
export const hasMarks = ({ crop, registration, folds, slug }: Marks): boolean =>
  crop || registration || slug || folds.length > 0;
