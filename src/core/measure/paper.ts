import { z } from 'zod';
import { Length } from './units';

/**
 * How a picture meets a paper of another shape: filling it and losing a part, whole with margins,
 * or distorted.
 */
export const Fit = z.enum(['crop', 'margin', 'stretch']);
export type Fit = z.infer<typeof Fit>;

/**
 * What bleeds beyond the trim: more of the picture where there is more (mirrored where it ends), its
 * rim mirrored, its outermost pixels drawn out, or the paper's colour.
 */
export const BleedFill = z.enum(['picture', 'mirror', 'rim', 'colour']);
export type BleedFill = z.infer<typeof BleedFill>;

/** A colour as #rrggbb, in the picture's own profile. */
export const Colour = z.string().regex(/^#[0-9a-f]{6}$/, 'A colour such as #ffffff.');
export type Colour = z.infer<typeof Colour>;

/** The widest bleed, in millimetres. */
export const BLEED_LIMIT = 200;

/** How much smaller or larger a part than `fit` says. */
export const ZOOM = { least: 0.05, most: 50 } as const;

/**
 * Where the paper lies on the picture. `x`, `y`: shares of what is left over, 0 at the left or top,
 * 1 at the right or bottom. `zoom`: 1 as `fit` says; above it a smaller part of the picture, below
 * it a larger one, with margins where the picture ends.
 */
export const Place = z.object({
  x: z.number().min(0).max(1),
  y: z.number().min(0).max(1),
  zoom: z.number().min(ZOOM.least).max(ZOOM.most),
});
export type Place = z.infer<typeof Place>;

/** The ordered paper: one side may be left open and then follows the picture's shape. */
export const Paper = z.object({
  /** finished size, after trimming */
  width: Length.nullable(),
  height: Length.nullable(),
  fit: Fit,
  place: Place,
  /** of margins, of coloured bleed, and under transparent parts */
  colour: Colour,
  bleed: z.object({
    /** on every side, in millimetres */
    mm: z.number().min(0).max(BLEED_LIMIT),
    fill: BleedFill,
  }),
  /** nothing of importance nearer to the trim than this, in millimetres; only shown */
  safe: z.number().min(0).max(500),
});
export type Paper = z.infer<typeof Paper>;

/** Paper as it is before anybody decided about it. */
export const OPEN_PAPER: Paper = {
  width: null,
  height: null,
  fit: 'crop',
  place: { x: 0.5, y: 0.5, zoom: 1 },
  colour: '#ffffff',
  bleed: { mm: 0, fill: 'picture' },
  safe: 0,
};
