import type { Patch } from './patches';

/** What became of a picture's tones, in shares of it. */
export interface Tones {
  /** pixels that are as dark, or as bright, as can be in every channel */
  clipped: { dark: number; bright: number };
  /** of the smooth parts, how much climbs in steps of two levels and more */
  banding: number;
}

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
      const least = Math.min(red[i]!, green[i]!, blue[i]!);
      const most = Math.max(red[i]!, green[i]!, blue[i]!);
      if (most <= 1 / 255) dark++;
      if (least >= 254 / 255) bright++;
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
