import { z } from 'zod';
import { LEVEL } from '../raster/samples';

/** The most that an overshoot limit allows, in levels. */
export const OVERSHOOT_MOST = 64;
/** The widest neighbourhood whose range a pixel is held to, in pixels to every side. */
export const REACH_MOST = 32;

const levels = z.number().min(0).max(OVERSHOOT_MOST);

/** What keeps sharpening from being overdone, for all steps of a trial. */
export const Guards = z.object({
  /** whether pixels are held to the range of their neighbourhood */
  limited: z.boolean(),
  /** how far a pixel may become lighter than all about it were before the step, in levels */
  light: levels,
  /** … and darker */
  dark: levels,
  /** what is left alone: flat areas, tones of skin away from edges, and what is soft on purpose */
  flat: z.boolean(),
  skin: z.boolean(),
  soft: z.boolean(),
});
export type Guards = z.infer<typeof Guards>;

/** What works began with before there were guards. */
export const NO_GUARDS: Guards = {
  ...{ limited: false, light: 8, dark: 12 },
  ...{ flat: false, skin: false, soft: false },
};

/** What a new trial begins with: a light rim shows more than a dark one. */
export const USUAL_GUARDS: Guards = {
  ...{ limited: true, light: 8, dark: 12 },
  ...{ flat: true, skin: true, soft: true },
};

/** An overshoot limit once nothing is left to decide. */
export const OvershootLimit = z.object({
  /** pixels to every side whose range counts, on the grid where the step stands */
  reach: z.int().min(1).max(REACH_MOST),
  /** on the 0–1 scale */
  light: z.number().min(0),
  dark: z.number().min(0),
});
export type OvershootLimit = z.infer<typeof OvershootLimit>;

/**
 * The limit of a step that looks so far about a pixel.
 * @param neighbourhood pixels of its grid
 */
export function limitOf(
  { limited, light, dark }: Guards,
  neighbourhood: number,
): OvershootLimit | undefined {
  if (!limited) return undefined;
  const reach = Math.min(REACH_MOST, Math.max(1, Math.ceil(neighbourhood)));
  return { reach, light: light * LEVEL, dark: dark * LEVEL };
}

/** Pixels of the original to every side whose range an enlargement is held to. */
const ENLARGED_REACH = 2;

/** The limit of an enlargement. */
export const enlargedLimit = (guards: Guards): OvershootLimit | undefined =>
  limitOf(guards, ENLARGED_REACH);

/** The same for a picture `scale` times as large. */
export const scaledLimit = (limit: OvershootLimit, scale: number): OvershootLimit => ({
  ...limit,
  reach: Math.max(1, Math.round(limit.reach * scale)),
});
