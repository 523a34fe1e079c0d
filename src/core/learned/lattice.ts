import { emptyRaster, type Raster, type Window } from '../raster/raster';
import { contains, type Region } from '../raster/region';
import { strideOf, workroom } from '../raster/rows';

/** A network that makes squares of four by four pixels repeats what it is off by in all of them. */
const PERIOD = 4;
/** Squares on either side that have to agree. */
const NEIGHBOURS = 2;
/** Pixels that are looked at on every side: the neighbours', and two more about each. */
export const LATTICE_REACH = NEIGHBOURS * PERIOD + 2;

/**
 * Takes out the pattern that a network's squares leave along hard edges: what a pixel has beyond the
 * mean over a period, as far as the same pixel of the two squares before and after has it as well,
 * along rows and then along columns. Nothing that small pixels could tell repeats at their own pitch
 * over five of them; detail that stands alone is left as it is.
 * @param added over at least `region` and LATTICE_REACH more on every side
 * @throws RangeError where it isn't
 */
export function withoutLattice({ region: covered, raster }: Window, region: Region): Raster {
  const around = {
    x: region.x - LATTICE_REACH,
    y: region.y - LATTICE_REACH,
    width: region.width + 2 * LATTICE_REACH,
    height: region.height + 2 * LATTICE_REACH,
  };
  if (!contains(covered, around))
    throw new RangeError('withoutLattice: too little about the region');
  const { width, height } = around;
  const result = emptyRaster(region.width, region.height, raster.planes.length);
  const stride = strideOf(width);
  // Rows of the picture, and of what they have beyond their means.
  const beyond = stride * height;
  const room = workroom(4 * (2 * beyond + 4));
  const at = (start: number) => (x: number, y: number) => 4 * (start + y * stride + x);
  const [is, has] = [at(0), at(beyond)];
  raster.planes.forEach((plane, channel) => {
    for (let y = 0; y < height; y++) {
      const from = (around.y - covered.y + y) * covered.width + around.x - covered.x;
      room.floats.set(plane.subarray(from, from + width), y * stride);
      const [a, b, c, d, e] = [0, 1, 2, 3, 4].map((x) => is(x, y)) as Five;
      room.lessPeriod(has(2, y), a, b, c, d, e, width - 4);
      const [f, g, h, i, j] = five((k) => has(LATTICE_REACH + k, y));
      room.lessCommon(is(LATTICE_REACH, y), f, g, h, i, j, region.width);
    }
    for (let y = 2; y < height - 2; y++) {
      const [a, b, c, d, e] = [-2, -1, 0, 1, 2].map((k) => is(LATTICE_REACH, y + k)) as Five;
      room.lessPeriod(has(LATTICE_REACH, y), a, b, c, d, e, region.width);
    }
    for (let y = 0; y < region.height; y++) {
      const [a, b, c, d, e] = five((k) => has(LATTICE_REACH, y + LATTICE_REACH + k));
      const row = is(LATTICE_REACH, y + LATTICE_REACH);
      room.lessCommon(row, a, b, c, d, e, region.width);
      const line = room.floats.subarray(row / 4, row / 4 + region.width);
      result.planes[channel]!.set(line, y * region.width);
    }
  });
  return result;
}

type Five = [number, number, number, number, number];

/** The same pixel of five squares. */
const five = (pointer: (offset: number) => number): Five =>
  [-2, -1, 0, 1, 2].map((k) => pointer(k * PERIOD)) as Five;
