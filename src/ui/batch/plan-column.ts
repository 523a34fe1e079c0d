import { z } from 'zod';
import { say } from '@/core/words/say';

/** Columns of a batch's table that say what is decided, and can be changed as a whole. */
export const PlanColumn = z.enum(['steps', 'print', 'ppi', 'file']);
export type PlanColumn = z.infer<typeof PlanColumn>;

/** What pressing beside a column's name does. */
export const COLUMN_WORDS: Record<PlanColumn, string> = {
  steps: say`Change how all that are shown are treated`,
  print: say`Change the print of all that are shown`,
  ppi: say`Change the resolution of all that are shown`,
  file: say`Change the file of all that are shown`,
};
