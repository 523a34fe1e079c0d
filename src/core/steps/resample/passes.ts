import type { Rect } from '../../frame/framing';
import type { Raster, Window } from '../../raster/raster';
import { whole, type Region, type Size } from '../../raster/region';
import { buildFilter, firstTap, tapsOf, type Axis, type AxisMethod, type Filter } from './filter';
import { resample } from './separable';
import { resampleJinc, jincInput } from './jinc';
import { resampleSlanted, slantedInput } from './slanted';

/** One resampling of a frame: what of it, to how many pixels, at which angle, by what. */
export interface Pass {
  method: AxisMethod | 'round';
  frame: Size;
  /** real-valued rectangle of the straightened frame, in its pixels */
  source: Rect;
  target: Size;
  /** clockwise, in degrees */
  degrees: number;
}

/**
 * The passes of an enlargement that grows by `percent` at a time until it arrives: the folk method.
 * Each ends on whole pixels that cover the same part of the picture.
 */
export function steppedPasses(only: Pass, percent: number): Pass[] {
  const { source, target } = only;
  const factor = Math.max(target.width / source.width, target.height / source.height);
  const sizes: Size[] = [];
  for (let grown = 1 + percent / 100; grown < factor / 1.0001; grown *= 1 + percent / 100) {
    sizes.push({
      width: Math.min(target.width, Math.ceil(source.width * grown)),
      height: Math.min(target.height, Math.ceil(source.height * grown)),
    });
  }
  let frame = only.frame;
  let from = source;
  let degrees = only.degrees;
  return [...sizes, target].map((size) => {
    const pass: Pass = { ...only, frame, source: from, degrees, target: size };
    // Cropped and straightened is once.
    frame = size;
    from = whole(size);
    degrees = 0;
    return pass;
  });
}

/** The part of the pass's frame that `region` of its target needs. */
export function inputOf(pass: Pass, region: Region): Region {
  if (pass.method === 'round') return jincInput(pass, region);
  if (pass.degrees !== 0) return slantedInput(pass, pass.method, region);
  return axesInput(axes(pass, pass.method), region);
}

export function axesInput({ horizontal, vertical }: Axes, region: Region): Region {
  const x = firstTap(horizontal, region.x);
  const y = firstTap(vertical, region.y);
  return {
    x,
    y,
    width: firstTap(horizontal, region.x + region.width - 1) + tapsOf(horizontal) - x,
    height: firstTap(vertical, region.y + region.height - 1) + tapsOf(vertical) - y,
  };
}

/** `region` of a pass's target from a window over at least `inputOf(region)`. */
export function run(pass: Pass, input: Window, region: Region, limit: number): Raster {
  if (pass.method === 'round') return resampleJinc(input, pass, region, limit);
  if (pass.degrees !== 0) return resampleSlanted(input, pass, pass.method, region, limit);
  const { horizontal, vertical } = filtersFor(axes(pass, pass.method), region);
  return resample(input, horizontal, vertical, region, limit);
}

export function filtersFor(
  { horizontal, vertical }: Axes,
  region: Region,
): { horizontal: Filter; vertical: Filter } {
  return {
    horizontal: filterFor(horizontal, region.x, region.width),
    vertical: filterFor(vertical, region.y, region.height),
  };
}

/** Both axes of a resampling that is upright and separable. */
export interface Axes {
  horizontal: Axis;
  vertical: Axis;
}

function axes({ frame, source, target }: Pass, method: AxisMethod): Axes {
  return {
    horizontal: {
      method,
      sourceSize: frame.width,
      origin: source.x,
      span: source.width,
      targetSize: target.width,
    },
    vertical: {
      method,
      sourceSize: frame.height,
      origin: source.y,
      span: source.height,
      targetSize: target.height,
    },
  };
}

/** Filters of the last few regions: strips share their horizontal one, sliders share both. */
const recent = new Map<string, Filter>();
const RECENT = 24;

function filterFor(axis: Axis, start: number, count: number): Filter {
  const key = JSON.stringify([axis, start, count]);
  let filter = recent.get(key);
  recent.delete(key);
  filter ??= buildFilter(axis, start, count);
  recent.set(key, filter);
  if (recent.size > RECENT) recent.delete(recent.keys().next().value!);
  return filter;
}
