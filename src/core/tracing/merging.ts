import { LEVEL } from '../raster/samples';
import type { Areas } from './areas';
import { fillAt } from './fills';
import { Sets } from '../raster/sets';
import type { Fill } from './tracing';

/** Two areas that lie beside each other. */
interface Meeting {
  a: number;
  b: number;
  /** sides of pixels between them */
  length: number;
  /** what their fills differ by there, by channel, added up */
  apart: number[];
}

/**
 * Makes one of areas that are too alike for the edge between them to be worth it (Koepfler, Lopez & Morel 1994): what
 * the two lose by a common colour is less than `worth` for each pixel of the edge.
 * @param worth in levels squared
 */
export function mergeAreas(areas: Areas, fills: readonly Fill[], worth: number): Areas {
  const { of, count } = areas;
  const meetings = meetingsOf(areas, fills);
  const pixels = new Float64Array(count);
  for (const area of of) pixels[area]!++;
  const colours = fills.map(({ colour }) => [...colour]);
  const changes = fills.map(({ field }) => field !== undefined);
  const sets = new Sets(count);
  const loss = ({ a, b, length, apart }: Meeting): number => {
    const [one, other] = [sets.root(a), sets.root(b)];
    const size = (pixels[one]! * pixels[other]!) / (pixels[one]! + pixels[other]!);
    // Of areas that change over their extent what counts is how they differ where they meet.
    const off =
      changes[one] || changes[other]
        ? apart.map((sum) => sum / length)
        : colours[one]!.map((value, c) => value - colours[other]![c]!);
    const squares = off.reduce((sum, value) => sum + (value / LEVEL) * (value / LEVEL), 0);
    return (size * squares) / length;
  };
  const sorted = meetings.map((one) => ({ one, lost: loss(one) })).sort((a, b) => a.lost - b.lost);
  for (const { one, lost } of sorted) {
    if (lost > worth) break;
    const [a, b] = [sets.root(one.a), sets.root(one.b)];
    if (a === b || loss(one) > worth) continue;
    const all = pixels[a]! + pixels[b]!;
    const mean = colours[a]!.map(
      (value, c) => (value * pixels[a]! + colours[b]![c]! * pixels[b]!) / all,
    );
    sets.join(a, b);
    const root = sets.root(a);
    pixels[root] = all;
    colours[root] = mean;
    changes[root] = changes[a]! || changes[b]!;
  }
  return renumbered(areas, (area) => sets.root(area));
}

/** Areas whose numbers run from 0 again. */
export function renumbered(areas: Areas, nameOf: (area: number) => number): Areas {
  const numbers = new Int32Array(areas.count).fill(-1);
  let count = 0;
  const of = areas.of.map((area) => {
    const name = nameOf(area);
    if (numbers[name] === -1) numbers[name] = count++;
    return numbers[name]!;
  });
  return { ...areas, of, count };
}

/** All pairs of areas beside each other. */
function meetingsOf({ width, height, of, count }: Areas, fills: readonly Fill[]): Meeting[] {
  const found = new Map<number, Meeting>();
  const meet = (i: number, j: number, x: number, y: number) => {
    const [a, b] = of[i]! < of[j]! ? [of[i]!, of[j]!] : [of[j]!, of[i]!];
    const key = a * count + b;
    let one = found.get(key);
    if (!one) found.set(key, (one = { a, b, length: 0, apart: fills[a]!.colour.map(() => 0) }));
    one.length++;
    for (let c = 0; c < one.apart.length; c++)
      one.apart[c]! += fillAt(fills[a]!, c, x, y) - fillAt(fills[b]!, c, x, y);
  };
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      if (x > 0 && of[i - 1] !== of[i]) meet(i - 1, i, x, y + 0.5);
      if (y > 0 && of[i - width] !== of[i]) meet(i - width, i, x + 0.5, y);
    }
  return [...found.values()];
}
