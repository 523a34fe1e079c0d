import { alignOutward, clip, grow, type Region, type Size } from '../../raster/region';
import { forward8, inverse8 } from '../transform/dct';
import { averageOverShifts, type Plane } from '../transform/shifted';

/** Pixels around a pixel that the estimate looks at: its own grid block, and shifted blocks about that. */
export const DEBLOCK_REACH = 14;

/** Blocks on the file's own grid count for so many shifted ones. */
const OWN_GRID = 4;
/** How far from the file's value a coefficient may move, in quantisation steps. */
const CONSTRAINT = 0.35;

/**
 * What a plane most likely was before an 8x8 block transform quantised it. Every one of the 64
 * shifted grids is transformed, coefficients within half a quantisation step of zero are dropped,
 * and the overlapping results averaged, blocks with fewer coefficients weighing more; then each
 * coefficient on the file's own grid is held to within a part of its step of what the file says.
 * After Nosratinia (2001), "Enhancement of JPEG-compressed images by re-application of JPEG", and
 * Guleryuz (2006) on weighted overcomplete transforms; the projection is onto the quantisation
 * constraint set.
 *
 * @param plane levels over `region` grown by DEBLOCK_REACH as far as the picture goes
 * @param table 64 quantisation steps in levels, row by row
 * @param gridX,gridY where a block of the file's grid begins, -7 to 0
 * @returns levels over `region`
 */
export function deblock(
  plane: Plane,
  region: Region,
  table: readonly number[],
  gridX: number,
  gridY: number,
): Float32Array {
  const blocks = alignToGrid(region, gridX, gridY, plane.size);
  const thresholds = table.map((step) => step / 2);
  const own = { x: gridX, y: gridY, weight: OWN_GRID };
  const estimate = averageOverShifts(plane, blocks, thresholds, own);
  project(plane, estimate, blocks, table, gridX, gridY, CONSTRAINT);
  return cutLevels(estimate, blocks, region);
}

/** The part of levels over `covered` that lies over `region`. */
export function cutLevels(levels: Float32Array, covered: Region, region: Region): Float32Array {
  const result = new Float32Array(region.width * region.height);
  for (let y = 0; y < region.height; y++) {
    const from = (region.y + y - covered.y) * covered.width + region.x - covered.x;
    for (let x = 0; x < region.width; x++) result[y * region.width + x] = levels[from + x]!;
  }
  return result;
}

/** `region` moved outward to whole blocks of the file's grid, as far as the picture goes. */
export function alignToGrid(region: Region, gridX: number, gridY: number, size: Size): Region {
  const shifted = { ...region, x: region.x - gridX, y: region.y - gridY };
  const aligned = alignOutward(shifted, 8, {
    width: size.width - gridX + 8,
    height: size.height - gridY + 8,
  });
  return clip({ ...aligned, x: aligned.x + gridX, y: aligned.y + gridY }, size);
}

/**
 * Holds every whole block of the file's own grid to what the file says of it; changes `estimate`.
 * @param constraint how far a coefficient may lie from the file's value, in its steps
 */
export function project(
  plane: Plane,
  estimate: Float32Array,
  region: Region,
  table: readonly number[],
  gridX: number,
  gridY: number,
  constraint: number,
): void {
  const { values, covered } = plane;
  const said = new Float64Array(64);
  const guess = new Float64Array(64);
  const firstX = region.x + ((((gridX - region.x) % 8) + 8) % 8);
  const firstY = region.y + ((((gridY - region.y) % 8) + 8) % 8);
  for (let y = firstY; y + 8 <= region.y + region.height; y += 8) {
    for (let x = firstX; x + 8 <= region.x + region.width; x += 8) {
      for (let j = 0; j < 8; j++) {
        const from = (y + j - covered.y) * covered.width + x - covered.x;
        const at = (y + j - region.y) * region.width + x - region.x;
        for (let i = 0; i < 8; i++) {
          said[j * 8 + i] = values[from + i]!;
          guess[j * 8 + i] = estimate[at + i]!;
        }
      }
      transform(said, forward8);
      transform(guess, forward8);
      for (let k = 0; k < 64; k++) {
        const step = table[k]!;
        const value = Math.round(said[k]! / step) * step;
        const room = constraint * step;
        guess[k] = Math.min(Math.max(guess[k]!, value - room), value + room);
      }
      transform(guess, inverse8);
      for (let j = 0; j < 8; j++) {
        const at = (y + j - region.y) * region.width + x - region.x;
        for (let i = 0; i < 8; i++) estimate[at + i] = guess[j * 8 + i]!;
      }
    }
  }
}

const turned = new Float64Array(64);

/** An 8x8 block through rows and columns, in place. */
function transform(block: Float64Array, along: typeof forward8): void {
  for (let k = 0; k < 8; k++) along(block, k * 8, 1, turned, k * 8, 1);
  for (let k = 0; k < 8; k++) along(turned, k, 8, block, k, 8);
}

/** What must be read so that `deblock` can answer for `region`. */
export const deblockInput = (region: Region, size: Size): Region =>
  grow(region, DEBLOCK_REACH, size);
