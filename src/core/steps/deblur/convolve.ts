import { LRUCache } from 'lru-cache';
import { copyRun, rowStart } from '../../raster/raster';
import { grow, type Region, type Size } from '../../raster/region';
import { scratchLayout, scratchMemory, SPARE, type ScratchMemory } from '../../raster/rows';
import { factorsOf, type Factor } from './factors';
import type { Taps } from './point-spread';

/** What of the weights may be left out, altogether: a fifth of a level where all is black and white. */
const REST = 8e-4;

const factored = new LRUCache<Taps, { factors: Factor[] | null }>({ max: 8 });

function factorsIn(taps: Taps): Factor[] | null {
  let known = factored.get(taps);
  if (!known) factored.set(taps, (known = { factors: factorsOf(taps, REST) }));
  return known.factors;
}

/** Computes a row of results, at a place in floats, from rows of values whose upper left corner is at another. */
type Row = (memory: ScratchMemory, out: number, corner: number) => void;

/** How rows lie in scratch memory. */
interface Lines {
  /** floats from one row to the next, and results in a row: multiples of 16 */
  stride: number;
  lanes: number;
  allocate: (floats: number) => number;
}

/**
 * A plane convolved with square weights; beyond the picture its rim is repeated.
 * @param luma over `covered`, which holds `region` and half a side to every side as far as the picture goes
 */
export function convolved(
  luma: Float32Array,
  covered: Region,
  region: Region,
  size: Size,
  taps: Taps,
): Float32Array {
  const reach = (taps.side - 1) / 2;
  const rows = region.height + 2 * reach;
  const lanes = Math.ceil(region.width / 16) * 16;
  const stride = Math.ceil((lanes + 2 * reach) / 16) * 16;
  const allocate = scratchLayout();
  const [values, out] = [allocate(rows * stride), allocate(lanes)];
  const lines = { stride, lanes, allocate };
  const factors = factorsIn(taps);
  const begin = factors ? byFactors(factors, reach, lines) : bySquare(taps, lines);
  const memory = scratchMemory((allocate(SPARE) + SPARE) * 4);
  const { floats } = memory;
  const looked = grow(region, reach, size);
  const left = looked.x - (region.x - reach);
  const right = left + looked.width;
  for (let y = 0; y < rows; y++) {
    const from = Math.min(Math.max(region.y - reach + y, 0), size.height - 1);
    const at = values + y * stride;
    const start = rowStart(covered, { ...looked, y: from }, 0);
    copyRun(luma, start, floats, at + left, looked.width);
    floats.fill(floats[at + left]!, at, at + left);
    floats.fill(floats[at + right - 1]!, at + right, at + stride);
  }
  const row = begin(memory);
  const result = new Float32Array(region.width * region.height);
  for (let y = 0; y < region.height; y++) {
    row(memory, out, values + y * stride);
    copyRun(floats, out, result, y * region.width, region.width);
  }
  return result;
}

/** By all weights of the square. */
function bySquare({ side, weights }: Taps, { stride, lanes, allocate }: Lines) {
  const own = allocate(side * side);
  return ({ floats }: ScratchMemory): Row => {
    floats.set(weights, own);
    return (memory, out, corner) =>
      memory.tapsRow(out * 4, corner * 4, stride * 4, own * 4, side, lanes);
  };
}

/** By columns and rows of weights. Four go down at a time; those that fill up weigh nothing. */
function byFactors(factors: readonly Factor[], reach: number, { stride, lanes, allocate }: Lines) {
  const length = reach + 1;
  const four = Math.ceil(factors.length / 4) * 4;
  const [down, across] = [allocate(four * length), allocate(four * length)];
  const [lines, part] = [allocate(4 * stride), allocate(lanes)];
  const [columns, shifts] = [allocate(2 * length), allocate(2 * length)];
  return ({ floats, ints }: ScratchMemory): Row => {
    floats.fill(0, down, down + four * length);
    factors.forEach((factor, k) => {
      floats.set(factor.down, down + k * length);
      floats.set(factor.across, across + k * length);
    });
    return (memory, out, corner) => {
      floats.fill(0, out, out + lanes);
      for (let k = 0; k <= 2 * reach; k++) ints[columns + k] = (corner + k * stride) * 4;
      for (let k = 0; k < factors.length; k++) {
        const line = lines + (k % 4) * stride;
        if (k % 4 === 0) {
          const own = (down + k * length) * 4;
          memory.symmetricRows4(lines * 4, stride * 4, columns * 4, own, reach, stride);
        }
        for (let x = 0; x <= 2 * reach; x++) ints[shifts + x] = (line + x) * 4;
        memory.symmetricRow(part * 4, shifts * 4, (across + k * length) * 4, reach, lanes);
        memory.add1(out * 4, part * 4, 1, lanes);
      }
    };
  };
}
