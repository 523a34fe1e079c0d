import { z } from 'zod';
import { HouseVersion } from '../house/house-version';
import { Kind } from '../inspect/kind';
import { Guards } from '../guard/guards';
import { Framing } from '../frame/framing';
import { Paper } from '../measure/paper';
import { Ppi } from '../measure/plan';
import { PLACED_LIMIT } from '../placed/placed';
import { firstOfKind, isOfKind, phasesOf, StepChoice, stepOfKind, type StepKind } from '../steps';
import { Zone } from '../zone/zone';
import { Output } from '../output/output';
import { RECIPE_VERSION, workForward } from './versions';

/** The most zones that a picture has. */
const ZONES = 40;

/** The ordered steps: any number at the original's size, one enlargement, any number after it. */
export const Treatment = z
  .array(StepChoice)
  .max(32)
  .refine((list) => list.filter((step) => isOfKind(step, 'enlarge')).length === 1, {
    message: 'A treatment has exactly one enlargement.',
  })
  .refine(
    (list) => {
      const phases = phasesOf(list);
      return list.every(({ kind }, i) =>
        stepOfKind(kind).phases.some((phase) => phase === phases[i]),
      );
    },
    { message: 'Steps stand in the order of the work: before, at, and after enlarging.' },
  );
export type Treatment = z.infer<typeof Treatment>;

/** A picture on a page of shapes: the page, and its number among the pictures there, both from 1. */
const onPage = { page: z.int().positive(), picture: z.int().positive() };

/** What a trial of a page does to a picture on it. */
export const PlacedTrial = z.object({
  ...onPage,
  /** drawn as it was treated; otherwise as it came */
  on: z.boolean(),
  treatment: Treatment,
  guards: Guards,
});
export type PlacedTrial = z.infer<typeof PlacedTrial>;

/** What is decided about a picture on a page of shapes for all trials. */
export const PlacedWork = z.object({
  ...onPage,
  kind: Kind.nullable(),
  zones: z.array(Zone).max(ZONES),
});
export type PlacedWork = z.infer<typeof PlacedWork>;

/** One treatment among several for the same original. */
export const Trial = z.object({
  id: z.string().min(1).max(40),
  name: z.string().trim().min(1).max(60),
  ppi: Ppi,
  /** made anew at `ppi`, or kept as they are with a tag that fits the paper */
  pixels: z.enum(['new', 'kept']).default('new'),
  treatment: Treatment,
  /** what keeps its sharpening from being overdone */
  guards: Guards,
  /** of pages of shapes: what is done to pictures on them */
  placed: z.array(PlacedTrial).max(PLACED_LIMIT).default([]),
  output: Output,
  /** what its results are called, where that is not by the shop's pattern */
  fileName: z.string().trim().max(120).nullable().default(null),
  /** the house recipe that it was begun by */
  house: HouseVersion.nullable().default(null),
});
export type Trial = z.infer<typeof Trial>;

/** The most trials that a picture has. */
export const TRIALS = 26;

/** How far the viewer stands, in metres. */
export const Distance = z.number().min(0.1).max(200);

/** An entry of one of the shop's lists, or none. */
const Listed = z.string().max(60).nullable();

/** All that a technician decides about one picture of a job; every change of it can be undone. */
export const Work = z.preprocess(
  workForward,
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
    zones: z.array(Zone).max(ZONES),
    placed: z.array(PlacedWork).max(PLACED_LIMIT).default([]),
    trials: z
      .array(Trial)
      .min(1)
      .max(TRIALS)
      .refine(
        (trials) => new Set(trials.map(({ id }) => id)).size === trials.length,
        'two trials have the same letter',
      ),
    /** how many trials were ever begun: an id is never given twice */
    begun: z.int().min(1).max(10_000).default(1),
  }),
);
export type Work = z.infer<typeof Work>;

/** The first step of a kind in a treatment. */
export function stepOf<K extends StepKind>(
  treatment: Treatment,
  kind: K,
): Extract<StepChoice, { kind: K }> | undefined {
  return firstOfKind<StepChoice, K>(treatment, kind);
}
