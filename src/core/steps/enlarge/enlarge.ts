import { z } from 'zod';
import type { Region, Size } from '../../raster/region';
import type { Step } from '../step';
import { buildFilter, firstTap, tapsOf, type Axis, type Filter } from './filter';
import { Method, methodNotes } from './kernels';
import { resample } from './resample';

export const EnlargeSettings = z.object({ method: Method });
export type EnlargeSettings = z.infer<typeof EnlargeSettings>;

/** The one resampling: crop and target size are folded into it. */
export const EnlargeNumbers = z.object({
  method: Method,
  /** real-valued rectangle of the original, in its pixels */
  source: z.object({ x: z.number(), y: z.number(), width: z.number(), height: z.number() }),
  width: z.int().positive(),
  height: z.int().positive(),
});
export type EnlargeNumbers = z.infer<typeof EnlargeNumbers>;

function axes(numbers: EnlargeNumbers, from: Size): { horizontal: Axis; vertical: Axis } {
  const { method, source, width, height } = numbers;
  return {
    horizontal: {
      method,
      sourceSize: from.width,
      origin: source.x,
      span: source.width,
      targetSize: width,
    },
    vertical: {
      method,
      sourceSize: from.height,
      origin: source.y,
      span: source.height,
      targetSize: height,
    },
  };
}

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

export const enlarge: Step<'enlarge', EnlargeSettings, EnlargeNumbers> = {
  kind: 'enlarge',
  title: 'Enlarge',
  phase: 'enlarge',
  settings: EnlargeSettings,
  numbers: EnlargeNumbers,
  defaults: { method: 'lanczos3' },

  settle: ({ method }, { plan }) => ({ method, source: plan.source, ...plan.pixels }),

  scaled: (numbers, scale) => ({
    ...numbers,
    width: Math.max(1, Math.round(numbers.width * scale)),
    height: Math.max(1, Math.round(numbers.height * scale)),
  }),

  size: ({ width, height }) => ({ width, height }),

  pull(numbers, region, { from }): Region {
    const { horizontal, vertical } = axes(numbers, from);
    const x = firstTap(horizontal, region.x);
    const y = firstTap(vertical, region.y);
    return {
      x,
      y,
      width: firstTap(horizontal, region.x + region.width - 1) + tapsOf(horizontal) - x,
      height: firstTap(vertical, region.y + region.height - 1) + tapsOf(vertical) - y,
    };
  },

  apply(input, numbers, region, { from }) {
    const { horizontal, vertical } = axes(numbers, from);
    return resample(
      input,
      filterFor(horizontal, region.x, region.width),
      filterFor(vertical, region.y, region.height),
      region,
    );
  },

  summary: ({ method }) => methodNotes[method].title.toLowerCase(),
};
