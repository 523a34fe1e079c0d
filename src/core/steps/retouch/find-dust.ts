import { luminance } from '../../raster/colour';
import type { Raster } from '../../raster/raster';
import { medianOf } from '../neighbours';
import { shapeRegion, shapeValues, type Shape } from './shape';

/** Largest speck that is suggested, in pixels, and how far its surroundings are looked at. */
const LARGEST = 400;
const AROUND = 8;
/** The longest side of a speck over its width, from which on it is a scratch. */
const LONG = 4;

/** How uneven surroundings may be, of how much a speck stands out of them. */
const EVEN = 0.35;
/** Pixels about a speck that its surroundings are looked at in: from, to. */
const [NEAR, FAR] = [1.5, 6];

/** A place that looks like dust or a scratch, and how much it stands out in levels. */
export interface Suspect extends Shape {
  standsOut: number;
}

/**
 * Places that stand out from plain surroundings, as dust and scratches do: against the median of a
 * coarse grid about them by more than the noise there would, and with nothing else nearby. What has
 * texture about it is left to the eye.
 * @param raster a part of a picture; coordinates are its own
 * @param sensitivity how many times the noise a place must stand out, the less the more is found
 */
export function findDust(raster: Raster, sensitivity = 6): Suspect[] {
  const { width, height } = raster;
  const luma = luminance(raster).map((value) => value * 255);
  const base = coarseMedian(luma, width, height);
  const off = luma.map((value, i) => value - base.at(i));
  const noise = spreadAbout(off, width, height);
  const marked = new Uint8Array(luma.length);
  for (let i = 0; i < off.length; i++) {
    if (Math.abs(off[i]!) > Math.max(7, sensitivity * noise.at(i))) marked[i] = 1;
  }
  return components(marked, width, height).flatMap((pixels) => {
    if (pixels.length < 3 || pixels.length > LARGEST) return [];
    const shape = shapeOf(pixels, width);
    const mean = pixels.reduce((sum, i) => sum + off[i]!, 0) / pixels.length;
    // All of a speck is lighter than its surroundings, or all darker.
    if (pixels.some((i) => off[i]! * mean < 0)) return [];
    const standsOut = Math.abs(mean);
    if (crowded(marked, pixels, shape, width, height)) return [];
    // Beside an edge the surroundings have two tones; dust lies on one.
    return surroundings(luma, shape, width, height) > EVEN * standsOut
      ? []
      : [{ ...shape, standsOut }];
  });
}

const CELL = 8;

/** Medians of cells with their neighbours, read at pixels by the cell they lie in. */
function coarseMedian(luma: Float32Array, width: number, height: number) {
  return coarse(width, height, (left, top, right, bottom, values) => {
    let count = 0;
    for (let y = top; y < bottom; y += 2)
      for (let x = left; x < right; x += 2) values[count++] = luma[y * width + x]!;
    return medianOf(values, count);
  });
}

/** The lower quartile-like spread of differences about cells: noise without what stands out. */
function spreadAbout(off: Float32Array, width: number, height: number) {
  return coarse(width, height, (left, top, right, bottom, values) => {
    let count = 0;
    for (let y = top; y < bottom; y += 2)
      for (let x = left; x < right; x += 2) values[count++] = Math.abs(off[y * width + x]!);
    // Three quarters of a plain surrounding lie below 1.15 deviations; texture lifts it.
    values.subarray(0, count).sort();
    return values[Math.floor(0.75 * (count - 1))]! / 1.15;
  });
}

function coarse(
  width: number,
  height: number,
  value: (left: number, top: number, right: number, bottom: number, room: Float32Array) => number,
) {
  const columns = Math.ceil(width / CELL);
  const rows = Math.ceil(height / CELL);
  const cells = new Float32Array(columns * rows);
  const room = new Float32Array((CELL + 2 * AROUND) ** 2);
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++) {
      cells[r * columns + c] = value(
        Math.max(0, c * CELL - AROUND),
        Math.max(0, r * CELL - AROUND),
        Math.min(width, (c + 1) * CELL + AROUND),
        Math.min(height, (r + 1) * CELL + AROUND),
        room,
      );
    }
  return {
    at: (i: number): number => {
      const x = i % width;
      const y = (i - x) / width;
      return cells[Math.floor(y / CELL) * columns + Math.floor(x / CELL)]!;
    },
  };
}

