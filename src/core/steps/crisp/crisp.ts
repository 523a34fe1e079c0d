import { z } from 'zod';
import { factorOf } from '../../measure/plan';
import { blur, gaussianReach } from '../../raster/gaussian';
import { LIGHTNESS } from '../../raster/form';
import { cut, emptyRaster } from '../../raster/raster';
import { clip, grow, type Region, type Size } from '../../raster/region';
import { LEVEL } from '../../raster/samples';
import type { Step } from '../step';
import { gainOf, type Energies } from './gain';
import { say } from '../../words/say';

/** Widths in a pixel's fourth of the original: what enlarging could not know is finer than the first. */
const FINE = 0.25;
/** … and the octave below it lies between that and so many times as much. */
const OCTAVE = 2.1;
/** Standard deviation of what counts as one place, and of what lies about it, in the first width. */
const PLACE = 6;
const ABOUT = 16;
/** The least and the most that a result is larger than its original. */
const FACTORS = { least: 1.5, most: 64 } as const;

export const CrispSettings = z.object({});
export type CrispSettings = z.infer<typeof CrispSettings>;

export const CrispNumbers = z.object({
  /** standard deviation that the finest octave is finer than, in pixels of the result */
  finer: z
    .number()
    .min(0.01)
    .max(FINE * FACTORS.most),
});
export type CrispNumbers = z.infer<typeof CrispNumbers>;

/** Sums that tell textures, cell by cell: squares of the finest octave and of the one below, fourth powers of that. */
const ENERGIES = { colours: 3, alpha: false, space: 'lightness' } as const;

/** Pixels to a cell along each axis. */
const cellOf = ({ finer }: CrispNumbers): number => Math.max(2, Math.round(1.5 * finer));
/** Some of the first widths, in cells. */
const inCells = (widths: number, numbers: CrispNumbers): number =>
  (widths * numbers.finer) / cellOf(numbers);

const cellsIn = ({ width, height }: Size, cell: number): Size => ({
  width: Math.ceil(width / cell),
  height: Math.ceil(height / cell),
});

/** The pixels of cells. */
const pixelsIn = (region: Region, cell: number, size: Size): Region =>
  clip(
    {
      ...{ x: region.x * cell, y: region.y * cell },
      ...{ width: region.width * cell, height: region.height * cell },
    },
    size,
  );

/** The cells between whose middles pixels lie. */
function cellsAbout({ x, y, width, height }: Region, cell: number, size: Size): Region {
  const first = (at: number) => Math.floor((at + 0.5) / cell - 0.5);
  const [left, top] = [first(x), first(y)];
  return clip(
    {
      ...{ x: left, y: top },
      width: first(x + width - 1) + 2 - left,
      height: first(y + height - 1) + 2 - top,
    },
    cellsIn(size, cell),
  );
}

/**
 * Makes textures as crisp as the picture itself says they are: an enlargement leaves the finest octave of cloth, leaves
 * or stone too weak, since it knows little of it. The octave below tells how strong it usually is; it is brought
 * nearer to that, place by place. Lines and edges are no texture: there a few pixels hold all of the change. What is
 * strengthened is what the enlargement made up, and so it is called.
 */
