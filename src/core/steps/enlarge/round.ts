import { rotation } from '../../frame/framing';
import { besselJ1 } from '../../raster/portable-math';
import { emptyRaster, type Raster, type Window } from '../../raster/raster';
import type { Region } from '../../raster/region';
import { limitTo, pullAround, walk, widening, type Slant } from './grid';

/** Where J1(pi r) first, and for the third time, is zero: the kernel's window ends and its radius. */
const FIRST_ZERO = 1.2196698912665045;
export const ROUND_RADIUS = 3.2383154841662362;

/** 2 J1(pi r) / (pi r): what the sinc is to squares, this is to circles; 1 at its middle. */
const jinc = (r: number): number => (r < 1e-6 ? 1 : (2 * besselJ1(Math.PI * r)) / (Math.PI * r));

/** The round kernel with three lobes at a distance in source pixels, zero from its radius on. */
export const roundKernel = (r: number): number =>
  r >= ROUND_RADIUS ? 0 : jinc(r) * jinc((r * FIRST_ZERO) / ROUND_RADIUS);

/** Samples a unit of the square of the distance, so that no root is drawn for each tap. */
const FINENESS = 512;
let table: Float64Array | undefined;
const ready = (): Float64Array =>
  (table ??= Float64Array.from(
    { length: Math.ceil(ROUND_RADIUS * ROUND_RADIUS * FINENESS) + 2 },
    (_, i) => roundKernel(Math.sqrt(i / FINENESS)),
  ));

/** The part of the frame that `region` of the target needs. */
export const roundPull = (slant: Slant, region: Region): Region =>
  pullAround(slant, region, ROUND_RADIUS * widening(slant));

/**
 * Resampling by a kernel that falls off alike in all directions, so that slanted edges get no stairs
 * that upright ones are spared (elliptical weighted average, Greene & Heckbert 1986, with a jinc
 * windowed by a jinc). Where the target is smaller than the source the circle becomes an ellipse,
 * along the target's own axes.
 */
export function resampleRound(input: Window, slant: Slant, region: Region, limit = 0): Raster {
  const result = emptyRaster(region.width, region.height, input.raster.planes.length);
  const weights = ready();
  const { x, y, acrossX, acrossY, downX, downY } = walk(slant);
  const { frame, source, target, degrees } = slant;
  const { cos, sin } = rotation(degrees);
  const wideX = Math.max(1, source.width / target.width);
  const wideY = Math.max(1, source.height / target.height);
  const support = ROUND_RADIUS * Math.max(wideX, wideY);
  const { region: covered, raster } = input;
  const planes = raster.planes;
  const sums = new Float64Array(planes.length);
  // Square of the distance in the target's own axes: a dx² + 2 b dx dy + c dy².
  const a = (cos * cos) / (wideX * wideX) + (sin * sin) / (wideY * wideY);
  const b = cos * sin * (1 / (wideY * wideY) - 1 / (wideX * wideX));
  const c2 = (sin * sin) / (wideX * wideX) + (cos * cos) / (wideY * wideY);

  for (let v = 0, i = 0; v < region.height; v++) {
    for (let u = 0; u < region.width; u++, i++) {
      const cx = x + (region.x + u) * acrossX + (region.y + v) * downX;
      const cy = y + (region.x + u) * acrossY + (region.y + v) * downY;
      // Within the picture's outermost pixels; from farther out there is nothing to weigh.
      const inX = Math.min(Math.max(cx, -0.5), frame.width - 0.5);
      const inY = Math.min(Math.max(cy, -0.5), frame.height - 0.5);
      const left = Math.max(Math.floor(inX - support) + 1, 0);
      const right = Math.min(Math.ceil(inX + support) - 1, frame.width - 1);
      const top = Math.max(Math.floor(inY - support) + 1, 0);
      const bottom = Math.min(Math.ceil(inY + support) - 1, frame.height - 1);
      sums.fill(0);
      let total = 0;
      for (let py = top; py <= bottom; py++) {
        const dy = py - inY;
        const line = (py - covered.y) * covered.width - covered.x;
        for (let px = left; px <= right; px++) {
          const dx = px - inX;
          const at = (a * dx * dx + 2 * b * dx * dy + c2 * dy * dy) * FINENESS;
          const k = Math.floor(at);
          if (k + 1 >= weights.length) continue;
          const weight = weights[k]! + (at - k) * (weights[k + 1]! - weights[k]!);
          total += weight;
          for (let c = 0; c < planes.length; c++) sums[c]! += weight * planes[c]![line + px]!;
        }
      }
      for (let c = 0; c < planes.length; c++) sums[c]! /= total;
      if (limit > 0 && wideX === 1 && wideY === 1) {
        limitTo(planes, covered, frame, inX, inY, limit, sums);
      }
      for (let c = 0; c < planes.length; c++) result.planes[c]![i] = sums[c]!;
    }
  }
  return result;
}
