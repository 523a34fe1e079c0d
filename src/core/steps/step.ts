import type { EarlierBlocks } from '../inspect/earlier-blocks';
import type { z } from 'zod';
import type { Blur, Findings } from '../inspect/findings';
import type { Ground } from '../inspect/grounds';
import type { History } from '../inspect/history';
import type { JpegFacts } from '../inspect/jpeg';
import type { Noise } from '../inspect/noise';
import type { TonePoints } from '../inspect/tones';
import type { ModelName } from '../learned/models';
import type { Network } from '../learned/network';
import type { Framing } from '../frame/framing';
import type { Region, Size } from '../raster/region';
import type { Raster, Window } from '../raster/raster';
import type { PrintPlan } from '../measure/plan';
import { type Form } from '../raster/form';

/**
 * Where in the order of the work something stands: on the original's untouched grid (the ticket's
 * Clean), as the one resampling (Enlarge), on the target's grid (Finish), or laying the finished
 * picture on its sheet. The trade fixes this order.
 */
export type Phase = 'original' | 'enlarge' | 'target' | 'sheet';

/** A step of another trial, resolved: as far as it can be told without knowing all steps. */
export interface ResolvedStep {
  kind: string;
  strength: number;
  numbers: Record<string, unknown>;
  [more: string]: unknown;
}

/** What a step may look at when its automatic choices are turned into numbers. */
export interface ResolveContext {
  /** size of the original's grid, once repeated pixels are taken back */
  original: Size;
  jpeg: JpegFacts | null;
  /** of earlier compression, where it was coarser than what the file says of itself */
  blocks: EarlierBlocks | null;
  noise: Noise;
  /** what happened to it before it came, as a network tells it; null where that isn't known */
  history: History | null;
  tones: TonePoints;
  /** flat colours that a drawing lies on */
  grounds: readonly Ground[];
  /** how its sharp parts are blurred, on its own grid; null where that can't be told */
  blur: Blur | null;
  /** digests of the models that can be used; null where one is missing */
  models: Record<ModelName, string | null>;
  framing: Framing;
  plan: PrintPlan;
  /** how far the viewer stands, in metres */
  distance: number;
  /** what is printed on, by its name in the shop's list */
  material: string | null;
  /** the steps of another trial, as far as they lead to a picture of this size; null where it is gone */
  trialSteps(id: string): ResolvedStep[] | null;
  /** where the step stands */
  phase: Phase;
}

/** Grids on both sides of a stage; they differ where pixels are made anew. */
export interface Grids {
  from: Size;
  to: Size;
}

/** Whatever a recipe may hold: its numbers, and how they follow from a change of size. */
export interface Numbered<Kind extends string, Numbers extends object> {
  kind: Kind;
  /** where it may stand */
  phases: readonly Phase[];
  numbers: z.ZodType<Numbers>;
  /** The same for a result `scale` times as large (below 1: a small rendering). */
  scaled(numbers: Numbers, scale: number): Numbers;
  /**
   * The same on an original that is reduced to `scale` (below 1) for looking at it from far away;
   * absent where nothing of it is seen from there.
   */
  proxy?(numbers: Numbers, scale: number): Numbers;
  /** Size of the result, given the size of the input. */
  size(numbers: Numbers, from: Size): Size;
  /** What the result holds, given what the input does; the same unless it is said. */
  form?(numbers: Numbers, from: Form): Form;
  /**
   * Microseconds that a pixel of the result takes, on the two cores of the machine that docs/figures.md
   * was measured on. Other machines are told by how their runs compare with it.
   */
  cost(numbers: Numbers): number;
}

/** A coarser form of a stage's input that it looks at from farther away than at the input itself. */
export interface Reduction<Numbers extends object> {
  /** pixels of the input, along each axis, to one of the reduced grid; 0 where none is needed */
  factor(numbers: Numbers): number;
  size(numbers: Numbers, from: Size): Size;
  /** The part of the input that `region` of the reduced grid needs. */
  inputRegion(numbers: Numbers, region: Region, grids: Grids): Region;
  /** Computes `region` of the reduced grid from a window that covers at least its `inputRegion`. */
  apply(input: Window, numbers: Numbers, region: Region, grids: Grids): Raster;
  /** what the reduced grid holds */
  form: Form;
  /** The part of the reduced grid that `region` of the stage's result needs. */
  neededBy(numbers: Numbers, region: Region, grids: Grids): Region;
}

/** What a stage may use besides its input. */
export interface Beside {
  /** @throws ModelProblem where the model of that digest is missing or damaged */
  network(digest: string): Promise<Network>;
  /** the picture without any treatment, over the stage's input region; of stages that say so */
  untreated?: Window;
  /** the reduced input, over what `neededBy` says; of stages that have a reduction */
  reduced?: Window;
}

