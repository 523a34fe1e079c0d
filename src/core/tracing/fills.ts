import { LEVEL } from '../raster/samples';
import type { Raster } from '../raster/raster';
import { steepness, type Areas } from './areas';
import { fieldAt, FieldOf } from './field';
import type { Fill } from './tracing';

/** What a pixel at the rim of its area counts beside one of its middle. */
const RIM = 1e-3;
/** An area that is off its mean by more than so many levels may change over its extent … */
const FLAT = 2 * LEVEL;
/** … where that explains so much of it, on so many pixels. */
const EXPLAINED = 0.5;
const ENOUGH = 400;

/** A fill's colour at a place, in one channel. */
export const fillAt = ({ colour, field }: Fill, channel: number, x: number, y: number): number =>
  field ? fieldAt(field, channel, x, y) : colour[channel]!;

/**
 * What each area is filled with: the mean of its middle, or of its crest where it is thin.
 * @param steep the picture's steepness
 */
export function fillsOf(picture: Raster, areas: Areas, steep = steepness(picture)): Fill[] {
  const { of, count } = areas;
  const { planes } = picture;
  const weights = weightsOf(areas, steep);
  const channels = planes.length;
  const sums = new Float64Array(count * channels);
  const squares = new Float64Array(count);
  const total = new Float64Array(count);
  const pixels = new Int32Array(count);
  for (let i = 0; i < of.length; i++) {
    const area = of[i]!;
    total[area]! += weights[i]!;
    if (weights[i] === 1) pixels[area]!++;
  }
  planes.forEach((plane, c) => {
    for (let i = 0; i < of.length; i++) sums[of[i]! * channels + c]! += weights[i]! * plane[i]!;
    for (let i = 0; i < of.length; i++) {
      const area = of[i]!;
      const off = plane[i]! - sums[area * channels + c]! / total[area]!;
      squares[area]! += weights[i]! * off * off;
    }
  });
  const fills = Array.from({ length: count }, (_, area): Fill => ({
    colour: planes.map((_plane, c) => sums[area * channels + c]! / total[area]!),
  }));
  const changing = fills.map(
    (_, area) => pixels[area]! >= ENOUGH && squares[area]! / total[area]! / channels > FLAT * FLAT,
  );
  if (changing.includes(true)) addFields(picture, areas, weights, changing, fills, squares);
  return fills;
}

/** Gives the areas that are not flat a field, where that explains how they change. */
function addFields(
  picture: Raster,
  { of, count, width, height }: Areas,
  weights: Float32Array,
  changing: readonly boolean[],
  fills: Fill[],
  squares: Float64Array,
): void {
  const boxes = Array.from({ length: count }, () => ({
    left: Infinity,
    top: Infinity,
    right: -1,
    bottom: -1,
  }));
  // Every other pixel of every other row: what changes evenly is told by fewer.
  const each = (visit: (area: number, i: number) => void) => {
    for (let y = 0; y < height; y += 2)
      for (let i = y * width; i < (y + 1) * width; i += 2)
        if (weights[i] === 1 && changing[of[i]!]) visit(of[i]!, i);
  };
  each((area, i) => {
    const box = boxes[area]!;
    const [x, y] = [i % width, Math.floor(i / width)];
    box.left = Math.min(box.left, x);
    box.right = Math.max(box.right, x + 1);
    box.top = Math.min(box.top, y);
    box.bottom = Math.max(box.bottom, y + 1);
  });
  const made = new Map<number, FieldOf>();
  boxes.forEach(({ left, top, right, bottom }, area) => {
    const box = { x: left, y: top, width: right - left, height: bottom - top };
    if (changing[area]) made.set(area, new FieldOf(picture, box));
  });
  each((area, i) => made.get(area)!.add(i));
  const fields = new Map([...made].map(([area, one]) => [area, one.made()]));
  const left = new Float64Array(count);
  each((area, i) => {
    const [x, y] = [(i % width) + 0.5, Math.floor(i / width) + 0.5];
    picture.planes.forEach((plane, c) => {
      const off = plane[i]! - fieldAt(fields.get(area)!, c, x, y);
      left[area]! += off * off;
    });
  });
  for (const [area, field] of fields)
    if (4 * left[area]! < EXPLAINED * squares[area]!) fills[area] = { ...fills[area]!, field };
}

/** 1 where a pixel lies two pixels deep in its area; elsewhere little, and the less the steeper. */
function weightsOf({ width, height, of }: Areas, steep: Float32Array): Float32Array {
  const weights = new Float32Array(of.length);
  for (let y = 0, i = 0; y < height; y++) {
    const above = y > 1 ? -width : 0;
    const below = y < height - 2 ? width : 0;
    for (let x = 0; x < width; x++, i++) {
      const before = x > 1 ? -1 : 0;
      const after = x < width - 2 ? 1 : 0;
      const area = of[i];
      const inside =
        of[i + before] === area &&
        of[i + after] === area &&
        of[i + above] === area &&
        of[i + below] === area;
      const deep =
        inside &&
        of[i + 2 * before] === area &&
        of[i + 2 * after] === area &&
        of[i + 2 * above] === area &&
        of[i + 2 * below] === area;
      weights[i] = deep ? 1 : inside ? RIM : (RIM * RIM) / (1 + steep[i]! / LEVEL);
    }
  }
  return weights;
}
