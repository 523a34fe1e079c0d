import { z } from 'zod';
import { Ground, MOST_GROUNDS, nearestGrounds } from '../../inspect/grounds';
import type { JpegFacts } from '../../inspect/jpeg';
import { STANDARD_LUMA, tableAtQuality } from '../../inspect/jpeg-quality';
import { severityOf } from '../../learned/planes';
import { formatNumber } from '../../measure/format';
import { cut, type Raster } from '../../raster/raster';
import { grow, type Region } from '../../raster/region';
import { LEVEL } from '../../raster/samples';
import { automatic } from '../automatic';
import { linearStep } from '../neighbours';
import type { Step } from '../step';
import { say } from '../../words/say';

/** The most that a pixel may be off its ground and still be it, in levels. */
const MOST = 40;

export const GroundSettings = z.object({
  /** how far off a ground pixels may be that are it, in levels; automatic: by what compression left */
  tolerance: automatic(0, MOST),
});
export type GroundSettings = z.infer<typeof GroundSettings>;

export const GroundNumbers = z.object({
  grounds: z.array(Ground).min(1).max(MOST_GROUNDS),
  /** of each ground, on the 0–1 scale */
  tolerances: z.array(z.number().positive()).min(1).max(MOST_GROUNDS),
});
export type GroundNumbers = z.infer<typeof GroundNumbers>;

/** Pixels about a pixel, to either side, by whose mean a ground is told from a gradient that passes its colour. */
const REACH = 7;
/** Their mean may be off the ground by so many levels; from there on it counts less and less. */
const OFF = { none: 2, all: 4 } as const;
/** Sums are of whole parts of a level, so that they are the same whatever was read. */
const PARTS = 16 / LEVEL;
/** Of the distance to the nearest other ground a tolerance takes no more than this: edges between them stay soft. */
const APART = 0.2;

/** What compression leaves on a ground once it was cleaned, in levels, by how strong it was. */
const left = (severity: number): number => 4 + 18 * severity;
/** What it leaves where nobody knows how strong it was. */
const UNKNOWN = 6;

/** How far off a ground pixels are that compression moved, in levels; nothing where there was none. */
function usual(jpeg: JpegFacts | null, formerQuality: number | null): number {
  if (jpeg && formerQuality !== null) {
    return left(severityOf(tableAtQuality(STANDARD_LUMA, formerQuality)));
  }
  if (jpeg) return left(Math.max(severityOf(jpeg.luma), jpeg.chroma ? severityOf(jpeg.chroma) : 0));
  return formerQuality === null ? 0 : UNKNOWN;
}

/** Makes pixels wholly their ground that belong to one of the flat colours a drawing lies on. */
export const ground: Step<'ground', GroundSettings, GroundNumbers> = {
  kind: 'ground',
  title: say`Even ground`,
  blurb: say`Ripples and specks on the flat colours of a drawing.`,
  rank: 25,
  phases: ['original'],
  settings: GroundSettings,
  numbers: GroundNumbers,
  defaults: { tolerance: 'auto' },
  controls: [
    {
      ...{ form: 'slider', setting: 'tolerance', label: say`Off the ground by`, min: 0, max: MOST },
      ...{ step: 0.5, unit: 'levels' },
      automatic: ({ jpeg, formerQuality, compressedBefore }) =>
        usual(jpeg, compressedBefore?.quality ?? formerQuality),
    },
  ],
  cost: ({ grounds }) => 0.06 + 0.12 * grounds.length,

  resolve({ tolerance }, context) {
    const { grounds, plan, framing, jpeg, blocks } = context;
    const levels = tolerance === 'auto' ? usual(jpeg, blocks?.quality ?? null) : tolerance;
    if (levels === 0 || grounds.length === 0 || plan.vector || framing.grid) return null;
    const tolerances = grounds.map((one, i) => {
      const others = grounds.filter((_, k) => k !== i).map((other) => distance(one, other));
      return Math.max(LEVEL / 2, Math.min(levels * LEVEL, APART * Math.min(1, ...others)));
    });
    return { grounds: [...grounds], tolerances };
  },

  scaled: (numbers) => numbers,
  proxy: (numbers) => numbers,
  size: (_, from) => from,
  inputRegion: (_, region, { from }) => grow(region, REACH, from),

  apply(input, { grounds, tolerances }, region) {
    const result = cut(input, region);
    const { raster } = input;
    const of = nearestGrounds(raster, grounds, tolerances);
    const present = new Set(of);
    grounds.forEach((one, k) => {
      if (present.has(k)) lay(result, raster, one, k, of, input.region, region);
    });
    return result;
  },

  summary: ({ tolerance }, strength) =>
    say`ground ${tolerance === 'auto' ? say`auto` : formatNumber(tolerance, 1)}${strength < 100 ? ` · ${strength} %` : ''}`,
};

const distance = (one: Ground, other: Ground): number =>
  Math.max(...one.map((value, c) => Math.abs(value - other[c]!)));

/** Lays a ground over the pixels that are it. */
function lay(
  result: Raster,
  from: Raster,
  ground_: Ground,
  k: number,
  of: Int8Array,
  covered: Region,
  region: Region,
): void {
  const { width, height } = covered;
  const counts = sumsOf(width, height, (i) => (of[i] === k ? 1 : 0));
  const sums = ground_.map((value, c) =>
    sumsOf(width, height, (i) =>
      of[i] === k ? Math.round(PARTS * (from.planes[c]![i]! - value)) : 0,
    ),
  );
  for (let y = 0, i = 0; y < region.height; y++) {
    const v = region.y + y - covered.y;
    const top = Math.max(0, v - REACH);
    const bottom = Math.min(height, v + REACH + 1);
    for (let x = 0; x < region.width; x++, i++) {
      const u = region.x + x - covered.x;
      if (of[v * width + u] !== k) continue;
      const first = Math.max(0, u - REACH);
      const end = Math.min(width, u + REACH + 1);
      const within = (table: Float64Array) =>
        table[bottom * (width + 1) + end]! -
        table[top * (width + 1) + end]! -
        table[bottom * (width + 1) + first]! +
        table[top * (width + 1) + first]!;
      const count = within(counts);
      const off = Math.max(...sums.map((table) => Math.abs(within(table)))) / count / PARTS / LEVEL;
      const share = 1 - linearStep(off, OFF.none, OFF.all);
      if (share === 0) continue;
      ground_.forEach((value, c) => {
        const plane = result.planes[c]!;
        plane[i]! += share * (value - plane[i]!);
      });
    }
  }
}

/** Sums of whole numbers over all rectangles from the upper left corner (Crow 1984). */
function sumsOf(width: number, height: number, of: (i: number) => number): Float64Array {
  const table = new Float64Array((width + 1) * (height + 1));
  for (let y = 0; y < height; y++) {
    let row = 0;
    for (let x = 0; x < width; x++) {
      row += of(y * width + x);
      table[(y + 1) * (width + 1) + x + 1] = table[y * (width + 1) + x + 1]! + row;
    }
  }
  return table;
}
