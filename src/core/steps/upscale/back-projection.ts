import { UPSCALING } from '../../learned/enlarger';
import { cut, emptyRaster, type Raster, type Window } from '../../raster/raster';
import { union, type Region, type Size } from '../../raster/region';
import type { Axis, Filter } from '../resample/filter';
import { axesInput, filtersFor, type Axes } from '../resample/passes';
import { resample, resampleOnto } from '../resample/separable';

// Iterated back-projection (Irani & Peleg 1991): what a large picture lacks of the small one s when it
// is reduced is enlarged and added to it, twice. With the enlargement U, the reduction D and what is
// added to plain enlargement n, the first picture is U s + n; it lacks r = s - D(U s + n). Two
// corrections come to n + U (s + 2 r - DU r), so that only one large picture is ever made. DU is a
// short filter on the small grid. A small picture that was cleaned of compression is itself an estimate:
// it is followed in part.

/** How far a picture is followed that was compressed so badly (`severityOf`): 1 wholly. */
export const backProjectionWeight = (severity: number): number => Math.max(0.8, 1 - 4 * severity);

/** Plain enlargement, by the kernel that networks were taught to add to. */
const up = ({ width, height }: Size): Axes => ({
  horizontal: grown(width),
  vertical: grown(height),
});

const grown = (size: number): Axis => ({
  method: 'bicubic',
  sourceSize: size,
  origin: 0,
  span: size,
  targetSize: size * UPSCALING,
});

/** What the small picture is of the large one. */
const down = ({ width, height }: Size): Axes => ({
  horizontal: shrunk(width),
  vertical: shrunk(height),
});

const shrunk = (size: number): Axis => ({
  method: 'bicubic',
  sourceSize: size * UPSCALING,
  origin: 0,
  span: size * UPSCALING,
  targetSize: size,
});

/** What is needed for a region of the large grid: parts of the small one. */
interface Needs {
  /** where the result is made of the small picture and its corrections */
  corrected: Region;
  /** where it is known what the large picture lacks */
  lacking: Region;
  /** what a network adds is needed over these pixels */
  added: Region;
  /** the small picture itself */
  source: Region;
}

/** What `region` of the large grid is made of. */
export function inputsOf(region: Region, size: Size): Needs {
  const corrected = axesInput(up(size), region);
  const lacking = throughPull(corrected, size);
  const added = under(union(axesInput(down(size), lacking), region));
  return { corrected, lacking, added, source: throughPull(lacking, size) };
}

/** The small pixels that a part of the large grid lies on. */
function under(region: Region): Region {
  const x = Math.floor(region.x / UPSCALING);
  const y = Math.floor(region.y / UPSCALING);
  return {
    x,
    y,
    width: Math.ceil((region.x + region.width) / UPSCALING) - x,
    height: Math.ceil((region.y + region.height) / UPSCALING) - y,
  };
}

/**
 * `region` of the enlargement that agrees with its source.
 * @param added what is added to plain enlargement, over `inputsOf(region).added`, upscaled; null for
 *   nothing
 * @param input the small picture, over at least `inputsOf(region).source`
 * @param trust how far it is agreed with, 0 to 1
 */
export function backProjected(
  added: Window | null,
  input: Window,
  region: Region,
  size: Size,
  trust: number,
): Raster {
  const { corrected, lacking } = inputsOf(region, size);
  const lacks: Window = { region: lacking, raster: through(input, lacking, size) };
  const addition = added && reduced(added, lacking, size);
  const source = cut(input, lacking);
  lacks.raster.planes.forEach((plane, c) => {
    for (let i = 0; i < plane.length; i++) {
      plane[i] = source.planes[c]![i]! - plane[i]! - (addition ? addition.planes[c]![i]! : 0);
    }
  });
  const small: Window = { region: corrected, raster: through(lacks, corrected, size) };
  const [is, lack] = [cut(input, corrected), cut(lacks, corrected)];
  small.raster.planes.forEach((plane, c) => {
    for (let i = 0; i < plane.length; i++) {
      plane[i] = is.planes[c]![i]! + trust * (2 * lack.planes[c]![i]! - plane[i]!);
    }
  });
  const raster = added
    ? cut(added, region)
    : emptyRaster(region.width, region.height, input.raster.form);
  const { horizontal, vertical } = filtersFor(up(size), region);
  resampleOnto({ region, raster }, small, horizontal, vertical, region);
  return raster;
}

function reduced(large: Window, region: Region, size: Size): Raster {
  const { horizontal, vertical } = filtersFor(down(size), region);
  return resample(large, horizontal, vertical, region);
}

/** Enlarged and reduced again, on the small grid. */
function through(input: Window, region: Region, size: Size): Raster {
  const back = filtersFor(down(size), region);
  const large = axesInput(down(size), region);
  const forth = filtersFor(up(size), large);
  return resample(
    input,
    chained(back.horizontal, forth.horizontal, large.x),
    chained(back.vertical, forth.vertical, large.y),
    region,
  );
}

const throughPull = (region: Region, size: Size): Region =>
  axesInput(up(size), axesInput(down(size), region));

/** One filter for two: `second` reads what `first`, whose targets begin at `start`, has made. */
function chained(second: Filter, first: Filter, start: number): Filter {
  const begins = second.first.map((tap) => first.first[tap - start]!);
  const ends = second.first.map((tap) => first.first[tap + second.taps - 1 - start]! + first.taps);
  const taps = Math.max(...ends.map((end, i) => end - begins[i]!));
  // Where fewer are needed, those that count nothing still lie inside of what there is.
  const last = Math.max(...ends) - taps;
  const firsts = begins.map((begin) => Math.min(begin, last));
  const weights = new Float64Array(firsts.length * taps);
  firsts.forEach((begin, i) => {
    for (let k = 0; k < second.taps; k++) {
      const through = second.first[i]! + k - start;
      for (let j = 0; j < first.taps; j++) {
        weights[i * taps + first.first[through]! + j - begin]! +=
          second.weights[i * second.taps + k]! * first.weights[through * first.taps + j]!;
      }
    }
  });
  return { taps, first: firsts, weights, near: null };
}
