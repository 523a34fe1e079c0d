import { luminance, toYCbCr } from '../raster/colour';
import { lengthOf, smoothStep } from '../raster/portable-math';
import { mostAbout, rangeAbout } from '../raster/range';
import { pixelsOver, type Window } from '../raster/raster';
import { grow, type Region, type Size } from '../raster/region';
import type { ComputedPart } from './zone';

/** Pixels around a pixel that most parts look at. */
const PART_REACH = 4;

/** Pixels around a pixel that a part looks at; 0 where it goes by places alone. */
export function partReach(part: ComputedPart): number {
  switch (part.kind) {
    case 'linear':
    case 'round':
      return 0;
    case 'soft':
    case 'sharp':
      return windowOf(part.width) + 1;
    default:
      return PART_REACH;
  }
}

/**
 * One part of a zone, 0–1 at every pixel of `region`.
 * @param input the picture over `region` grown by `partReach` as far as it goes
 */
export function partValues(
  part: ComputedPart,
  input: Window,
  region: Region,
  size: Size,
): Float32Array {
  const values = compute(part, input, region, size);
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

function compute(part: ComputedPart, input: Window, region: Region, size: Size): Float32Array {
  switch (part.kind) {
    case 'flat':
      return deviations(input, region, size, 3).map((one) =>
        smoothStep(one, part.level, part.level * 0.4),
      );
    case 'edges':
      return slopes(input, region, size).map((slope) =>
        smoothStep(slope, part.level * 0.5, part.level),
      );
    case 'soft':
      return edgeWidths(
        input,
        region,
        size,
        part.width,
        (width, climb) =>
          smoothStep(climb, 5, 12) * smoothStep(width, part.width * 0.8, part.width * 1.2),
      );
    case 'sharp':
      return edgeWidths(
        input,
        region,
        size,
        part.width,
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
      return lettering(input, region, part.contrast);
    case 'skin':
      // Within a box of colour differences, whatever the lightness (Chai & Ngan 1999).
      return fromColour(input, region, (y, cb, cr) => {
        const off = lengthOf(Math.max(0, -51 - cb, cb + 1), Math.max(0, 5 - cr, cr - 45));
        return smoothStep(off, part.reach, 0) * smoothStep(y, 25, 45);
      });
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

/** Calls `value` for every pixel of `region` with the luminance, in levels, of the window about it. */
function eachWindow(
  input: Window,
  region: Region,
  radius: number,
  value: (levels: Float32Array, count: number) => number,
): Float32Array {
  const { region: covered, raster } = input;
  const { y: luma } = toYCbCr(raster);
  const side = 2 * radius + 1;
  const levels = new Float32Array(side * side);
  const result = new Float32Array(region.width * region.height);
  const right = covered.x + covered.width;
  const bottom = covered.y + covered.height;
  for (let v = 0, i = 0; v < region.height; v++)
    for (let u = 0; u < region.width; u++, i++) {
      const x = region.x + u;
      const y = region.y + v;
      const from = Math.max(x - radius, covered.x);
      const to = Math.min(x + radius + 1, right);
      let count = 0;
      for (let b = Math.max(y - radius, covered.y); b < Math.min(y + radius + 1, bottom); b++) {
        let at = (b - covered.y) * covered.width + from - covered.x;
        for (let a = from; a < to; a++, at++) levels[count++] = luma[at]!;
      }
      result[i] = value(levels, count);
    }
  return result;
}

/** Luminance in levels over a region of a window. */
function levelsOver(input: Window, region: Region): Float32Array {
  const luma = luminance(pixelsOver(input, region));
  for (let i = 0; i < luma.length; i++) luma[i]! *= 255;
  return luma;
}

/** Standard deviation of luminance about every pixel, in levels: sums along rows, then along columns. */
function deviations(input: Window, region: Region, size: Size, radius: number): Float32Array {
  const covered = grow(region, radius, size);
  const levels = levelsOver(input, covered);
  const { width } = region;
  const sums = new Float64Array(width * covered.height);
  const squares = new Float64Array(width * covered.height);
  const range = (at: number, from: number, length: number): [number, number] => [
    Math.max(at - radius - from, 0),
    Math.min(at + radius + 1 - from, length),
  ];
  for (let x = 0; x < width; x++) {
    const [from, to] = range(region.x + x, covered.x, covered.width);
    for (let y = 0; y < covered.height; y++) {
      let sum = 0;
      let square = 0;
      for (let k = y * covered.width + from; k < y * covered.width + to; k++) {
        const value = levels[k]!;
        sum += value;
        square += value * value;
      }
      sums[y * width + x] = sum;
      squares[y * width + x] = square;
    }
  }
  const result = new Float32Array(width * region.height);
  for (let y = 0, i = 0; y < region.height; y++) {
    const [from, to] = range(region.y + y, covered.y, covered.height);
    for (let x = 0; x < width; x++, i++) {
      const [left, right] = range(region.x + x, covered.x, covered.width);
      let sum = 0;
      let square = 0;
      for (let k = from; k < to; k++) {
        sum += sums[k * width + x]!;
        square += squares[k * width + x]!;
      }
      const count = (to - from) * (right - left);
      result[i] = Math.sqrt(Math.max(0, square / count - (sum / count) ** 2));
    }
  }
  return result;
}

/** The steepest slope near every pixel, in levels a pixel. */
function slopes(input: Window, region: Region, size: Size): Float32Array {
  const near = grow(region, 2, size);
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
  return mostAbout(slope, near, region, size, 2);
}

/** Pixels to every side in which edges of such a width are looked for. */
const windowOf = (width: number): number => Math.min(WINDOW_MOST, Math.ceil(width) + 1);
const WINDOW_MOST = 12;

/** A number for every pixel from how many pixels the hardest edge near it takes to rise, and how far it climbs, in levels. */
function edgeWidths(
  input: Window,
  region: Region,
  size: Size,
  looked: number,
  value: (width: number, climb: number) => number,
): Float32Array {
  const reach = windowOf(looked);
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
    most[i] = value(climb / Math.max(steepest[i]!, 1e-3), climb);
  }
  return most;
}

/**
 * Where a window holds two tones and little between: `contrast` apart, in levels, each with a fair
 * share of it.
 */
function lettering(input: Window, region: Region, contrast: number): Float32Array {
  return eachWindow(input, region, PART_REACH, (levels, count) => {
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
  });
}
