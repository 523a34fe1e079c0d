import { z } from 'zod';
import { Rect, STRAIGHTEN_LIMIT, Turn } from '../../frame/framing';
import { premultiplied, unpremultiply } from '../../raster/alpha';
import type { Raster, Window } from '../../raster/raster';
import type { Region, Size } from '../../raster/region';
import { beforeTurn, turnRaster } from '../../raster/turn';
import type { Step } from '../step';
import { buildFilter, firstTap, tapsOf, type Axis, type Filter } from './filter';
import { Method, methodNotes } from './kernels';
import { resample } from './resample';
import { resampleSlanted, slantedPull, type Slant } from './slanted';

export const EnlargeSettings = z.object({ method: Method });
export type EnlargeSettings = z.infer<typeof EnlargeSettings>;

/** The one resampling: turn, angle, crop and target size are folded into it. */
export const EnlargeNumbers = z.object({
  method: Method,
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

function axes(numbers: EnlargeNumbers, frame: Size): { horizontal: Axis; vertical: Axis } {
  const { method, source, width, height } = numbers;
  return {
    horizontal: {
      method,
      sourceSize: frame.width,
      origin: source.x,
      span: source.width,
      targetSize: width,
    },
    vertical: {
      method,
      sourceSize: frame.height,
      origin: source.y,
      span: source.height,
      targetSize: height,
    },
  };
}

const slantOf = (numbers: EnlargeNumbers, frame: Size): Slant => ({
  method: numbers.method,
  source: numbers.source,
  target: { width: numbers.width, height: numbers.height },
  frame,
  degrees: numbers.straighten,
});

/** Filters of the last few regions: strips share their horizontal one, sliders share both. */
const recent = new Map<string, Filter>();
const RECENT = 8;

function filterFor(axis: Axis, start: number, count: number): Filter {
  const key = JSON.stringify([axis, start, count]);
  let filter = recent.get(key);
  recent.delete(key);
  filter ??= buildFilter(axis, start, count);
  recent.set(key, filter);
  if (recent.size > RECENT) recent.delete(recent.keys().next().value!);
  return filter;
}

export const enlarge = {
  kind: 'enlarge',
  title: 'Enlarge',
  phases: ['enlarge'],
  settings: EnlargeSettings,
  numbers: EnlargeNumbers,
  defaults: { method: 'lanczos3' },

  // What is drawn from shapes comes at its size and has no pixels to enlarge.
  settle: ({ method }, { plan, framing }) =>
    plan.vector
      ? null
      : {
          method,
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
    const frame = turned(numbers, from);
    const onFrame =
      numbers.straighten === 0
        ? uprightPull(axes(numbers, frame), region)
        : slantedPull(slantOf(numbers, frame), region);
    return beforeTurn(onFrame, numbers.turn, from);
  },

  apply(input, numbers, region, { from }) {
    const frame = turned(numbers, from);
    const mixes = numbers.method !== 'nearest' && input.raster.planes.length === 4;
    const window = onFrame(
      mixes ? { ...input, raster: premultiplied(input.raster) } : input,
      numbers.turn,
      frame,
    );
    const result =
      numbers.straighten === 0
        ? upright(window, axes(numbers, frame), region)
        : resampleSlanted(window, slantOf(numbers, frame), region);
    return mixes ? unpremultiply(result) : result;
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

type Axes = ReturnType<typeof axes>;

function uprightPull({ horizontal, vertical }: Axes, region: Region): Region {
  const x = firstTap(horizontal, region.x);
  const y = firstTap(vertical, region.y);
  return {
    x,
    y,
    width: firstTap(horizontal, region.x + region.width - 1) + tapsOf(horizontal) - x,
    height: firstTap(vertical, region.y + region.height - 1) + tapsOf(vertical) - y,
  };
}

const upright = (input: Window, { horizontal, vertical }: Axes, region: Region): Raster =>
  resample(
    input,
    filterFor(horizontal, region.x, region.width),
    filterFor(vertical, region.y, region.height),
    region,
  );
