import { luminance, toYCbCr } from '../raster/colour';
import { lengthOf, smoothStep } from '../raster/portable-math';
import { means } from '../raster/gaussian';
import { mostAbout, rangeAbout } from '../raster/range';
import { pixelsOver, type Window } from '../raster/raster';
import { grow, within, type Region, type Size } from '../raster/region';
import type { ComputedPart, PlacedFaces } from './zone';

// Distances are in pixels of the original. On a print as many more are looked at as it has for one of them: `scale`.

/** How far flat areas are looked for about a pixel, steep slopes, and the strokes of letters. */
const FLAT_REACH = 3;
const LETTER_REACH = 4;
const SLOPE_REACH = 2;

/** What is steep on a print is told at its own pixels: as close by as they allow. */
const slopeReach = (scale: number): number => Math.max(SLOPE_REACH, Math.round(scale));
const flatReach = (scale: number): number => Math.round(FLAT_REACH * scale);
/** Letters are looked for at so many places to a side, this far apart. */
const letterStep = (scale: number): number => Math.max(1, Math.round(scale));

/**
 * Pixels around a pixel that a part looks at; 0 where it goes by places alone.
 * @param scale pixels of the grid to one of the original, 1 or more
 */
export function partReach(part: ComputedPart, scale = 1): number {
  switch (part.kind) {
    case 'linear':
    case 'round':
    case 'faces':
      return 0;
    case 'soft':
    case 'sharp':
      return windowOf(part.width, scale) + 1;
    case 'flat':
      return flatReach(scale);
    case 'edges':
      return slopeReach(scale) + 1;
    case 'lettering':
      return LETTER_REACH * letterStep(scale);
    default:
      return 1;
  }
}

/**
 * One part of a zone, 0–1 at every pixel of `region`.
 * @param input the picture over `region` grown by `partReach` as far as it goes
 * @param scale as in `partReach`
 */
export function partValues(
  part: ComputedPart,
  input: Window,
  region: Region,
  size: Size,
  scale = 1,
): Float32Array {
  const values = compute(part, input, region, size, scale);
  if (part.inverted) for (let i = 0; i < values.length; i++) values[i] = 1 - values[i]!;
  return values;
}

/** A number for every pixel of `region` from its colour. */
function fromColour(
  input: Window,
  region: Region,
  value: (y: number, cb: number, cr: number) => number,
): Float32Array {
  const { y, cb, cr } = toYCbCr(input.raster);
  return eachPixel(input, region, (at) => value(y[at]!, cb[at]!, cr[at]!));
}

function eachPixel(input: Window, region: Region, value: (at: number) => number): Float32Array {
  const result = new Float32Array(region.width * region.height);
  const { region: covered } = input;
  for (let v = 0, i = 0; v < region.height; v++) {
    let at = (region.y + v - covered.y) * covered.width + region.x - covered.x;
    for (let u = 0; u < region.width; u++, i++, at++) result[i] = value(at);
  }
  return result;
}

function eachPlace(
  region: Region,
  size: Size,
  value: (x: number, y: number) => number,
): Float32Array {
  const result = new Float32Array(region.width * region.height);
  for (let v = 0, i = 0; v < region.height; v++)
    for (let u = 0; u < region.width; u++, i++)
      result[i] = value((region.x + u + 0.5) / size.width, (region.y + v + 0.5) / size.height);
  return result;
}