export const crisp: Step<'crisp', CrispSettings, CrispNumbers> = {
  kind: 'crisp',
  title: say`Crisper textures`,
  blurb: say`Cloth, leaves and stone that enlarging left smooth; made up.`,
  rank: 120,
  phases: ['target'],
  settings: CrispSettings,
  numbers: CrispNumbers,
  defaults: {},
  controls: [],
  changes: 'luminance',
  cost: ({ finer }) => 0.03 + 0.0015 * gaussianReach(OCTAVE * finer),

  resolve(_, { plan }) {
    const factor = factorOf(plan);
    // Shapes are as fine as they are drawn, and what is hardly larger lacks nothing.
    if (plan.vector || factor < FACTORS.least) return null;
    return { finer: FINE * Math.min(FACTORS.most, factor) };
  },

  scaled: ({ finer }, scale) => ({ finer: Math.max(0.01, finer * scale) }),
  size: (_, from) => from,
  inputRegion: ({ finer }, region, { from }) => grow(region, gaussianReach(finer), from),
  neighbourhood: ({ finer }) => finer,

  reduction: {
    form: ENERGIES,
    factor: cellOf,
    size: (numbers, from) => cellsIn(from, cellOf(numbers)),
    inputRegion: (numbers, region, { from }) =>
      grow(pixelsIn(region, cellOf(numbers), from), gaussianReach(OCTAVE * numbers.finer), from),
    neededBy: (numbers, region, { from }) => {
      const cell = cellOf(numbers);
      const reach = gaussianReach(inCells(ABOUT, numbers));
      return grow(cellsAbout(region, cell, from), reach, cellsIn(from, cell));
    },
    apply(input, numbers, region, { from }) {
      const cell = cellOf(numbers);
      const pixels = pixelsIn(region, cell, from);
      const [luma] = input.raster.planes as [Float32Array];
      const own = lumaOver(input, pixels);
      const near = blur(luma, input.region, pixels, from, numbers.finer);
      const far = blur(luma, input.region, pixels, from, OCTAVE * numbers.finer);
      const result = emptyRaster(region.width, region.height, ENERGIES);
      const [fine, octave, fourth] = result.planes as [Float32Array, Float32Array, Float32Array];
      for (let row = 0, at = 0; row < region.height; row++) {
        const bottom = Math.min((row + 1) * cell, pixels.height);
        for (let column = 0; column < region.width; column++, at++) {
          const right = Math.min((column + 1) * cell, pixels.width);
          let [finest, below, peaked, count] = [0, 0, 0, 0];
          for (let y = row * cell; y < bottom; y++) {
            for (let x = column * cell; x < right; x++, count++) {
              const i = y * pixels.width + x;
              const a = (own[i]! - near[i]!) / LEVEL;
              const b = (near[i]! - far[i]!) / LEVEL;
              finest += a * a;
              below += b * b;
              peaked += b * b * b * b;
            }
          }
          fine[at] = finest / count;
          octave[at] = below / count;
          fourth[at] = peaked / count;
        }
      }
      return result;
    },
  },

  apply(input, numbers, region, { from }, { reduced }) {
    const cell = cellOf(numbers);
    const cells = cellsAbout(region, cell, from);
    const means = (widths: number): Energies[] => {
      const [fine, octave, fourth] = reduced!.raster.planes.map((plane) =>
        blur(plane, reduced!.region, cells, cellsIn(from, cell), inCells(widths, numbers)),
      ) as [Float32Array, Float32Array, Float32Array];
      return [...fine].map((energy, i) => ({
        fine: energy,
        octave: octave[i]!,
        fourth: fourth[i]!,
      }));
    };
    const about = means(ABOUT);
    const gains = means(PLACE).map((place, i) => gainOf(place, about[i]!, numbers.finer));
    const [luma] = input.raster.planes as [Float32Array];
    const soft = blur(luma, input.region, region, from, numbers.finer);
    const own = lumaOver(input, region);
    const result = emptyRaster(region.width, region.height, LIGHTNESS);
    const [out] = result.planes as [Float32Array];
    const across = between(region.x, region.width, cell, cells.x, cells.width);
    for (let y = 0, i = 0; y < region.height; y++) {
      const down = between(region.y + y, 1, cell, cells.y, cells.height);
      const upper = down.first[0]! * cells.width;
      const lower = down.second[0]! * cells.width;
      const v = down.share[0]!;
      for (let x = 0; x < region.width; x++, i++) {
        const [a, b, u] = [across.first[x]!, across.second[x]!, across.share[x]!];
        const above = gains[upper + a]! + u * (gains[upper + b]! - gains[upper + a]!);
        const below = gains[lower + a]! + u * (gains[lower + b]! - gains[lower + a]!);
        out[i] = own[i]! + (above + v * (below - above)) * (own[i]! - soft[i]!);
      }
    }
    return result;
  },

  summary: (_, strength) => say`textures ${strength} %`,
};

/** Luminance of a part of a window. */
const lumaOver = (input: Parameters<typeof crisp.apply>[0], region: Region): Float32Array =>
  cut(input, region).planes[0]!;

/** Between which cells positions of an axis lie, and how far from the first to the second; at the rim both are one. */
function between(start: number, count: number, cell: number, from: number, cells: number) {
  const first = new Int32Array(count);
  const second = new Int32Array(count);
  const share = new Float32Array(count);
  for (let i = 0; i < count; i++) {
    const at = (start + i + 0.5) / cell - 0.5;
    const low = Math.floor(at);
    share[i] = at - low;
    first[i] = Math.min(cells - 1, Math.max(0, low - from));
    second[i] = Math.min(cells - 1, Math.max(0, low + 1 - from));
  }
  return { first, second, share };
}
