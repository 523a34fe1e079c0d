import type { Region } from '../../raster/region';
import { averageOverShifts, type Plane } from '../transform/shifted';
import { alignToGrid, cutLevels, project } from './deblock';
import { guided } from './guided';

/** Coefficients below this part of their step are dropped. */
const THRESHOLD = 0.4;
const OWN_GRID = 2;
/** Share of what luminance says of colour in the estimate. */
const GUIDED_SHARE = 0.6;
const CONSTRAINT = 0.4;

/** The first step of a table from which on luminance is believed as far as it ever is, in levels. */
const COARSE_STEP = 14;

/** How far luminance is believed about colour, 0–1: the less, the finer colour itself was kept. */
export const trustInLuma = (table: readonly number[]): number =>
  Math.min(1, (table[1]! * table[1]!) / (COARSE_STEP * COARSE_STEP));

/** Colour samples as they most likely were, and how they follow luminance there. */
export interface CleanedColour {
  samples: Float32Array;
  /** change of colour with luminance */
  slope: Float32Array;
}

/**
 * Colour differences are quantised so coarsely that little of their own is left to go by. Where they
 * follow luminance, which is kept finer, that tells where they change; the rest is averaged over
 * shifted grids, and both are held to what the file says.
 *
 * @param plane colour samples over `region` grown by DEBLOCK_REACH as far as they go; blocks begin
 * at sample 0
 * @param guide luminance of the same samples
 * @param table 64 quantisation steps in levels
 */
export function deblockColour(
  plane: Plane,
  guide: Float32Array,
  region: Region,
  table: readonly number[],
): CleanedColour {
  const { covered, size } = plane;
  const blocks = alignToGrid(region, 0, 0, size);
  const thresholds = table.map((step) => step * THRESHOLD);
  const estimate = averageOverShifts(plane, blocks, thresholds, { x: 0, y: 0, weight: OWN_GRID });
  const share = GUIDED_SHARE * trustInLuma(table);
  const { slope, level } = guided(plane, guide, blocks);
  for (let y = 0, i = 0; y < blocks.height; y++) {
    let at = (blocks.y + y - covered.y) * covered.width + blocks.x - covered.x;
    for (let x = 0; x < blocks.width; x++, i++, at++) {
      const followed = slope[i]! * guide[at]! + level[i]!;
      estimate[i]! += share * (followed - estimate[i]!);
    }
  }
  project(plane, estimate, blocks, table, 0, 0, CONSTRAINT);
  return {
    samples: cutLevels(estimate, blocks, region),
    slope: cutLevels(slope, blocks, region),
  };
}