function compute(
  part: ComputedPart,
  input: Window,
  region: Region,
  size: Size,
  scale: number,
): Float32Array {
  switch (part.kind) {
    case 'flat':
      return deviations(input, region, size, flatReach(scale)).map((one) =>
        smoothStep(one, part.level, part.level * 0.4),
      );
    case 'edges':
      return slopes(input, region, size, slopeReach(scale)).map((slope) =>
        smoothStep(slope * scale, part.level * 0.5, part.level),
      );
    case 'soft':
      return edgeWidths(
        input,
        region,
        size,
        { looked: part.width, scale },
        (width, climb) =>
          smoothStep(climb, 5, 12) * smoothStep(width, part.width * 0.8, part.width * 1.2),
      );
    case 'sharp':
      return edgeWidths(
        input,
        region,
        size,
        { looked: part.width, scale },
        (width, climb) =>
          smoothStep(climb, 8, 16) * smoothStep(width, part.width * 1.2, part.width * 0.8),
      );
    case 'tones': {
      const soft = Math.max(part.soft, 1 / 255);
      const from = part.from === 0 ? -soft : part.from;
      const to = part.to === 1 ? 1 + soft : part.to;
      return fromColour(input, region, (y) => {
        const tone = y / 255;
        return (
          smoothStep(tone, from - soft / 2, from + soft / 2) *
          smoothStep(tone, to + soft / 2, to - soft / 2)
        );
      });
    }
    case 'colour': {
      const [r, g, b] = [1, 3, 5].map((at) => parseInt(part.colour.slice(at, at + 2), 16)) as [
        number,
        number,
        number,
      ];
      const luma = 0.299 * r + 0.587 * g + 0.114 * b;
      const blue = (b - luma) / 1.772;
      const red = (r - luma) / 1.402;
      // Lightness counts for less: a colour in the shade is still that colour.
      return fromColour(input, region, (y, cb, cr) =>
        smoothStep(lengthOf((y - luma) / 3, cb - blue, cr - red), part.reach, part.reach * 0.5),
      );
    }
    case 'lettering':
      return lettering(input, region, size, part.contrast, letterStep(scale));
    case 'skin':
      // Within a box of colour differences, whatever the lightness (Chai & Ngan 1999).
      return fromColour(input, region, (y, cb, cr) => {
        const off = lengthOf(Math.max(0, -51 - cb, cb + 1), Math.max(0, 5 - cr, cr - 45));
        return smoothStep(off, part.reach, 0) * smoothStep(y, 25, 45);
      });
    case 'faces':
      return ovals(part, region, size);
    case 'linear': {
      const dx = part.x1 - part.x0;
      const dy = part.y1 - part.y0;
      const length = dx * dx + dy * dy || 1e-9;
      return eachPlace(region, size, (x, y) =>
        smoothStep(((x - part.x0) * dx + (y - part.y0) * dy) / length, 0, 1),
      );
    }
    case 'round': {
      const longer = Math.max(size.width, size.height);
      const outer = Math.max(part.outer, part.inner + 1e-6);
      return eachPlace(region, size, (x, y) => {
        const distance = lengthOf(
          ((x - part.x) * size.width) / longer,
          ((y - part.y) * size.height) / longer,
        );
        return smoothStep(distance, outer, part.inner);
      });
    }
  }
}

/** How soft the rim of a face is, as a share of its half. */
const RIM = 0.2;

/** Ovals about faces, soft at their rims. */
function ovals({ places, grow }: PlacedFaces, region: Region, size: Size): Float32Array {
  const result = new Float32Array(region.width * region.height);
  for (const place of places) {
    const [across, down] = [place.width * size.width, place.height * size.height];
    const [a, b] = [(across * grow) / 2, (down * grow) / 2];
    const [x, y] = [place.x * size.width + across / 2, place.y * size.height + down / 2];
    const near = within(
      {
        ...{ x: Math.floor(x - a * (1 + RIM)), y: Math.floor(y - b * (1 + RIM)) },
        width: Math.ceil(2 * a * (1 + RIM)) + 2,
        height: Math.ceil(2 * b * (1 + RIM)) + 2,
      },
      region,
    );
    for (let v = near.y; v < near.y + near.height; v++) {
      const row = (v - region.y) * region.width - region.x;
      for (let u = near.x; u < near.x + near.width; u++) {
        const off = lengthOf((u + 0.5 - x) / a, (v + 0.5 - y) / b);
        result[row + u] = Math.max(result[row + u]!, smoothStep(off, 1 + RIM, 1 - RIM));
      }
    }
  }
  return result;
}

/** Luminance in levels over a region of a window. */
function levelsOver(input: Window, region: Region): Float32Array {
  const luma = luminance(pixelsOver(input, region));
  for (let i = 0; i < luma.length; i++) luma[i]! *= 255;
  return luma;
}

/** Standard deviation of luminance in the square about every pixel, in levels. */
function deviations(input: Window, region: Region, size: Size, radius: number): Float32Array {
  const covered = grow(region, radius, size);
  // About the middle of the scale, squares keep more of their figures.
  const values = luminance(pixelsOver(input, covered)).map((value) => value - 0.5);
  const square = { half: new Float64Array(radius + 1).fill(1) };
  const mean = means(values, covered, region, size, square);
  for (let i = 0; i < values.length; i++) values[i]! *= values[i]!;
  const result = means(values, covered, region, size, square);
  for (let i = 0; i < result.length; i++) {
    result[i] = 255 * Math.sqrt(Math.max(0, result[i]! - mean[i]! * mean[i]!));
  }
  return result;
}

