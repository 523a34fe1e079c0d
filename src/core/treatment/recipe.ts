import { z } from 'zod';
import { Kind } from '../inspect/kind';
import { Framing, Rect, Turn, UNFRAMED } from '../frame/framing';
import { Colour, OPEN_PAPER, Paper } from '../measure/paper';
import { Ppi } from '../measure/plan';
import { phasesOf, SettledStep, StepChoice, steps, type StepKind } from '../steps';
import { Zone } from '../zone/zone';

/** Versions of the recipe's form; older ones are brought forward when they are read. */
export const RECIPE_VERSION = 3;

/** Changes when any kernel's result changes: part of what makes a settled recipe reproducible. */
export const CORE_VERSION = '6';

export const Format = z.enum(['tiff', 'jpeg', 'png']);
export type Format = z.infer<typeof Format>;

/** How the result is written. */
export const Output = z.object({
  format: Format,
  /** JPEG quality, 1–100; the other formats keep every bit */
  quality: z.int().min(1).max(100),
  /** bits a sample; JPEG holds 8 */
  depth: z.union([z.literal(8), z.literal(16)]),
  /** transparency: kept where the format holds it, or laid on the paper's colour */
  alpha: z.enum(['keep', 'paper']).default('paper'),
});
export type Output = z.infer<typeof Output>;

/** The ordered steps: any number at the original's size, one enlargement, any number after it. */
export const Treatment = z
  .array(StepChoice)
  .max(32)
  .refine((list) => list.filter((step) => step.kind === 'enlarge').length === 1, {
    message: 'A treatment has exactly one enlargement.',
  })
  .refine(
    (list) => {
      const phases = phasesOf(list);
      return list.every(({ kind }, i) => steps[kind].phases.some((phase) => phase === phases[i]));
    },
    { message: 'Steps stand in the order of the work: before, at, and after enlarging.' },
  );
export type Treatment = z.infer<typeof Treatment>;

/** One treatment among several for the same original. */
export const Trial = z.object({
  id: z.string().min(1).max(40),
  name: z.string().trim().min(1).max(60),
  ppi: Ppi,
  /** made anew at `ppi`, or kept as they are with a tag that fits the paper */
  pixels: z.enum(['new', 'kept']).default('new'),
  treatment: Treatment,
  output: Output,
});
export type Trial = z.infer<typeof Trial>;

/** How far the viewer stands, in metres. */
export const Distance = z.number().min(0.1).max(200);

/** An entry of one of the shop's lists, or none. */
const Listed = z.string().max(60).nullable();

/** All that a technician decides about one picture of a job; every change of it can be undone. */
export const Work = z.preprocess(
  broughtForward,
  z.object({
    version: z.literal(RECIPE_VERSION),
    framing: Framing,
    paper: Paper,
    distance: Distance,
    /** what it is printed with and on, by their names in the shop's lists */
    device: Listed,
    material: Listed,
    /** what the picture is taken for, where that overrules what was found */
    kind: Kind.nullable().default(null),
    /** strength maps that steps of all trials may be limited to */
    zones: z.array(Zone).max(40),
    trials: z.array(Trial).min(1).max(26),
  }),
);
export type Work = z.infer<typeof Work>;

const OldStep = z.looseObject({ kind: z.string(), on: z.unknown(), strength: z.unknown() });

/** Until version 2 there was one step of cleaning, against compression. */
const cleaning = (step: z.infer<typeof OldStep>) =>
  step.kind === 'clean'
    ? {
        ...step,
        kind: 'compression',
        settings: { engine: 'classical', luma: 'auto', colour: 'auto' },
      }
    : step;

/** A work of an earlier version in the present form. Anything else is left to the schema. */
function broughtForward(value: unknown): unknown {
  const old = z
    .looseObject({
      version: z.literal(2),
      trials: z.array(z.looseObject({ treatment: z.array(OldStep) })),
    })
    .safeParse(secondVersion(value));
  if (!old.success) return value;
  return {
    ...old.data,
    version: RECIPE_VERSION,
    zones: [],
    trials: old.data.trials.map((trial) => ({
      ...trial,
      treatment: trial.treatment.map(cleaning),
    })),
  };
}

/** A work of version 1 as version 2 kept it: it knew neither framing, bleed nor the shop's lists. */
function secondVersion(value: unknown): unknown {
  const old = z.looseObject({ version: z.literal(1), paper: z.looseObject({}) }).safeParse(value);
  if (!old.success) return value;
  return {
    ...old.data,
    version: 2,
    framing: UNFRAMED,
    paper: { ...OPEN_PAPER, ...old.data.paper },
    device: null,
    material: null,
  };
}

/** How a picture that is drawn from shapes comes to its pixels. */
export const Drawn = z.object({
  /** part of the page, turned as below, in pixels of its nominal grid */
  source: Rect,
  turn: Turn,
});
export type Drawn = z.infer<typeof Drawn>;

/** A recipe in which nothing is left to decide: the same one gives the same bytes. */
export const SettledRecipe = z.preprocess(
  settledBroughtForward,
  z.object({
    version: z.literal(RECIPE_VERSION),
    core: z.string(),
    original: z.object({
      digest: z.string(),
      page: z.int().positive(),
      /** of the pixels that the steps begin with */
      width: z.int().positive(),
      height: z.int().positive(),
      /** null where the file holds pixels */
      drawn: Drawn.nullable(),
    }),
    /** what becomes of transparency */
    alpha: z.enum(['none', 'kept', 'laid']),
    /** what transparent parts are laid on */
    colour: Colour,
    target: z.object({
      width: z.int().positive(),
      height: z.int().positive(),
      ppi: Ppi,
    }),
    steps: z.array(SettledStep),
    output: Output,
  }),
);
export type SettledRecipe = z.infer<typeof SettledRecipe>;

const OldSettled = z.looseObject({ kind: z.string(), numbers: z.looseObject({}) });

/** A settled recipe of an earlier version as it would stand today; it stays marked with its own core. */
function settledBroughtForward(value: unknown): unknown {
  const old = z
    .looseObject({ version: z.literal(2), steps: z.array(OldSettled) })
    .safeParse(settledSecondVersion(value));
  if (!old.success) return value;
  return {
    ...old.data,
    version: RECIPE_VERSION,
    steps: old.data.steps.map((step) =>
      step.kind === 'clean' ? { ...step, kind: 'compression' } : step,
    ),
  };
}

function settledSecondVersion(value: unknown): unknown {
  const old = z
    .looseObject({
      version: z.literal(1),
      original: z.looseObject({}),
      steps: z.array(OldSettled),
    })
    .safeParse(value);
  if (!old.success) return value;
  return {
    ...old.data,
    version: 2,
    original: { ...old.data.original, page: 1, drawn: null },
    alpha: 'none',
    colour: OPEN_PAPER.colour,
    steps: old.data.steps.map((step) =>
      step.kind === 'enlarge'
        ? { ...step, numbers: { turn: 0, straighten: 0, ...step.numbers } }
        : step,
    ),
  };
}

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
