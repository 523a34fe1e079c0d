import { hann, transformOf } from '../inspect/transform';
import { luminance } from '../raster/colour';
import type { Raster } from '../raster/raster';
import type { Size } from '../raster/region';
import type { Source } from '../raster/source';

/** Side of the squares that are laid over each other; a power of two. */
const SIDE = 256;
const WINDOW = hann(SIDE);
const transform = transformOf(SIDE);

/** How far a picture must be moved to lie on another one, in pixels. */
export interface Shift {
  x: number;
  y: number;
}

/** The same of two pictures as a whole. */
export interface FoundShift extends Shift {
  /** how far places all over the picture are off it, on the middle of them: another crop, or another size */
  spread: number;
}

/** A place that agrees so much better than all others is where both lie on each other, in deviations. */
const SURE = 12;

/**
 * How far the second picture must be moved to lie on the first, both of the same grid: by phase correlation (Kuglin &
 * Hines 1975) of slopes, to a part of a pixel; by no more than about a sixth of the
 * square.
 * @param rasters of SIDE pixels to either side
 * @returns null where nothing tells: plain pictures, or two of different things
 * @throws RangeError where they are of another size
 */
export function shiftBetween(one: Raster, other: Raster): Shift | null {
  const [a, b] = [spectrumOf(one), spectrumOf(other)];
  const [re, im] = [new Float64Array(SIDE * SIDE), new Float64Array(SIDE * SIDE)];
  for (let i = 0; i < re.length; i++) {
    const r = a.re[i]! * b.re[i]! + a.im[i]! * b.im[i]!;
    const s = a.im[i]! * b.re[i]! - a.re[i]! * b.im[i]!;
    // Noise has phases too: what is weak counts for less than what is strong.
    const length = Math.hypot(r, s);
    if (length === 0) continue;
    re[i] = r / Math.sqrt(length);
    // Backward by the forward transform: of the conjugate.
    im[i] = -s / Math.sqrt(length);
  }
  transform2d(re, im);
  let best = 0;
  let sum = 0;
  let squares = 0;
  for (let i = 0; i < re.length; i++) {
    if (re[i]! > re[best]!) best = i;
    sum += re[i]!;
    squares += re[i]! ** 2;
  }
  const mean = sum / re.length;
  const deviation = Math.sqrt(Math.max(0, squares / re.length - mean * mean));
  if (!(re[best]! - mean > SURE * deviation)) return null;
  const [column, row] = [best % SIDE, Math.floor(best / SIDE)];
  const signed = (at: number) => (at >= SIDE / 2 ? at - SIDE : at);
  const at = (x: number, y: number) => re[((y + SIDE) % SIDE) * SIDE + ((x + SIDE) % SIDE)]!;
  return {
    x: signed(column) + between3(at(column - 1, row), re[best]!, at(column + 1, row)),
    y: signed(row) + between3(at(column, row - 1), re[best]!, at(column, row + 1)),
  };
}

/** Where a parabola through three values is highest, from the middle one. */
function between3(before: number, here: number, after: number): number {
  const bend = before - 2 * here + after;
  return bend < 0 ? (before - after) / (2 * bend) : 0;
}

/** The transform of a picture's slopes, which carry its place; its ends fade out. */
function spectrumOf(raster: Raster): { re: Float64Array; im: Float64Array } {
  const { width, height } = raster;
  if (width !== SIDE || height !== SIDE) throw new RangeError(`shiftBetween: not ${SIDE} pixels`);
  const luma = luminance(raster);
  const re = new Float64Array(SIDE * SIDE);
  // Slopes along both axes at once, as the two parts of one number.
  const im = new Float64Array(SIDE * SIDE);
  for (let y = 0, i = 0; y < SIDE; y++)
    for (let x = 0; x < SIDE; x++, i++) {
      const fade = WINDOW[x]! * WINDOW[y]!;
      if (x > 0) re[i] = fade * (luma[i]! - luma[i - 1]!);
      if (y > 0) im[i] = fade * (luma[i]! - luma[i - SIDE]!);
    }
  transform2d(re, im);
  return { re, im };
}

function transform2d(re: Float64Array, im: Float64Array): void {
  const [lineRe, lineIm] = [new Float64Array(SIDE), new Float64Array(SIDE)];
  for (let y = 0; y < SIDE; y++) {
    const [from, to] = [y * SIDE, (y + 1) * SIDE];
    transform(re.subarray(from, to), im.subarray(from, to));
  }
  for (let x = 0; x < SIDE; x++) {
    for (let y = 0; y < SIDE; y++) {
      lineRe[y] = re[y * SIDE + x]!;
      lineIm[y] = im[y * SIDE + x]!;
    }
    transform(lineRe, lineIm);
    for (let y = 0; y < SIDE; y++) {
      re[y * SIDE + x] = lineRe[y]!;
      im[y * SIDE + x] = lineIm[y]!;
    }
  }
}

/** A picture on a paper, small and at its own pixels, for its place to be found. */
export interface Placed {
  /** all of the paper, on a square grid of SIDE pixels, however its own sides are */
  small: Source;
  /** where its detail is: at the pixels of its original */
  own: Source;
}

/** Squares that are laid over each other, across and down. */
const SQUARES = 4;

/**
 * How far a picture of the same paper must be moved to lie on another one, in pixels of that one's own grid: found on
 * both made small, then in squares all over the paper, of which the middle one counts.
 * @param read the second picture's square of SIDE pixels from a place of the first one's own grid on; it may reach
 *   beyond the picture
 * @returns null where nothing tells
 */
export async function findShift(
  one: Placed,
  other: Pick<Placed, 'small'>,
  read: (x: number, y: number) => Promise<Raster>,
  between: () => Promise<void> = async () => {},
): Promise<FoundShift | null> {
  const square = { x: 0, y: 0, width: SIDE, height: SIDE };
  const coarse = shiftBetween(await one.small.read(square), await other.small.read(square));
  if (!coarse) return null;
  const { width, height } = one.own.size;
  const begin = {
    x: Math.round((coarse.x * width) / SIDE),
    y: Math.round((coarse.y * height) / SIDE),
  };
  if (Math.min(width, height) < SIDE) return { ...begin, spread: 0 };
  const found: Shift[] = [];
  for (const { x, y } of squaresOf(one.own.size)) {
    await between();
    const here = await one.own.read({ ...square, x, y });
    const there = await read(x - begin.x, y - begin.y);
    const finer = shiftBetween(here, there);
    if (finer) found.push({ x: begin.x + finer.x, y: begin.y + finer.y });
  }
  if (found.length === 0) return { ...begin, spread: 0 };
  const shift = { x: middle(found.map(({ x }) => x)), y: middle(found.map(({ y }) => y)) };
  const off = found.map(({ x, y }) => Math.max(Math.abs(x - shift.x), Math.abs(y - shift.y)));
  return { ...shift, spread: middle(off) };
}

function squaresOf({ width, height }: Size): { x: number; y: number }[] {
  const begins = (side: number) =>
    Array.from({ length: SQUARES }, (_, i) =>
      Math.round(((i + 0.5) / SQUARES) * side - SIDE / 2),
    ).map((at) => Math.min(side - SIDE, Math.max(0, at)));
  return begins(height).flatMap((y) => begins(width).map((x) => ({ x, y })));
}

function middle(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[sorted.length >> 1]!;
}

/** Side of the squares that `shiftBetween` is given. */
export const SHIFT_SIDE = SIDE;
