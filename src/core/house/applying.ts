import { z } from 'zod';
import { Author } from '../shop/author';

/** The most pictures that a recipe is applied to at once. */
export const APPLIED_MOST = 500;

/** Begins a trial by a recipe on some pictures. */
export const ApplyRequest = z.object({
  pieces: z.array(z.int()).min(1).max(APPLIED_MOST),
  author: Author.nullable().default(null),
});
export type ApplyRequest = z.input<typeof ApplyRequest>;

/** What became of a picture when a recipe was applied. */
export const Applied = z.object({
  piece: z.int(),
  /** the trial that is by the recipe */
  trial: z.string().nullable(),
  outcome: z.enum(['begun', 'had it', 'failed']),
  /** why it failed */
  words: z.string().nullable(),
});
export type Applied = z.infer<typeof Applied>;
