import type { Raster } from '../raster/raster';
import { Sets } from '../raster/sets';
import type { Patch } from './patches';

/** Neighbours that differ by no more, in levels, belong to one area; fewer pixels than this are none. */
const ALIKE = 3;
const LEAST = 6;
/** A mixture lies so near to the line between two areas' colours, in levels, which differ by so much themselves. */
const NEAR = 6;
const APART = 20;
/** … and they lie so near to it, in pixels. */
const REACH = 2;
/** Of a drawing no more than this share are neither, and its commonest colours, so many, are at least this share. */
const OTHERS = 0.25;
const COMMONEST = { count: 8, share: 0.35 } as const;
/**
 * Pixels that each are meant to be seen have no more colours than this, on a picture of so few pixels a side somewhat more: a
 * larger one with a palette is a drawing whose edges were made smooth, such as a sign from a web page.
 */
const PALETTE = { few: 16, more: 64, side: 64 } as const;

/** What tells small drawings from small photographs. */
export interface SmallDrawing {
  /** how many colours there are */
  colours: number;
  /** whether most of it is areas of few colours and the mixtures along their edges */
  drawn: boolean;
  /** whether it has the few colours of a picture that was made pixel by pixel, which has no mixtures */
  byPixels: boolean;
}

/**
 * How a small picture was made, where no block is plain: of a drawing most pixels belong to areas of one colour or are
 * mixtures of two of them, and few colours make up much of it. After lossy compression nothing tells.
 */
export function smallDrawing(patches: readonly Patch[]): SmallDrawing {
  const colours = new Map<number, number>();
  let [others, count] = [0, 0];
  for (const { raster } of patches) {
    const levels = raster.planes.slice(0, 3).map((plane) => plane.map((v) => Math.round(v * 255)));
    const [red, green, blue] = levels as [Float32Array, Float32Array, Float32Array];
    for (let i = 0; i < red.length; i++) {
      const colour = (red[i]! << 16) | (green[i]! << 8) | blue[i]!;
      colours.set(colour, (colours.get(colour) ?? 0) + 1);
    }
    others += othersIn(raster, levels);
    count += red.length;
  }
  const side = Math.max(
    ...patches.map(({ x, y, width, height }) => Math.max(x + width, y + height)),
  );
  const commonest = [...colours.values()].sort((a, b) => b - a).slice(0, COMMONEST.count);
  const share = commonest.reduce((sum, pixels) => sum + pixels, 0) / count;
  return {
    colours: colours.size,
    drawn: others < OTHERS * count && share > COMMONEST.share,
    byPixels: colours.size <= (side <= PALETTE.side ? PALETTE.more : PALETTE.few),
  };
}

/** How many pixels belong to no area and are no mixture. */
function othersIn({ width, height }: Raster, levels: readonly Float32Array[]): number {
  const apart = (a: number, b: number): number =>
    Math.max(...levels.map((plane) => Math.abs(plane[a]! - plane[b]!)));
  const sets = new Sets(width * height);
  for (let i = 0; i < width * height; i++) {
    if (i % width > 0 && apart(i, i - 1) <= ALIKE) sets.join(i, i - 1);
    if (i >= width && apart(i, i - width) <= ALIKE) sets.join(i, i - width);
  }
  const areas = Int32Array.from({ length: width * height }, (_, i) => sets.root(i));
  const sizes = new Int32Array(width * height);
  for (const area of areas) sizes[area]!++;
  let others = 0;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const at = y * width + x;
      if (sizes[areas[at]!]! >= LEAST) continue;
      const about = new Map<number, number>();
      for (let v = Math.max(0, y - REACH); v <= Math.min(height - 1, y + REACH); v++)
        for (let u = Math.max(0, x - REACH); u <= Math.min(width - 1, x + REACH); u++) {
          const area = areas[v * width + u]!;
          if (sizes[area]! >= LEAST && !about.has(area)) about.set(area, v * width + u);
        }
      if (!isMixture(levels, at, [...about.values()])) others++;
    }
  return others;
}

/** Whether a pixel is a mixture of two others. */
function isMixture(levels: readonly Float32Array[], at: number, of: readonly number[]): boolean {
  return of.some((a, i) =>
    of.slice(i + 1).some((b) => {
      const line = levels.map((plane) => plane[b]! - plane[a]!);
      const own = levels.map((plane) => plane[at]! - plane[a]!);
      const length = line.reduce((sum, value) => sum + value * value, 0);
      if (length < APART * APART) return false;
      const along = line.reduce((sum, value, c) => sum + value * own[c]!, 0) / length;
      const share = Math.min(1, Math.max(0, along));
      return line.every((value, c) => Math.abs(own[c]! - share * value) <= NEAR);
    }),
  );
}
