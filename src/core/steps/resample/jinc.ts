import { rotation } from '../../frame/framing';
import { pairsOf } from '../../raster/pixels';
import { besselJ1 } from '../../raster/portable-math';
import type { Raster, Window } from '../../raster/raster';
import type { Region } from '../../raster/region';
import { resampleAbout } from './about';
import { pullAround, widening, type Slant } from './grid';

/** Where J1(pi r) first, and for the third time, is zero: the kernel's window ends and its radius. */
const FIRST_ZERO = 1.2196698912665045;
export const JINC_RADIUS = 3.2383154841662362;

/** 2 J1(pi r) / (pi r): what the sinc is to squares, this is to circles; 1 at its middle. */
const jinc = (r: number): number => (r < 1e-6 ? 1 : (2 * besselJ1(Math.PI * r)) / (Math.PI * r));

/** The round kernel with three lobes at a distance in source pixels, zero from its radius on. */
export const jincKernel = (r: number): number =>
  r >= JINC_RADIUS ? 0 : jinc(r) * jinc((r * FIRST_ZERO) / JINC_RADIUS);

/** Samples a unit of the square of the distance, so that no root is drawn for each tap. */
const FINENESS = 512;
let table: Float32Array | undefined;
const ready = (): Float32Array =>
  (table ??= pairsOf((square) => jincKernel(Math.sqrt(square)), JINC_RADIUS ** 2, FINENESS));

/** The part of the frame that `region` of the target needs. */
export const jincInput = (slant: Slant, region: Region): Region =>
  pullAround(slant, region, JINC_RADIUS * widening(slant));

/**
 * Resampling by a kernel that falls off alike in all directions, so that slanted edges get no stairs
 * that upright ones are spared (elliptical weighted average, Greene & Heckbert 1986, with a jinc
 * windowed by a jinc). Where the target is smaller than the source the circle becomes an ellipse,
 * along the target's own axes.
 */
export function resampleJinc(input: Window, slant: Slant, region: Region, limit = 0): Raster {
  const { source, target, degrees } = slant;
  const { cos, sin } = rotation(degrees);
  const wideX = Math.max(1, source.width / target.width);
  const wideY = Math.max(1, source.height / target.height);
  const support = JINC_RADIUS * widening(slant);
  // Square of the distance in the target's own axes: xx dx² + xy dx dy + yy dy².
  const xx = (cos * cos) / (wideX * wideX) + (sin * sin) / (wideY * wideY);
  const xy = 2 * cos * sin * (1 / (wideY * wideY) - 1 / (wideX * wideX));
  const yy = (sin * sin) / (wideX * wideX) + (cos * cos) / (wideY * wideY);
  const last = ready().length / 2 - 1;
  const drawn = wideX === 1 && wideY === 1 ? limit : 0;
  return resampleAbout(input, slant, region, {
    ...{ support, rim: 0.5, table: ready() },
    weigh: (memory, ...laid) =>
      memory.weighJinc(...laid, support, drawn, last, xx * FINENESS, xy * FINENESS, yy * FINENESS),
  });
}
