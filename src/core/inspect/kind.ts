import { z } from 'zod';
import type { Patch } from './patches';
import { smallDrawing } from './small-drawing';

/** What a picture is, as far as it matters for how it is treated. */
export const Kind = z.enum(['photograph', 'flat artwork', 'line art', 'pixel squares', 'mixed']);
export type Kind = z.infer<typeof Kind>;

export interface KindFinding {
  kind: Kind;
  /** one plain sentence */
  reason: string;
}

type Look = 'plain' | 'drawn' | 'photographic';

const BLOCK = 8;

/** On smaller pictures, longest side in pixels, hardly a block is plain: they are looked at pixel by pixel. */
const SMALL = 256;
/** … and larger ones, of which no pixel is repeated, were not made pixel by pixel. */
const BY_PIXELS = 160;

/** Neighbouring still blocks of a drawing are alike; those of a sky drift by so many levels. */
const DRIFT = { least: 0.6, most: 8 } as const;

/** What a patch looks like: nothing, plain areas with edges between them, or a gradual picture. */
function lookOf(patch: Patch, noise: number): Look {
  const { width, height } = patch;
  const still = 5 + 3 * noise;
  const columns = Math.floor(width / BLOCK);
  const rows = Math.floor(height / BLOCK);
  /** mean of a still block, or NaN */
  const means = new Float64Array(columns * rows).fill(NaN);
  let twoToned = 0;
  let gradual = 0;
  for (let row = 0; row < rows; row++) {
    for (let column = 0; column < columns; column++) {
      const found = blockOf(patch, column * BLOCK, row * BLOCK, still);
      if (typeof found === 'number') means[row * columns + column] = found;
      else if (found === 'two-toned') twoToned++;
      else gradual++;
    }
  }
  const { alike, drifting } = neighbours(means, columns);
  const blocks = columns * rows;
  if (drifting > alike && drifting > 0.3 * blocks) return 'photographic';
  if (twoToned + gradual < 0.03 * blocks) return 'plain';
  const even = alike > 3 * drifting && alike > 0.5 * blocks;
  return gradual < 0.3 * blocks && (twoToned > 0.5 * gradual || even) ? 'drawn' : 'photographic';
}

/** A still block's mean; otherwise whether its tones lie at two ends, or all between. */
function blockOf(
  { luma, width }: Patch,
  x: number,
  y: number,
  still: number,
): number | 'two-toned' | 'gradual' {
  let least = Infinity;
  let most = -Infinity;
  let sum = 0;
  for (let v = y; v < y + BLOCK; v++) {
    for (let u = x; u < x + BLOCK; u++) {
      const value = luma[v * width + u]!;
      sum += value;
      if (value < least) least = value;
      if (value > most) most = value;
    }
  }
  const range = most - least;
  if (range < still) return sum / (BLOCK * BLOCK);
  if (range <= 48) return 'gradual';
  const margin = Math.max(0.2 * range, still);
  let atEnds = 0;
  for (let v = y; v < y + BLOCK; v++) {
    for (let u = x; u < x + BLOCK; u++) {
      const value = luma[v * width + u]!;
      if (value < least + margin || value > most - margin) atEnds++;
    }
  }
  return atEnds > 0.72 * BLOCK * BLOCK ? 'two-toned' : 'gradual';
}

/** Pairs of neighbouring still blocks that are alike, and that drift. */
function neighbours(means: Float64Array, columns: number): { alike: number; drifting: number } {
  let alike = 0;
  let drifting = 0;
  for (let i = 0; i < means.length; i++) {
    for (const j of [(i + 1) % columns === 0 ? -1 : i + 1, i + columns]) {
      const difference = j < 0 || j >= means.length ? NaN : Math.abs(means[i]! - means[j]!);
      if (difference < DRIFT.least) alike++;
      else if (difference < DRIFT.most) drifting++;
    }
  }
  return { alike, drifting };
}

/** Colours on a coarse cube of 16 levels a channel, with how many pixels each has. */
function colours(patches: readonly Patch[]) {
  const counts = new Float64Array(4096);
  let count = 0;
  for (const { raster } of patches) {
    const [red, green, blue] = raster.planes as [Float32Array, Float32Array, Float32Array];
    for (let i = 0; i < red.length; i += 3) {
      const at = (step(red[i]!) << 8) | (step(green[i]!) << 4) | step(blue[i]!);
      counts[at]!++;
      count++;
    }
  }
  const shares = Array.from(counts, (n) => n / count).sort((a, b) => b - a);
  let covered = 0;
  let needed = 0;
  while (needed < shares.length && covered < 0.9) covered += shares[needed++]!;
  return { needed, first: shares[0]!, second: shares[1]! };
}

const step = (value: number): number => Math.min(15, Math.max(0, Math.floor(value * 15.999)));

/** Mean colourfulness of what isn't near grey, in levels of colour difference. */
function colourfulness(patches: readonly Patch[]): number {
  let sum = 0;
  let count = 0;
  for (const { cb, cr } of patches) {
    for (let i = 0; i < cb.length; i += 5) sum += Math.abs(cb[i]!) + Math.abs(cr[i]!);
    count += Math.ceil(cb.length / 5);
  }
  return sum / count;
}

/**
 * Says what a picture is by how its parts look: plain areas that meet at edges, or tones that
 * change gradually.
 * @param grid the true grid where pixels are repeated
 */
export function kindOf(
  patches: readonly Patch[],
  noise: number,
  size: { width: number; height: number },
  grid: { width: number; height: number } | null,
): KindFinding {
  const palette = colours(patches);
  if (grid) {
    return {
      kind: 'pixel squares',
      reason: `Every pixel of a ${grid.width} x ${grid.height} grid is repeated.`,
    };
  }
  const small = Math.max(size.width, size.height) <= SMALL ? smallDrawing(patches) : null;
  if (small?.byPixels && Math.max(size.width, size.height) <= BY_PIXELS) {
    return {
      kind: 'pixel squares',
      reason: `${size.width} x ${size.height} pixels in ${small.colours} colours: each is meant to be seen.`,
    };
  }
  if (small?.drawn) return drawnKind(palette, patches);
  const looks = patches.map((patch) => lookOf(patch, noise));
  const drawn = looks.filter((look) => look === 'drawn').length;
  const photographic = looks.filter((look) => look === 'photographic').length;
  const share = drawn + photographic === 0 ? 1 : drawn / (drawn + photographic);
  const percent = Math.round(share * 100);
  if (share < 0.25) {
    return { kind: 'photograph', reason: 'Tones change gradually nearly everywhere.' };
  }
  if (share < 0.7 || palette.needed > 160) {
    return {
      kind: 'mixed',
      reason: `${percent} % of it is drawn with edges between plain areas, the rest changes gradually.`,
    };
  }
  return drawnKind(palette, patches);
}

/** Which kind of drawing it is. */
function drawnKind(palette: ReturnType<typeof colours>, patches: readonly Patch[]): KindFinding {
  const onPaper = palette.first > 0.55 && palette.first + palette.second > 0.7;
  if (onPaper && palette.needed <= 10 && colourfulness(patches) < 18) {
    return { kind: 'line art', reason: 'Strokes or letters of few tones on an even ground.' };
  }
  return {
    kind: 'flat artwork',
    reason: `Plain areas that meet at edges, in about ${palette.needed} colours.`,
  };
}
