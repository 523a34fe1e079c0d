import { luminance } from '../raster/colour';
import { clip, type Region } from '../raster/region';
import type { Source } from '../raster/source';

/** A place on a picture's grid, in its pixels; the middle of the first one is at 0.5. */
export interface GridPlace {
  x: number;
  y: number;
}

/** Levels along a line, 0–255. */
export interface Probed {
  luma: Float32Array;
  red: Float32Array;
  green: Float32Array;
  blue: Float32Array;
  /** pixels of the picture's grid from one value to the next */
  step: number;
}

/** The most values of a line: of a longer one, pixels between them are left out. */
const MOST = 2048;
/** So many values are read at a time, so that a slanting line doesn't read the whole square about it. */
const AT_ONCE = 48;

/**
 * Levels of a picture along a line, one value a pixel, between pixels by bilinear interpolation.
 * @throws RangeError where the line is shorter than eight pixels
 */
export async function probeLine(picture: Source, from: GridPlace, to: GridPlace): Promise<Probed> {
  const length = Math.hypot(to.x - from.x, to.y - from.y);
  if (!(length >= 8)) throw new RangeError('probeLine: the line is too short');
  const count = Math.min(MOST, Math.floor(length) + 1);
  const step = length / (count - 1);
  const values = () => new Float32Array(count);
  const found: Probed = { luma: values(), red: values(), green: values(), blue: values(), step };
  for (let first = 0; first < count; first += AT_ONCE) {
    const last = Math.min(count, first + AT_ONCE);
    await part(picture, found, first, last, (i) => {
      const share = i / (count - 1);
      // Of a pixel's middle, so that whole numbers are the pixels themselves.
      return {
        x: from.x + share * (to.x - from.x) - 0.5,
        y: from.y + share * (to.y - from.y) - 0.5,
      };
    });
  }
  return found;
}

async function part(
  picture: Source,
  found: Probed,
  first: number,
  last: number,
  placeOf: (i: number) => GridPlace,
): Promise<void> {
  const region = about(placeOf(first), placeOf(last - 1), picture);
  const raster = await picture.read(region);
  const planes = [luminance(raster), ...raster.planes.slice(0, 3)];
  const into = [found.luma, found.red, found.green, found.blue];
  const { width, height } = region;
  for (let i = first; i < last; i++) {
    const { x, y } = placeOf(i);
    const u = Math.min(width - 1, Math.max(0, x - region.x));
    const v = Math.min(height - 1, Math.max(0, y - region.y));
    const [left, top] = [Math.floor(u), Math.floor(v)];
    const [right, bottom] = [Math.min(width - 1, left + 1), Math.min(height - 1, top + 1)];
    const [across, down] = [u - left, v - top];
    planes.forEach((plane, c) => {
      const at = (column: number, row: number) => plane[row * width + column]!;
      const upper = at(left, top) + across * (at(right, top) - at(left, top));
      const lower = at(left, bottom) + across * (at(right, bottom) - at(left, bottom));
      into[c]![i] = 255 * (upper + down * (lower - upper));
    });
  }
}

/** Pixels about a piece of a line; at least one, also where it lies beside the picture. */
function about(one: GridPlace, other: GridPlace, { size }: Source): Region {
  const inside = (at: number, side: number) => Math.min(side - 1, Math.max(0, Math.floor(at)));
  const [x, y] = [
    inside(Math.min(one.x, other.x), size.width),
    inside(Math.min(one.y, other.y), size.height),
  ];
  const right = inside(Math.max(one.x, other.x) + 1, size.width);
  const bottom = inside(Math.max(one.y, other.y) + 1, size.height);
  return clip({ x, y, width: right - x + 1, height: bottom - y + 1 }, size);
}
