import { z } from 'zod';
import { Rect, STRAIGHTEN_LIMIT, Turn } from '../../frame/framing';
import { premultiplied, unpremultiply } from '../../raster/alpha';
import { fromLight, toLight } from '../../raster/light';
import type { Window } from '../../raster/raster';
import type { Region, Size } from '../../raster/region';
import { beforeTurn, turnRaster } from '../../raster/turn';
import { ZoneId } from '../../zone/zone';
import type { Step } from '../step';
import { Method, methodNotes, Plain } from './methods';
import { pullOf, run, steppedPasses, type Pass } from './passes';

/** In which numbers pixels are mixed: as they are encoded, or as light adds up. */
export const Light = z.enum(['gamma', 'linear']);
export type Light = z.infer<typeof Light>;

/** Percent that the stepped method grows by at a time. */
export const StepPercent = z.number().min(1).max(100);

/** A zone with a method of its own. */
export const MethodPart = z.object({ zone: ZoneId, method: Method });
export type MethodPart = z.infer<typeof MethodPart>;

export const EnlargeSettings = z.object({
  method: Method,
  light: Light.default('gamma'),
  /** how much of what a ringing kernel swings beyond its neighbours is taken back, in % */
  limit: z.number().min(0).max(100).default(0),
  step: StepPercent.default(10),
  /** zones that another method enlarges */
  parts: z.array(MethodPart).max(4).default([]),
});
export type EnlargeSettings = z.infer<typeof EnlargeSettings>;

/** The one resampling: turn, angle, crop and target size are folded into it. */
export const EnlargeNumbers = z.object({
  method: Plain,
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
export type EnlargeNumbers = z.infer<typeof EnlargeNumbers>;

/** The grid after the quarter turns. */
const turned = ({ turn }: EnlargeNumbers, from: Size): Size =>
  turn % 180 === 0 ? from : { width: from.height, height: from.width };

/** What is done to the turned grid, one resampling after another. */
function passes(numbers: EnlargeNumbers, frame: Size): Pass[] {
  const { method, source, width, height, straighten, step } = numbers;
  const only: Omit<Pass, 'method'> = {
    frame,
    source,
    target: { width, height },
    degrees: straighten,
  };
  if (method === 'stepped') return steppedPasses({ ...only, method: 'bicubic' }, step);
  return [{ ...only, method: method === 'lanczos3-round' ? 'round' : method }];
}

/** What each pass is asked for, so that the last one gives `region`; the first is asked of the frame. */
const pulls = (list: readonly Pass[], region: Region): Region[] =>
  list.reduceRight<Region[]>((all, pass) => [pullOf(pass, all[0]!), ...all], [region]);

export const enlarge = {
  kind: 'enlarge',
  title: 'Enlarge',
  phases: ['enlarge'],
  settings: EnlargeSettings,
  numbers: EnlargeNumbers,
  defaults: { method: 'auto', light: 'gamma', limit: 0, step: 10, parts: [] },

  // What is drawn from shapes comes at its size and has no pixels to enlarge.
  settle: ({ light, limit, step }, { plan, framing, enlargement }) =>
    plan.vector
      ? null
      : {
          method: enlargement,
          light,
          limit: limit / 100,
          step,
          source: plan.source,
          turn: framing.turn,
          straighten: framing.straighten,
          width: plan.picture.width,
          height: plan.picture.height,
        },

  scaled: (numbers, scale) => ({
    ...numbers,
    width: Math.max(1, Math.round(numbers.width * scale)),
    height: Math.max(1, Math.round(numbers.height * scale)),
  }),

  size: ({ width, height }) => ({ width, height }),

  pull(numbers, region, { from }): Region {
    const [first] = pulls(passes(numbers, turned(numbers, from)), region);
    return beforeTurn(first!, numbers.turn, from);
  },

  apply(input, numbers, region, { from }) {
    const frame = turned(numbers, from);
    const mixes = numbers.method !== 'nearest' && input.raster.planes.length === 4;
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

  summary: ({ method }) => methodNotes[method].title.toLowerCase(),
} satisfies Step<'enlarge', EnlargeSettings, EnlargeNumbers>;

/** A window of the original as it lies on the turned grid. */
function onFrame({ region, raster }: Window, turn: Turn, frame: Size): Window {
  if (turn === 0) return { region, raster };
  // Turning by the rest of the circle leads back, so it also tells where a part arrives.
  const rest = Turn.parse(360 - turn);
  return { region: beforeTurn(region, rest, frame), raster: turnRaster(raster, turn) };
}
