import { emptyRaster, type Raster, type Window } from '../raster/raster';
import { contains, type Region } from '../raster/region';
import { strideOf, scratchMemory } from '../raster/rows';

/** A network that makes squares of four by four pixels repeats what it is off by in all of them. */
const PERIOD = 4;
/** Squares on either side that have to agree. */
const NEIGHBOURS = 2;
/** Pixels that are looked at on every side: the neighbours', and two more about each. */
export const LATTICE_REACH = NEIGHBOURS * PERIOD + 2;
/** Rows that are at hand: so few that they stay in the processor's own memory. */
const ROWS = 2 * LATTICE_REACH + 1;

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
  const result = emptyRaster(region.width, region.height, raster.form);
  const stride = strideOf(width) + 4;
  // Rows go round: the last ones of the picture, what they have beyond their means, and one for a row's own.
  const memory = scratchMemory(4 * stride * (2 * ROWS + 1));
  const is = (x: number, y: number) => 4 * ((y % ROWS) * stride + x);
  const has = (x: number, y: number) => 4 * ((ROWS + (y % ROWS)) * stride + x);
  const own = (x: number) => 4 * (2 * ROWS * stride + x);
  raster.planes.forEach((plane, channel) => {
    for (let y = 0; y < height; y++) {
      const from = (around.y - covered.y + y) * covered.width + around.x - covered.x;
      memory.floats.set(plane.subarray(from, from + width), is(0, y) / 4);
      memory.lessPeriod(own(2), ...near((k) => is(2 + k, y)), width - 4);
      memory.lessCommon(
        is(LATTICE_REACH, y),
        ...squares((k) => own(LATTICE_REACH + k)),
        region.width,
      );
      if (y < 4) continue;
      // A row is known beyond its mean two rows later, and what it has in common eight rows later.
      const middle = y - 2;
      const beyond = has(LATTICE_REACH, middle);
      memory.lessPeriod(beyond, ...near((k) => is(LATTICE_REACH, middle + k)), region.width);
      const done = y - LATTICE_REACH;
      if (done < LATTICE_REACH) continue;
      const row = is(LATTICE_REACH, done);
      memory.lessCommon(row, ...squares((k) => has(LATTICE_REACH, done + k)), region.width);
      const line = memory.floats.subarray(row / 4, row / 4 + region.width);
      result.planes[channel]!.set(line, (done - LATTICE_REACH) * region.width);
    }
  });
  return result;
}

type Five = [number, number, number, number, number];

/** A pixel and two on either side. */
const near = (pointer: (offset: number) => number): Five =>
  [-2, -1, 0, 1, 2].map((k) => pointer(k)) as Five;

/** The same pixel of five squares. */
const squares = (pointer: (offset: number) => number): Five => near((k) => pointer(k * PERIOD));
