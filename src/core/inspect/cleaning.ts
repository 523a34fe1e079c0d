import { toYCbCr } from '../raster/colour';
import type { Region, Size } from '../raster/region';
import type { Source } from '../raster/source';
import { measureBlocking } from './blocking';
import { measureNoise } from './noise';
import { PATCH, type Patch } from './patches';

/** What cleaning did, by the findings' own measures on the same places. */
export interface CleaningFigures {
  before: { blocks: number; noise: number };
  after: { blocks: number; noise: number };
  /** strength of the strongest tenth of luminance's slopes that is left, in % */
  detailKept: number;
}

/** Places looked at, across and down: enough to judge by, few enough to be quick. */
const ACROSS = 4;
const DOWN = 3;

function places({ width, height }: Size): Region[] {
  const side = { width: Math.min(PATCH, width), height: Math.min(PATCH, height) };
  // On the grid of blocks, so that places begin alike.
  const at = (i: number, count: number, room: number) =>
    8 * Math.floor((room * (i + 0.5)) / count / 8);
  const columns = Math.max(1, Math.min(ACROSS, Math.floor(width / PATCH)));
  const rows = Math.max(1, Math.min(DOWN, Math.floor(height / PATCH)));
  return Array.from({ length: columns * rows }, (_, i) => ({
    x: at(i % columns, columns, width - side.width),
    y: at(Math.floor(i / columns), rows, height - side.height),
    ...side,
  }));
}

async function patchesOf(picture: Pick<Source, 'size' | 'read'>): Promise<Patch[]> {
  const patches: Patch[] = [];
  for (const place of places(picture.size)) {
    const raster = await picture.read(place);
    const { y: luma, cb, cr } = toYCbCr(raster);
    patches.push({ ...place, raster, luma, cb, cr });
  }
  return patches;
}

/** What was found of a whole picture. */
export type Found = CleaningFigures['before'];

/**
 * Blocking and noise before and after cleaning, and how much of the strongest slopes, which are
 * edges rather than noise, is left. What is measured at a few places is told of the whole picture in proportion, so that
 * a figure means the same here as where it was found.
 * @param found of the whole picture, before
 */
export async function measureCleaning(
  before: Pick<Source, 'size' | 'read'>,
  after: Pick<Source, 'size' | 'read'>,
  found: Found,
  ownGrid?: { x: number; y: number },
): Promise<CleaningFigures> {
  const [first, second] = [await patchesOf(before), await patchesOf(after)];
  const figures = (patches: Patch[]): Found => ({
    blocks: measureBlocking(patches, ownGrid).strength,
    noise: measureNoise(patches).luma,
  });
  const [here, left] = [figures(first), figures(second)];
  const ofAll = (name: keyof Found): number =>
    here[name] > 0 ? (found[name] * left[name]) / here[name] : left[name];
  return {
    before: found,
    after: { blocks: Math.round(ofAll('blocks')), noise: ofAll('noise') },
    detailKept: detailKept(first, second),
  };
}

/** Slopes of the strongest tenth before, and what the same places have after, in %. */
function detailKept(before: readonly Patch[], after: readonly Patch[]): number {
  const slopes = before.map(slopesOf);
  const all = Float32Array.from(slopes.flatMap((plane) => [...plane])).sort();
  const strong = all[Math.floor(0.9 * all.length)] ?? 0;
  let was = 0;
  let is = 0;
  after.forEach((patch, k) => {
    const now = slopesOf(patch);
    slopes[k]!.forEach((slope, i) => {
      if (slope < strong) return;
      was += slope;
      is += Math.min(slope, now[i]!);
    });
  });
  return was === 0 ? 100 : (100 * is) / was;
}

/** Slopes over two pixels, which single wrong pixels and the finest grain hardly sway. */
function slopesOf({ luma, width, height }: Patch): Float32Array {
  const slopes = new Float32Array(width * height);
  for (let y = 2; y < height - 2; y++)
    for (let x = 2; x < width - 2; x++) {
      const i = y * width + x;
      slopes[i] = Math.hypot(
        luma[i + 1]! + luma[i + 2]! - luma[i - 1]! - luma[i - 2]!,
        luma[i + width]! + luma[i + 2 * width]! - luma[i - width]! - luma[i - 2 * width]!,
      );
    }
  return slopes;
}