/** The steepest slope near every pixel, in levels a pixel of the grid. */
function slopes(input: Window, region: Region, size: Size, reach: number): Float32Array {
  const near = grow(region, reach, size);
  const covered = grow(near, 1, size);
  const levels = levelsOver(input, covered);
  const { width, height } = covered;
  const slope = new Float32Array(near.width * near.height);
  for (let v = 0, i = 0; v < near.height; v++) {
    const y = near.y + v - covered.y;
    for (let u = 0; u < near.width; u++, i++) {
      const x = near.x + u - covered.x;
      const at = y * width + x;
      const across = levels[at + (x + 1 < width ? 1 : 0)]! - levels[at - (x > 0 ? 1 : 0)]!;
      const down = levels[at + (y + 1 < height ? width : 0)]! - levels[at - (y > 0 ? width : 0)]!;
      slope[i] = lengthOf(across, down) / 2;
    }
  }
  return mostAbout(slope, near, region, size, reach);
}

/** Pixels to every side in which edges of such a width, in pixels of the original, are looked for. */
const windowOf = (width: number, scale: number): number =>
  Math.ceil(scale * Math.min(WINDOW_MOST, Math.ceil(width) + 1));
const WINDOW_MOST = 12;

/** A number for every pixel from how many of the original's pixels the hardest edge near it takes to rise, and how far it climbs, in levels. */
function edgeWidths(
  input: Window,
  region: Region,
  size: Size,
  { looked, scale }: { looked: number; scale: number },
  value: (width: number, climb: number) => number,
): Float32Array {
  const reach = windowOf(looked, scale);
  const near = grow(region, reach, size);
  const covered = grow(near, 1, size);
  const levels = levelsOver(input, covered);
  const steps = new Float32Array(near.width * near.height);
  const own = new Float32Array(near.width * near.height);
  for (let v = 0, i = 0; v < near.height; v++) {
    const y = near.y + v - covered.y;
    for (let u = 0; u < near.width; u++, i++) {
      const x = near.x + u - covered.x;
      const at = y * covered.width + x;
      const here = levels[at]!;
      const right = x + 1 < covered.width ? levels[at + 1]! : here;
      const below = y + 1 < covered.height ? levels[at + covered.width]! : here;
      own[i] = here;
      steps[i] = Math.max(Math.abs(right - here), Math.abs(below - here));
    }
  }
  const { least, most } = rangeAbout(own, near, region, size, reach);
  const steepest = mostAbout(steps, near, region, size, reach);
  for (let i = 0; i < most.length; i++) {
    const climb = most[i]! - least[i]!;
    most[i] = value(climb / Math.max(steepest[i]! * scale, 1e-3), climb);
  }
  return most;
}

/**
 * Where the square about a pixel holds two tones and little between: `contrast` apart, in levels, each with a fair
 * share of it.
 * @param step pixels from one place that is looked at to the next
 */
function lettering(
  input: Window,
  region: Region,
  size: Size,
  contrast: number,
  step: number,
): Float32Array {
  const reach = LETTER_REACH * step;
  const covered = grow(region, reach, size);
  const levels = levelsOver(input, covered);
  const { least, most } = rangeAbout(levels, covered, region, size, reach);
  const about = new Float32Array((2 * LETTER_REACH + 1) ** 2);
  const inside = (at: number, length: number) => {
    const before = Math.min(LETTER_REACH, Math.floor(at / step));
    const after = Math.min(LETTER_REACH, Math.floor((length - 1 - at) / step));
    return [at - before * step, at + after * step] as const;
  };
  for (let v = 0, i = 0; v < region.height; v++) {
    const [top, bottom] = inside(region.y + v, size.height);
    for (let u = 0; u < region.width; u++, i++) {
      const plain = most[i]! - least[i]! < contrast * 0.5;
      most[i] = 0;
      if (plain) continue;
      const [left, right] = inside(region.x + u, size.width);
      let count = 0;
      for (let y = top; y <= bottom; y += step) {
        const row = (y - covered.y) * covered.width - covered.x;
        for (let x = left; x <= right; x += step) about[count++] = levels[row + x]!;
      }
      most[i] = twoTones(about, count, contrast);
    }
  }
  return most;
}

/** How far so many levels are of two tones alone. */
function twoTones(levels: Float32Array, count: number, contrast: number): number {
  let least = Infinity;
  let most = -Infinity;
  for (let i = 0; i < count; i++) {
    if (levels[i]! < least) least = levels[i]!;
    if (levels[i]! > most) most = levels[i]!;
  }
  const range = most - least;
  if (range < contrast * 0.5) return 0;
  const middle = (least + most) / 2;
  let apart = 0;
  let above = 0;
  for (let i = 0; i < count; i++) {
    apart += Math.abs(levels[i]! - middle);
    if (levels[i]! > middle) above++;
  }
  const twoTone = apart / count / (range / 2);
  const fewer = Math.min(above, count - above) / count;
  return (
    smoothStep(range, contrast * 0.6, contrast) *
    smoothStep(twoTone, 0.5, 0.7) *
    smoothStep(fewer, 0.02, 0.1)
  );
}
