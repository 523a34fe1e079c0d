import { planeCount, type Form } from './form';
import { contains, type Region } from './region';

/**
 * Pixels as the core knows them: one plane a colour, and one of alpha where there is one, row by row, 0 (none)
 * to 1 (full). Values may leave that range between steps; only the writer clamps them.
 */
export interface Raster {
  width: number;
  height: number;
  /** what the planes hold */
  form: Form;
  planes: Float32Array[];
}

/** A raster together with the place on its grid that it covers. */
export interface Window {
  region: Region;
  raster: Raster;
}

/** A raster of zeros. */
export function emptyRaster(width: number, height: number, form: Form): Raster {
  const planes = Array.from({ length: planeCount(form) }, () => new Float32Array(width * height));
  return { width, height, form, planes };
}

/**
 * The part of `window` that covers `region`, copied.
 * @throws RangeError where `region` is not wholly inside the window
 */
export function cut(window: Window, region: Region): Raster {
  if (!contains(window.region, region))
    throw new RangeError('cut: the region is not in the window');
  const result = emptyRaster(region.width, region.height, window.raster.form);
  paste(window, { region, raster: result });
  return result;
}

/** A window that is hardly more than a region: what is looked at of a strip of a view is then not all of the view. */
export function narrowed(window: Window, region: Region): Window {
  const { width, height } = window.region;
  return width * height > 2 * region.width * region.height
    ? { region, raster: cut(window, region) }
    : window;
}

/** The pixels of a window over a region of it: the window's own where it is no larger, else copied. */
export const pixelsOver = ({ region: covered, raster }: Window, region: Region): Raster =>
  contains(region, covered) ? raster : cut({ region: covered, raster }, region);

/** Where the y-th row of a region begins in the planes of what covers it. */
export const rowStart = (covered: Region, region: Region, y: number): number =>
  (region.y + y - covered.y) * covered.width + region.x - covered.x;

/** A part of one plane, copied. @param covered what the plane lies over; it holds `region` */
export function cutPlane(plane: Float32Array, covered: Region, region: Region): Float32Array {
  const part = new Float32Array(region.width * region.height);
  for (let y = 0; y < region.height; y++) {
    copyRun(plane, rowStart(covered, region, y), part, y * region.width, region.width);
  }
  return part;
}

/** Below so many numbers a loop is quicker than a view of the array and its copy. */
const SHORT_RUN = 160;

/** Copies `count` numbers from a place of one array to a place of another. */
export function copyRun(
  from: Float32Array,
  start: number,
  to: Float32Array,
  at: number,
  count: number,
): void {
  if (count > SHORT_RUN) to.set(from.subarray(start, start + count), at);
  else for (let i = 0; i < count; i++) to[at + i] = from[start + i]!;
}

/** Copies into `target` whatever part of `window` lies over it. */
export function paste(window: Window, target: Window): void {
  const left = Math.max(window.region.x, target.region.x);
  const top = Math.max(window.region.y, target.region.y);
  const right = Math.min(
    window.region.x + window.region.width,
    target.region.x + target.region.width,
  );
  const bottom = Math.min(
    window.region.y + window.region.height,
    target.region.y + target.region.height,
  );
  if (right <= left) return;
  window.raster.planes.forEach((from, channel) => {
    const to = target.raster.planes[channel]!;
    for (let y = top; y < bottom; y++) {
      const start = (y - window.region.y) * window.region.width + left - window.region.x;
      const at = (y - target.region.y) * target.region.width + left - target.region.x;
      copyRun(from, start, to, at, right - left);
    }
  });
}

/** One plane of a raster, as a raster of its own; not copied. */
export const planeOf = ({ width, height, form, planes }: Raster, at: number): Raster => ({
  ...{ width, height },
  form: { ...form, colours: 1, alpha: false },
  planes: [planes[at]!],
});

/** Bytes that a raster's planes occupy. */
export const rasterBytes = (raster: Raster): number =>
  raster.planes.reduce((sum, plane) => sum + plane.byteLength, 0);
