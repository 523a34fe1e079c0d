import { z } from 'zod';
import { Findings } from '../inspect/findings';
import { NewPicture } from './job';
import { SheetTask } from './task';

// What is kept beside a picture's history: nothing of it is undone with the work.

const place = z.number().min(0).max(1e6);

/** A place on a page of an original that somebody marked, with a note. */
export const NewMark = z.object({
  page: z.int().positive(),
  /** pixels of the original */
  x: place,
  y: place,
  note: z.string().trim().max(200).default(''),
});
export type NewMark = z.infer<typeof NewMark>;
export const MarkChange = NewMark.pick({ note: true });
export type MarkChange = z.infer<typeof MarkChange>;
export const Mark = NewMark.extend({ id: z.int() });
export type Mark = z.infer<typeof Mark>;

/** What of a trial's result was looked at closely: squares row by row, packed eight to a byte, in base64. */
export const Sweep = z.object({
  trial: z.string().min(1).max(40),
  /** names the result that was looked at: another one has not been seen */
  state: z.string().min(1).max(80),
  columns: z.int().min(1).max(512),
  rows: z.int().min(1).max(512),
  seen: z.base64().max(60_000),
});
export type Sweep = z.infer<typeof Sweep>;

/** A picture brought from outside to be compared with. */
export const NewBrought = NewPicture;
export const Brought = NewPicture.extend({ id: z.int(), findings: Findings });
export type Brought = z.infer<typeof Brought>;

/** All of it, of one picture. */
export const Comparing = z.object({
  marks: z.array(Mark),
  sweeps: z.array(Sweep),
  brought: z.array(Brought),
  /** comparison sheets, the newest first: made, on their way, or failed */
  sheets: z.array(SheetTask),
});
export type Comparing = z.infer<typeof Comparing>;