/** Marked pixels that touch, corners included. */
function components(marked: Uint8Array, width: number, height: number): number[][] {
  const seen = new Uint8Array(marked.length);
  const found: number[][] = [];
  for (let start = 0; start < marked.length; start++) {
    if (!marked[start] || seen[start]) continue;
    const pixels = [start];
    seen[start] = 1;
    for (let k = 0; k < pixels.length; k++) {
      const x = pixels[k]! % width;
      const y = (pixels[k]! - x) / width;
      for (let v = Math.max(0, y - 1); v <= Math.min(height - 1, y + 1); v++)
        for (let u = Math.max(0, x - 1); u <= Math.min(width - 1, x + 1); u++) {
          const i = v * width + u;
          if (!marked[i] || seen[i]) continue;
          seen[i] = 1;
          pixels.push(i);
        }
    }
    found.push(pixels);
  }
  return found;
}

/** A dab over a round speck, a stroke along a long one. */
function shapeOf(pixels: readonly number[], width: number): Shape {
  let sx = 0;
  let sy = 0;
  for (const i of pixels) {
    sx += (i % width) + 0.5;
    sy += Math.floor(i / width) + 0.5;
  }
  const cx = sx / pixels.length;
  const cy = sy / pixels.length;
  let xx = 0;
  let yy = 0;
  let xy = 0;
  for (const i of pixels) {
    const dx = (i % width) + 0.5 - cx;
    const dy = Math.floor(i / width) + 0.5 - cy;
    xx += dx * dx;
    yy += dy * dy;
    xy += dx * dy;
  }
  // Main axis of the speck's moments.
  const half = Math.sqrt(((xx - yy) / 2) ** 2 + xy * xy);
  const major = (xx + yy) / 2 + half;
  const minor = Math.max((xx + yy) / 2 - half, pixels.length / 12);
  const length = Math.sqrt((12 * major) / pixels.length);
  const across = Math.sqrt((12 * minor) / pixels.length);
  if (length < LONG * across) {
    const radius = Math.max(
      ...pixels.map((i) => Math.hypot((i % width) + 0.5 - cx, Math.floor(i / width) + 0.5 - cy)),
    );
    return { points: [[cx, cy]], radius: radius + 1.5, softness: 0.3 };
  }
  const axis = Math.hypot(xy, major - xx) < 1e-9 ? [1, 0] : [xy, major - xx];
  const norm = Math.hypot(axis[0]!, axis[1]!);
  const ux = (axis[0]! / norm) * (length / 2);
  const uy = (axis[1]! / norm) * (length / 2);
  return {
    points: [
      [cx - ux, cy - uy],
      [cx + ux, cy + uy],
    ],
    radius: Math.max(1.5, across / 2 + 1.5),
    softness: 0.3,
  };
}

/** Standard deviation of the ring about a shape, levels. */
function surroundings(luma: Float32Array, shape: Shape, width: number, height: number): number {
  const size = { width, height };
  const wide = { ...shape, radius: shape.radius + FAR, softness: 0 };
  const region = shapeRegion(wide, size);
  const outer = shapeValues(wide, region);
  const inner = shapeValues({ ...shape, radius: shape.radius + NEAR, softness: 0 }, region);
  let sum = 0;
  let squares = 0;
  let count = 0;
  for (let y = 0, i = 0; y < region.height; y++)
    for (let x = 0; x < region.width; x++, i++) {
      if (outer[i]! < 0.5 || inner[i]! > 0) continue;
      const value = luma[(region.y + y) * width + region.x + x]!;
      sum += value;
      squares += value * value;
      count++;
    }
  return count === 0 ? 0 : Math.sqrt(Math.max(0, squares / count - (sum / count) ** 2));
}

/** Whether much else is marked near a speck: then it is texture. */
function crowded(
  marked: Uint8Array,
  pixels: readonly number[],
  { radius }: Shape,
  width: number,
  height: number,
): boolean {
  const own = new Set(pixels);
  const far = Math.ceil(radius + AROUND);
  const first = pixels[pixels.length >> 1]!;
  const x = first % width;
  const y = (first - x) / width;
  let others = 0;
  for (let v = Math.max(0, y - far); v <= Math.min(height - 1, y + far); v++)
    for (let u = Math.max(0, x - far); u <= Math.min(width - 1, x + far); u++) {
      const i = v * width + u;
      if (marked[i] && !own.has(i)) others++;
    }
  return others > Math.max(6, pixels.length);
}
