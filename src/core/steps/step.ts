import type { z } from 'zod';
import type { JpegFacts } from '../inspect/jpeg';
import type { Noise } from '../inspect/noise';
import type { TonePoints } from '../inspect/tones';
import type { ModelName } from '../learned/models';
import type { Network } from '../learned/network';
import type { Framing } from '../frame/framing';
import type { Region, Size } from '../raster/region';
import type { Raster, Window } from '../raster/raster';
import type { Plain } from './enlarge/methods';
import type { InsetNumbers } from './inset/inset';
import type { PrintPlan } from '../measure/plan';

/**
 * Where in the order of the work a step stands: on the original's untouched grid, as the one
 * resampling, on the target's grid, or laying the finished picture on its sheet. The trade fixes
 * this order.
 */
export type Phase = 'original' | 'enlarge' | 'target' | 'sheet';

/** What a step may look at when its automatic choices are turned into numbers. */
export interface SettleContext {
  /** size of the original's grid, once repeated pixels are taken back */
  original: Size;
  jpeg: JpegFacts | null;
  /** where blocks of earlier compression begin and its quality, in a file that no longer says so */
  blocks: { x: number; y: number; quality: number | null } | null;
  noise: Noise;
  tones: TonePoints;
  /** digests of the models that can be used; null where one is missing */
  models: Record<ModelName, string | null>;
  framing: Framing;
  plan: PrintPlan;
  /** what the enlargement is carried out, or carried on, by */
  enlargement: Plain;
  /** the steps of another trial, as far as they lead to a picture of this size; null where it is gone */
  settledTrial(id: string): InsetNumbers['steps'] | null;
  /** where the step stands */
  phase: Phase;
}

/** What a stage may use besides the window that it is given. */
export interface Tools {
  /** @throws ModelProblem where the model of that digest is missing or damaged */
  network(digest: string): Promise<Network>;
  /** the untreated picture on the grid of the step's input, over a region of it */
  untreated(region: Region): Promise<Raster>;
}

/** Grids on both sides of a step; they differ where pixels are made anew. */
export interface Grids {
  from: Size;
  to: Size;
}

/**
 * What computes pixels once nothing automatic remains; `Numbers` is described by a Zod schema.
 *
 * `apply` is a pure function of its window: it must not look beyond `pull(region)`, and the value
 * of a pixel must not depend on how the picture was cut into regions. Tests hold every stage to it.
 */
export interface Stage<Kind extends string, Numbers extends object> {
  kind: Kind;
  /** where it may stand */
  phases: readonly Phase[];
  numbers: z.ZodType<Numbers>;
  /** The same for a result `scale` times as large (below 1: a small rendering). */
  scaled(numbers: Numbers, scale: number): Numbers;
  /**
   * The same on an original that is reduced to `scale` (below 1) for looking at it from afar; absent
   * where nothing of the stage is seen from there.
   */
  afar?(numbers: Numbers, scale: number): Numbers;
  /** Size of the stage's result, given the size of its input. */
  size(numbers: Numbers, from: Size): Size;
  /** The part of the input that is needed for `region` of the result. */
  pull(numbers: Numbers, region: Region, grids: Grids): Region;
  /** Computes `region` of the result from a window that covers at least `pull(region)`. */
  apply(
    input: Window,
    numbers: Numbers,
    region: Region,
    grids: Grids,
    tools: Tools,
  ): Raster | Promise<Raster>;
}

/**
 * One step of a treatment: a stage with what a technician chooses (`Settings`), which settling
 * turns into its numbers.
 */
export interface Step<Kind extends string, Settings, Numbers extends object> extends Stage<
  Kind,
  Numbers
> {
  /** the trade's word for it, for lists of changes and records */
  title: string;
  settings: z.ZodType<Settings>;
  defaults: Settings;
  /** Numbers for this picture and print, or null where the step has nothing to do. */
  settle(settings: Settings, context: SettleContext): Numbers | null;
  /** The step's one-line summary on the closed ticket; `strength` in %. */
  summary(settings: Settings, strength: number): string;
}
