import { z } from 'zod';
import { Evidence, SeenFigures } from '../evidence/evidence';
import { Recipe } from '../recipe/recipe';

/** Papers that a comparison sheet is made for, in millimetres. */
export const SHEET_PAPERS = {
  A4: { width: 210, height: 297 },
  A3: { width: 297, height: 420 },
} as const;
export const SheetPaper = z.enum(['A4', 'A3']);
export type SheetPaper = z.infer<typeof SheetPaper>;

const line = (longest: number) => z.string().trim().max(longest);
const share = z.number().min(0).max(1);

/** A place that a sheet shows, as shares of the print. */
export const SheetStop = z.object({ title: line(60), words: line(220), x: share, y: share });
export type SheetStop = z.infer<typeof SheetStop>;

/** The most places, and trials beside the original, of one sheet. */
export const SHEET_MOST = { stops: 24, trials: 3 } as const;

/** Asks for a comparison sheet of trials as they stand at a revision. */
export const SheetRequest = z.object({
  revision: z.int(),
  paper: SheetPaper,
  stops: z.array(SheetStop).min(1).max(SHEET_MOST.stops),
  trials: z
    .array(z.object({ id: z.string().max(40), evidence: Evidence.nullable() }))
    .min(1)
    .max(SHEET_MOST.trials),
  /** what was measured of the original */
  original: SeenFigures.nullable(),
});
export type SheetRequest = z.infer<typeof SheetRequest>;

/** All that a sheet says, beside its pictures. */
export const SheetWords = z.object({
  paper: SheetPaper,
  /** in two lines: whose it is, and what is printed */
  heading: z.string(),
  print: z.string(),
  date: z.string(),
  stops: z.array(SheetStop),
  /** each pane's name, how it was made, and its settings, line by line */
  panes: z.array(z.object({ name: z.string(), made: z.string(), settings: z.array(z.string()) })),
  /** figures of every pane, as they are read */
  rows: z.array(z.object({ title: z.string(), better: z.string(), figures: z.array(z.string()) })),
});
export type SheetWords = z.infer<typeof SheetWords>;

/** What the making of a sheet is given: its words, and what each pane is rendered by. */
export const SheetPayload = z.object({
  fileName: z.string(),
  words: SheetWords,
  recipes: z.array(Recipe),
});
export type SheetPayload = z.infer<typeof SheetPayload>;
