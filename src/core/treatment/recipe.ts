import { z } from 'zod';
import { Fit, Paper, Ppi } from '../measure/plan';
import { StepChoice, SettledStep, steps, type StepKind } from '../steps';

/** Versions of the recipe's form; older ones are brought forward when they are read. */
export const RECIPE_VERSION = 1;

/** Changes when any kernel's result changes: part of what makes a settled recipe reproducible. */
export const CORE_VERSION = '1';

export const Format = z.enum(['tiff', 'jpeg', 'png']);
export type Format = z.infer<typeof Format>;

/** How the result is written. */
export const Output = z.object({
  format: Format,
  /** JPEG quality, 1–100; the other formats keep every bit */
  quality: z.int().min(1).max(100),
  /** bits a sample; JPEG holds 8 */
  depth: z.union([z.literal(8), z.literal(16)]),
});
export type Output = z.infer<typeof Output>;

const ORDER = { original: 0, enlarge: 1, target: 2 } as const;

/** The ordered steps: any number at the original's size, one enlargement, any number after it. */
export const Treatment = z
  .array(StepChoice)
  .max(32)
  .refine((list) => list.filter((step) => step.kind === 'enlarge').length === 1, {
    message: 'A treatment has exactly one enlargement.',
  })
  .refine(
    (list) =>
      list.every(
        (step, i) => i === 0 || ORDER[phaseOf(list[i - 1]!.kind)] <= ORDER[phaseOf(step.kind)],
      ),
    { message: 'Steps stand in the order of the work: before, at, and after enlarging.' },
  );
export type Treatment = z.infer<typeof Treatment>;

const phaseOf = (kind: StepKind) => steps[kind].phase;

/** One treatment among several for the same original. */
export const Trial = z.object({
  id: z.string().min(1).max(40),
  name: z.string().trim().min(1).max(60),
  ppi: Ppi,
  treatment: Treatment,
  output: Output,
});
export type Trial = z.infer<typeof Trial>;

/** All that a technician decides about one picture of a job; every change of it can be undone. */
export const Work = z.object({
  version: z.literal(RECIPE_VERSION),
  paper: Paper,
  /** how far the viewer stands, in metres */
  distance: z.number().min(0.1).max(200),
  trials: z.array(Trial).min(1).max(26),
});
export type Work = z.infer<typeof Work>;

/** A recipe in which nothing is left to decide: the same one gives the same bytes. */
export const SettledRecipe = z.object({
  version: z.literal(RECIPE_VERSION),
  core: z.string(),
  original: z.object({
    digest: z.string(),
    width: z.int().positive(),
    height: z.int().positive(),
  }),
  target: z.object({
    width: z.int().positive(),
    height: z.int().positive(),
    ppi: Ppi,
    fit: Fit,
  }),
  steps: z.array(SettledStep),
  output: Output,
});
export type SettledRecipe = z.infer<typeof SettledRecipe>;

/** JSON with keys in a fixed order, so that equal recipes are equal texts. */
export function canonicalJson(value: unknown): string {
  return JSON.stringify(value, (_, part: unknown) =>
    part && typeof part === 'object' && !Array.isArray(part)
      ? Object.fromEntries(Object.entries(part).sort(([a], [b]) => (a < b ? -1 : 1)))
      : part,
  );
}

/** The first step of a kind in a treatment. */
export function stepOf<K extends StepKind>(
  treatment: Treatment,
  kind: K,
): Extract<StepChoice, { kind: K }> | undefined {
  return treatment.find((step): step is Extract<StepChoice, { kind: K }> => step.kind === kind);
}
