import { z } from 'zod';
import { cut, type Raster, type Window } from '../../raster/raster';
import { clip, union, type Region, type Size } from '../../raster/region';
import type { PrintPlan } from '../../measure/plan';
import type { Framing } from '../../frame/framing';
import { onTarget } from './on-target';
import type { Step } from '../step';
import { rim, shapeRegion, shapeValues } from './shape';
import { say } from '../../words/say';

/** The largest radius of a spot and the most spots of one step. */
export const SPOT_LIMIT = 200;
const SPOTS = 600;

const coordinate = z.number().min(-1e6).max(1e6);

/** A dab or a stroke that takes its pixels from elsewhere, in pixels of the original. */
export const Spot = z.object({
  id: z.string().min(1).max(40),
  /** healed: fitted to what is about it; cloned: as it is at its source */
  how: z.enum(['heal', 'clone']),
  points: z
    .array(z.tuple([coordinate, coordinate]))
    .min(1)
    .max(400),
  radius: z.number().min(0.5).max(SPOT_LIMIT),
  /** from a pixel to where its replacement lies */
  offset: z.tuple([coordinate, coordinate]),
  /** share of the radius over which it fades, 0–1 */
  softness: z.number().min(0).max(1),
});
export type Spot = z.infer<typeof Spot>;

export const RetouchSettings = z.object({ spots: z.array(Spot).max(SPOTS) });
export type RetouchSettings = z.infer<typeof RetouchSettings>;

/** The same, in pixels of the grid where the step stands. */
export const RetouchNumbers = RetouchSettings;

/**
 * Heals and clones spots. A healed one takes the texture of its source and the tones of its own
 * surroundings: the difference between both along the spot's rim is carried inward (after Pérez,
 * Gangnet & Blake 2003, "Poisson image editing", with weights by distance in place of a solver).
 * Every spot looks at the untouched picture; where spots lie over each other the later one shows.
 */
export const retouch = {
  kind: 'retouch',
  title: say`Dust and scratches`,
  blurb: say`Spots healed or cloned.`,
  rank: 50,
  phases: ['original', 'target'],
  settings: RetouchSettings,
  numbers: RetouchNumbers,
  defaults: { spots: [] },
  // Spots are made on the picture.
  controls: [],
  belongsTo: 'picture',
  cost: () => 0.05,

  resolve({ spots }, { phase, plan, framing, original }) {
    if (spots.length === 0) return null;
    return phase === 'original'
      ? { spots }
      : { spots: placedOnTarget(spots, plan, framing, original) };
  },

  scaled: (numbers, scale) => times(numbers, scale),
  proxy: (numbers, scale) => times(numbers, scale),
  size: (_, from) => from,

  inputRegion({ spots }, region, { from }) {
    return touching(spots, region, from).reduce(
      (pulled, spot) => union(pulled, neededBy(spot, from)),
      region,
    );
  },

  apply(input, { spots }, region, { from }) {
    const result = cut(input, region);
    for (const spot of touching(spots, region, from)) lay(spot, input, result, region, from);
    return result;
  },

  summary: ({ spots }) =>
    spots.length === 0
      ? say`nothing healed`
      : spots.length === 1
        ? say`1 spot`
        : say`${spots.length} spots`,
} satisfies Step<'retouch', RetouchSettings, RetouchSettings>;

const times = ({ spots }: RetouchSettings, scale: number): RetouchSettings => ({
  spots: spots.map((spot) => ({
    ...spot,
    points: spot.points.map(([x, y]) => [x * scale, y * scale] as [number, number]),
    radius: Math.min(SPOT_LIMIT, Math.max(0.5, spot.radius * scale)),
    offset: [Math.round(spot.offset[0] * scale), Math.round(spot.offset[1] * scale)],
  })),
});

function placedOnTarget(
  spots: readonly Spot[],
  plan: PrintPlan,
  framing: Framing,
  original: Size,
): Spot[] {
  const place = onTarget(plan, framing, original);
  return spots.map((spot) => {
    const [x, y] = spot.points[0]!;
    const here = place.point(x, y);
    const there = place.point(x + spot.offset[0], y + spot.offset[1]);
    return {
      ...spot,
      points: spot.points.map(([u, v]) => place.point(u, v)),
      radius: Math.min(SPOT_LIMIT, Math.max(0.5, spot.radius * place.scale)),
      offset: [Math.round(there[0] - here[0]), Math.round(there[1] - here[1])],
    };
  });
}

const touching = (spots: readonly Spot[], region: Region, size: Size): Spot[] =>
  spots.filter((spot) => {
    const { x, y, width, height } = shapeRegion(spot, size);
    return (
      width > 0 &&
      height > 0 &&
      x < region.x + region.width &&
      y < region.y + region.height &&
      x + width > region.x &&
      y + height > region.y
    );
  });

/** A spot with its rim, and the same at its source. */
function neededBy(spot: Spot, size: Size): Region {
  const own = shapeRegion(spot, size);
  const [dx, dy] = spot.offset.map(Math.round) as [number, number];
  const source = clip({ ...own, x: own.x + dx, y: own.y + dy }, size);
  return source.width > 0 && source.height > 0 ? union(own, source) : own;
}

/** Lays one spot into `result`, which covers `region`. */
function lay(spot: Spot, input: Window, result: Raster, region: Region, size: Size): void {
  const own = shapeRegion(spot, size);
  const values = shapeValues(spot, own);
  const [dx, dy] = spot.offset.map(Math.round) as [number, number];
  const { region: covered, raster } = input;
  const index = (x: number, y: number) => (y - covered.y) * covered.width + x - covered.x;
  // A source beyond the picture's border is read at the border.
  const source = (x: number, y: number) =>
    index(
      Math.min(Math.max(x + dx, 0), size.width - 1),
      Math.min(Math.max(y + dy, 0), size.height - 1),
    );
  const border = spot.how === 'heal' ? rim(spot, own, size) : [];
  const differences = raster.planes.map((plane) =>
    border.map(({ x, y }) => plane[index(x, y)]! - plane[source(x, y)]!),
  );
  const within = clip(
    { ...own, x: own.x - region.x, y: own.y - region.y },
    { width: region.width, height: region.height },
  );
  const shifts = new Float64Array(raster.planes.length);
  for (let v = within.y; v < within.y + within.height; v++) {
    for (let u = within.x; u < within.x + within.width; u++) {
      const x = region.x + u;
      const y = region.y + v;
      const share = values[(y - own.y) * own.width + x - own.x]!;
      if (share === 0) continue;
      shifts.fill(0);
      if (border.length > 0) {
        let total = 0;
        for (let k = 0; k < border.length; k++) {
          const square = (border[k]!.x - x) ** 2 + (border[k]!.y - y) ** 2;
          const weight = 1 / (square * square + 1e-3);
          total += weight;
          for (let c = 0; c < shifts.length; c++) shifts[c]! += weight * differences[c]![k]!;
        }
        for (let c = 0; c < shifts.length; c++) shifts[c]! /= total;
      }
      const from = source(x, y);
      const i = v * region.width + u;
      result.planes.forEach((plane, c) => {
        const taken = raster.planes[c]![from]! + shifts[c]!;
        plane[i]! += share * (taken - plane[i]!);
      });
    }
  }
}
