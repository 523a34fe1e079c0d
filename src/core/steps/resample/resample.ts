import { z } from 'zod';
import { Rect, STRAIGHTEN_LIMIT, Turn } from '../../frame/framing';
import { premultiplied, unpremultiply } from '../../raster/alpha';
import { fromLight, toLight } from '../../raster/light';
import type { Window } from '../../raster/raster';
import { whole, type Region, type Size } from '../../raster/region';
import { beforeTurn, turnRaster } from '../../raster/turn';
import { Plain, Traced } from '../enlarge/methods';
import { trace } from '../../tracing/trace';
import { drawTraced } from '../../tracing/traced';
import type { Stage } from '../step';
import { resampleCost } from './cost';
import { inputOf, run, steppedPasses, type Pass } from './passes';

/** In which numbers pixels are mixed: as they are encoded, or as light adds up. */
export const Light = z.enum(['gamma', 'linear']);
export type Light = z.infer<typeof Light>;

/** Percent that the stepped method grows by at a time. */
export const StepPercent = z.number().min(1).max(100);

/** The one resampling: turn, angle, crop and target size are folded into it. */
export const ResampleNumbers = z.object({
  method: z.enum([...Plain.options, Traced.value]),
  light: Light.default('gamma'),
  /** 0–1 */
  limit: z.number().min(0).max(1).default(0),
  step: StepPercent.default(10),
  /** real-valued rectangle of the turned and straightened original, in its pixels */
  source: Rect,
  turn: Turn,
  /** clockwise, in degrees */
  straighten: z.number().min(-STRAIGHTEN_LIMIT).max(STRAIGHTEN_LIMIT),
  width: z.int().positive(),
  height: z.int().positive(),
});
export type ResampleNumbers = z.infer<typeof ResampleNumbers>;

/** The grid after the quarter turns. */
const turned = ({ turn }: ResampleNumbers, from: Size): Size =>
  turn % 180 === 0 ? from : { width: from.height, height: from.width };

/** What is done to the turned grid, one resampling after another. */
function passes(numbers: ResampleNumbers, frame: Size): Pass[] {
  const { source, width, height, straighten, step } = numbers;
  const method = Plain.parse(numbers.method);
  const only: Omit<Pass, 'method'> = {
    frame,
    source,
    target: { width, height },
    degrees: straighten,
  };
  if (method === 'stepped') return steppedPasses({ ...only, method: 'bicubic' }, step);
  return [{ ...only, method: method === 'lanczos3-jinc' ? 'round' : method }];
}

/** What each pass is asked for, so that the last one gives `region`; the first is asked of the frame. */
const pulls = (list: readonly Pass[], region: Region): Region[] =>
  list.reduceRight<Region[]>((all, pass) => [inputOf(pass, all[0]!), ...all], [region]);

/** The one resampling that every picture with pixels goes through. */
export const resample = {
  kind: 'resample',
  phases: ['enlarge'],
  numbers: ResampleNumbers,

  cost: resampleCost,

  scaled: (numbers, scale) => ({
    ...numbers,
    width: Math.max(1, Math.round(numbers.width * scale)),
    height: Math.max(1, Math.round(numbers.height * scale)),
  }),

  size: ({ width, height }) => ({ width, height }),

  inputRegion(numbers, region, { from }): Region {
    if (numbers.method === 'traced') return whole(from);
    const [first] = pulls(passes(numbers, turned(numbers, from)), region);
    return beforeTurn(first!, numbers.turn, from);
  },

  apply(input, numbers, region, { from }) {
    // Of all of the picture: whoever renders region by region keeps what it was traced to (recipe/graph.ts).
    if (numbers.method === 'traced') return drawTraced(trace(input.raster), numbers, region);
    const frame = turned(numbers, from);
    const mixes = numbers.method !== 'nearest' && input.raster.form.alpha;
    const linear = numbers.light === 'linear';
    const lit = linear ? toLight(input.raster) : input.raster;
    const list = passes(numbers, frame);
    const [, ...regions] = pulls(list, region);
    let window = onFrame(
      { ...input, raster: mixes ? premultiplied(lit) : lit },
      numbers.turn,
      frame,
    );
    list.forEach((pass, i) => {
      const part = regions[i]!;
      window = { region: part, raster: run(pass, window, part, numbers.limit) };
    });
    const result = mixes ? unpremultiply(window.raster) : window.raster;
    return linear ? fromLight(result) : result;
  },
} satisfies Stage<'resample', ResampleNumbers>;

/** A window of the original as it lies on the turned grid. */
function onFrame({ region, raster }: Window, turn: Turn, frame: Size): Window {
  if (turn === 0) return { region, raster };
  // Turning by the rest of the circle leads back, so it also tells where a part arrives.
  const rest = Turn.parse(360 - turn);
  return { region: beforeTurn(region, rest, frame), raster: turnRaster(raster, turn) };
}
