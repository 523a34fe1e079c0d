import type { z } from 'zod';
import type { JpegFacts } from '../inspect/jpeg';
import type { Region, Size } from '../raster/region';
import type { Raster, Window } from '../raster/raster';
import type { PrintPlan } from '../measure/plan';

/**
 * Where in the order of the work a step stands: on the original's untouched grid, as the one
 * resampling, or on the target's grid. The trade fixes this order.
 */
export type Phase = 'original' | 'enlarge' | 'target';

/** What a step may look at when its automatic choices are turned into numbers. */
export interface SettleContext {
  original: Size;
  jpeg: JpegFacts | null;
  plan: PrintPlan;
}

/** Grids on both sides of a step; they differ for the enlargement alone. */
export interface Grids {
  from: Size;
  to: Size;
}

/**
 * One step of a treatment. `Settings` is what a technician chooses, `Numbers` what is left once
 * nothing automatic remains; both are described by Zod schemas, from which all types follow.
 *
 * `apply` is a pure function of its window: it must not look beyond `pull(region)`, and the value
 * of a pixel must not depend on how the picture was cut into regions. Tests hold every step to it.
 */
export interface Step<Kind extends string, Settings, Numbers extends object> {
  kind: Kind;
  /** the trade's word for it, for lists of changes and records */
  title: string;
  phase: Phase;
  settings: z.ZodType<Settings>;
  numbers: z.ZodType<Numbers>;
  defaults: Settings;
  /** Numbers for this picture and print, or null where the step has nothing to do. */
  settle(settings: Settings, context: SettleContext): Numbers | null;
  /** The same treatment for a result `scale` times as large (below 1: a small rendering). */
  scaled(numbers: Numbers, scale: number): Numbers;
  /** Size of the step's result, given the size of its input. */
  size(numbers: Numbers, from: Size): Size;
  /** The part of the input that is needed for `region` of the result. */
  pull(numbers: Numbers, region: Region, grids: Grids): Region;
  /** Computes `region` of the result from a window that covers at least `pull(region)`. */
  apply(input: Window, numbers: Numbers, region: Region, grids: Grids): Raster;
  /** The step's one-line summary on the closed ticket; `strength` in %. */
  summary(settings: Settings, strength: number): string;
}
