import { z } from 'zod';
import type { Patch } from './patches';

/** What became of a picture's tones, in shares of it. */
export interface Tones {
  /** pixels that are as dark, or as bright, as can be in every channel */
  clipped: { dark: number; bright: number };
  /** of the smooth parts, how much climbs in steps of two levels and more */
  banding: number;
}

const channel = z.number().min(0).max(1);
const channels = z.tuple([channel, channel, channel]);

/** The darkest and the brightest tones of each channel, 0–1, but for a thousandth of the pixels. */
export const TonePoints = z.object({ black: channels, white: channels });
export type TonePoints = z.infer<typeof TonePoints>;

/** Of a picture that uses all tones, or isn't looked at. */
export const FULL_TONES: TonePoints = { black: [0, 0, 0], white: [1, 1, 1] };

/** Share of the pixels beyond the points. */
const BEYOND = 0.001;

export function measureTonePoints(patches: readonly Patch[]): TonePoints {
  const points = [0, 1, 2].map((channel) => {
    const counts = new Float64Array(256);
    let total = 0;
    for (const { raster } of patches) {
      const plane = raster.planes[channel]!;
      total += plane.length;
      for (let i = 0; i < plane.length; i++) counts[(plane[i]! * 255 + 0.5) | 0]!++;
    }
    const passed = (from: number, by: 1 | -1): number => {
      let sum = 0;
      let at = from;
      while (at + by >= 0 && at + by <= 255 && (sum += counts[at]!) <= BEYOND * total) at += by;
      return at / 255;
    };
    return { black: passed(0, 1), white: passed(255, -1) };
  });
  const [r, g, b] = points as [(typeof points)[0], (typeof points)[0], (typeof points)[0]];
  return { black: [r.black, g.black, b.black], white: [r.white, g.white, b.white] };
}

/** What is as dark, or as bright, as can be. */
const [DARK, BRIGHT] = [1 / 255, 254 / 255];

const BLOCK = 16;
/** A smooth part changes by at least so many levels, and by no more. */
const LEAST = 3;
const MOST = 28;

export function measureTones(patches: readonly Patch[]): Tones {
  let dark = 0;
  let bright = 0;
  let count = 0;
  let smooth = 0;
  let banded = 0;
  for (const patch of patches) {
    const [red, green, blue] = patch.raster.planes as [Float32Array, Float32Array, Float32Array];
    for (let i = 0; i < red.length; i++) {
      const r = red[i]!;
      const g = green[i]!;
      const b = blue[i]!;
      if (r <= DARK && g <= DARK && b <= DARK) dark++;
      else if (r >= BRIGHT && g >= BRIGHT && b >= BRIGHT) bright++;
    }
    count += red.length;
    for (let y = 0; y + BLOCK <= patch.height; y += BLOCK) {
      for (let x = 0; x + BLOCK <= patch.width; x += BLOCK) {
        const found = stepsOf(patch, x, y);
        if (found === null) continue;
        smooth++;
        if (found) banded++;
      }
    }
  }
  return {
    clipped: { dark: dark / count, bright: bright / count },
    banding: smooth < 8 ? 0 : banded / smooth,
  };
}

/** Whether a smooth block climbs in visible steps; null where it isn't smooth. */
function stepsOf({ luma, width }: Patch, x: number, y: number): boolean | null {
  let least = Infinity;
  let most = -Infinity;
  let level = 0;
  let single = 0;
  let steps = 0;
  for (let v = y; v < y + BLOCK; v++) {
    for (let u = x; u < x + BLOCK; u++) {
      const value = luma[v * width + u]!;
      if (value < least) least = value;
      if (value > most) most = value;
      if (u === x) continue;
      const difference = Math.abs(value - luma[v * width + u - 1]!);
      if (difference > MOST / 2) return null;
      if (difference < 0.2) level++;
      else if (difference < 1.6) single++;
      else steps++;
    }
  }
  if (most - least < LEAST || most - least > MOST) return null;
  const all = level + single + steps;
  return level > 0.7 * all && steps > 2 * single;
}
