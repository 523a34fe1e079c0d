import { z } from 'zod';
import { Recipe } from '../recipe/recipe';
import type { ProofPaper } from '../output/proof-sheet';
import { SHEET_MOST, SHEET_PAPERS, SheetStop } from './sheet';

/** What a proof is printed on: a sheet, or a strip as wide as a roll prints. */
export const ProofOn = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('sheet'), paper: z.enum(['A4', 'A3']) }),
  /** millimetres */
  z.object({ kind: z.literal('strip'), width: z.number().min(100).max(6000) }),
]);
export type ProofOn = z.infer<typeof ProofOn>;

export const paperOf = (on: ProofOn): ProofPaper =>
  on.kind === 'strip' ? on : { kind: 'sheet', ...SHEET_PAPERS[on.paper] };

/** Formats that a proof is written in: every bit of it is kept. */
export const ProofFormat = z.enum(['pdf', 'tiff']);
export type ProofFormat = z.infer<typeof ProofFormat>;

/** The most trials of one proof. */
export const PROOF_TRIALS = 4;

/** Asks for a proof of trials as they stand at a revision. */
export const ProofRequest = z.object({
  revision: z.int(),
  on: ProofOn,
  format: ProofFormat,
  stops: z.array(SheetStop).min(1).max(SHEET_MOST.stops),
  trials: z.array(z.string().max(40)).min(1).max(PROOF_TRIALS),
});
export type ProofRequest = z.infer<typeof ProofRequest>;

/** All that a proof says, beside its pictures. */
export const ProofWords = z.object({
  heading: z.string(),
  print: z.string(),
  stops: z.array(SheetStop),
  trials: z.array(z.object({ name: z.string(), settings: z.array(z.string()) })),
});
export type ProofWords = z.infer<typeof ProofWords>;

/** What the making of a proof is given. */
export const ProofPayload = z.object({
  fileName: z.string(),
  on: ProofOn,
  format: ProofFormat,
  words: ProofWords,
  /** what each trial is rendered by, all into the same colours */
  recipes: z.array(Recipe).min(1),
});
export type ProofPayload = z.infer<typeof ProofPayload>;