/**
 * What computes pixels once nothing automatic remains; `Numbers` is described by a Zod schema.
 *
 * `apply` is a pure function of its windows: it must not look beyond `inputRegion(region)`, and the
 * value of a pixel must not depend on how the picture was cut into regions. Tests hold every stage to it.
 */
export interface Stage<Kind extends string, Numbers extends object> extends Numbered<
  Kind,
  Numbers
> {
  /** The part of the input that is needed for `region` of the result. */
  inputRegion(numbers: Numbers, region: Region, grids: Grids): Region;
  /**
   * That it is given luminance alone, one plane, and changes that: R, G and B then gain alike, so that hues stay. It is
   * given all colours unless this is said.
   */
  changes?: 'luminance';
  /** whether it looks at the untreated picture too, over the same region as at its input */
  looksAtUntreated?(numbers: Numbers): boolean;
  /** keeps the cost of a wide reach low: what lies far away is looked at coarsely, and reduced once */
  reduction?: Reduction<Numbers>;
  /**
   * Pixels to every side whose range its result is held to by the overshoot limit, besides what a pixel of the
   * original covers; of stages that sharpen. Absent where it is meant to leave that range.
   */
  neighbourhood?(numbers: Numbers): number;
  /** what can be looked at while it is set, such as the layer that it lays over: its name, and numbers that give it */
  layer?: { title: string; numbers(numbers: Numbers): Numbers };
  /** whether its result is rounded to numbers of 16 bits (raster/fixed.ts), so that it takes half the room on disk */
  fixed?: true;
  /** the longest side of the blocks that it is best computed in; 512 unless it is said */
  block?: number;
  /** Computes `region` of the result from a window that covers at least `inputRegion(region)`. */
  apply(
    input: Window,
    numbers: Numbers,
    region: Region,
    grids: Grids,
    beside: Beside,
  ): Raster | Promise<Raster>;
}

/** How one setting of a step is drawn, as data: the interface knows the forms, a step its own. */
export type Control<Settings> = ControlForm<Settings> & {
  /** whether it means anything beside the other settings; always unless it is said */
  shown?: (settings: Settings) => boolean;
};

type ControlForm<Settings> =
  | {
      form: 'slider';
      setting: keyof Settings & string;
      label: string;
      min: number;
      max: number;
      step: number;
      unit: string;
      /** what "automatic" comes to, where the application can decide */
      automatic?: (found: Findings, settings: Settings) => number;
    }
  | {
      /** a length in mm on paper or in pixels of the result, as another setting says */
      form: 'length';
      setting: keyof Settings & string;
      unitSetting: keyof Settings & string;
      label: string;
      /** 0.01 unless it is said */
      least?: number;
      most: { px: number; mm: number };
    }
  | {
      form: 'choice';
      setting: keyof Settings & string;
      label: string;
      options: readonly { value: string; label: string }[];
      /** the model that an option needs */
      needs?: { option: string; model: ModelName };
    };

/** What a technician may put into a treatment: its settings, and how they are chosen, drawn and said. */
export interface Choosable<Kind extends string, Settings> {
  kind: Kind;
  /** the trade's word for it, for lists of changes and records */
  title: string;
  /** what it is for, in one line */
  blurb: string;
  /** steps of one section are usually done in the order of their ranks */
  rank: number;
  phases: readonly Phase[];
  settings: z.ZodType<Settings>;
  defaults: Settings;
  /** what its settings are drawn as, in the order in which they matter */
  controls: readonly Control<Settings>[];
  /** what its settings belong to, so that they can't be kept for other pictures, or outside this work */
  belongsTo?: 'picture' | 'work';
  /** whether nothing is left for it where repeated pixels were taken back to their true grid */
  restsOnGrid?: boolean;
  /** its settings in one line, beside its title; `strength` in % */
  summary(settings: Settings, strength: number): string;
  /** how much of it there is, in %, where that says more than its strength */
  share?(settings: Settings, strength: number): number | null;
}

/** What a listed step comes to. */
export interface Resolvable<Settings, Numbers extends object> {
  /** Numbers for this picture and print, or null where the step has nothing to do. */
  resolve(settings: Settings, context: ResolveContext): Numbers | null;
}

/** One step of a treatment: a stage with what a technician chooses, which is resolved to its numbers. */
export type Step<Kind extends string, Settings, Numbers extends object> = Stage<Kind, Numbers> &
  Choosable<Kind, Settings> &
  Resolvable<Settings, Numbers>;
