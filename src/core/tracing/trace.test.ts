import { describe, expect, it } from 'vitest';
import { psnr } from '../inspect/compare';
import { RGB, RGBA } from '../raster/form';
import { emptyRaster, type Raster } from '../raster/raster';
import { whole, type Size } from '../raster/region';
import { LEVEL } from '../raster/samples';
import { resample } from '../steps/resample/resample';
import { random } from '../testing';
import { fillAt } from './fills';
import { trace } from './trace';
import { drawTraced } from './traced';
import { OUTSIDE, type Tracing } from './tracing';

type Colour = readonly number[];
/** A colour at every place of a square of side 1. */
type Painting = (x: number, y: number) => Colour;

const RED = [0.8, 0.1, 0.15];
const CREAM = [0.95, 0.93, 0.85];
const NAVY = [0.1, 0.15, 0.4];

/** A painting as pixels, each the mean of 8 x 8 places. */
function painted(painting: Painting, { width, height }: Size): Raster {
  const channels = painting(0, 0).length;
  const raster = emptyRaster(width, height, channels === 4 ? RGBA : RGB);
  const parts = 8;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      for (let k = 0; k < parts * parts; k++) {
        const u = (x + ((k % parts) + 0.5) / parts) / width;
        const v = (y + (Math.floor(k / parts) + 0.5) / parts) / height;
        painting(u, v).forEach((value, c) => {
          raster.planes[c]![y * width + x]! += value / parts / parts;
        });
      }
  return raster;
}

const disc: Painting = (x, y) => ((x - 0.5) ** 2 + (y - 0.45) ** 2 < 0.3 ** 2 ? RED : CREAM);
const square: Painting = (x, y) =>
  Math.max(Math.abs(x - 0.47), Math.abs(y - 0.52)) < 0.3 ? NAVY : CREAM;
const tilted: Painting = (x, y) => {
  const [u, v] = [0.8 * (x - 0.5) + 0.6 * (y - 0.5), -0.6 * (x - 0.5) + 0.8 * (y - 0.5)];
  return Math.max(Math.abs(u), Math.abs(v)) < 0.27 ? NAVY : RED;
};

const SIZE = { width: 64, height: 64 };
const LARGE = { width: 512, height: 512 };
const all = (tracing: Tracing, { width, height }: Size, turn: 0 | 90 | 180 | 270 = 0): Raster =>
  drawTraced(
    tracing,
    { source: whole(tracing.size), turn, straighten: 0, width, height },
    whole({ width, height }),
  );
const rgb = ({ planes }: Raster): Float32Array => {
  const count = planes[0]!.length;
  const values = new Float32Array(planes.length * count);
  planes.forEach((plane, c) => values.set(plane, c * count));
  return values;
};
const bicubic = (raster: Raster, { width, height }: Size, more: object = {}): Raster =>
  resample.apply(
    { region: whole(raster), raster },
    {
      ...{ method: 'bicubic', light: 'gamma', limit: 0, step: 10, turn: 0, straighten: 0 },
      ...{ source: whole(raster), width, height, ...more },
    },
    whole({ width, height }),
    { from: raster, to: { width, height } },
  );

describe('tracing', () => {
  it.each([
    ['a disc', disc],
    ['an upright square', square],
    ['a tilted square', tilted],
  ])('draws %s sharp at eight times its size, and in its place', (_, painting) => {
    const small = painted(painting, SIZE);
    const tracing = trace(small);
    expect(tracing.fills).toHaveLength(2);
    const truth = painted(painting, LARGE);
    const found = psnr(rgb(all(tracing, LARGE)), rgb(truth));
    expect(found).toBeGreaterThan(psnr(rgb(bicubic(small, LARGE)), rgb(truth)) + 6);
    expect(found).toBeGreaterThan(34);
  });

  it('finds the colours themselves, whatever lies between them at the edges', () => {
    const { fills } = trace(painted(disc, SIZE));
    const colours = fills.map(({ colour }) => colour).sort((a, b) => b[2]! - a[2]!);
    for (const [i, expected] of [CREAM, RED].entries())
      expected.forEach((value, c) => expect(colours[i]![c]).toBeCloseTo(value, 4));
  });

  it('finds edges to a fraction of a pixel', () => {
    const { edges } = trace(painted(disc, SIZE));
    const round = edges.filter(({ left, right }) => left !== OUTSIDE && right !== OUTSIDE);
    expect(round).toHaveLength(1);
    const { curve } = round[0]!;
    const radii: number[] = [];
    for (let i = 0; i < curve.length; i += 6)
      radii.push(Math.hypot(curve[i]! - 32, curve[i + 1]! - 0.45 * 64));
    for (const radius of radii) expect(Math.abs(radius - 0.3 * 64)).toBeLessThan(0.3);
  });

  it('keeps corners, and makes none on a curve', () => {
    const cornersOf = (painting: Painting): number => {
      const { edges } = trace(painted(painting, SIZE));
      const { curve } = edges.find(({ left, right }) => left !== OUTSIDE && right !== OUTSIDE)!;
      let count = 0;
      const points = curve.length / 2;
      const at = (k: number) => [curve[2 * k]!, curve[2 * k + 1]!] as const;
      for (let k = 0; k + 1 < points; k += 3) {
        // The way into a point and out of it; a closed curve begins where it ends.
        const [a, b, c] = [at(k === 0 ? points - 2 : k - 1), at(k), at(k + 1)];
        const [inX, inY, outX, outY] = [b[0] - a[0], b[1] - a[1], c[0] - b[0], c[1] - b[1]];
        const turn = Math.atan2(inX * outY - inY * outX, inX * outX + inY * outY);
        if (Math.abs(turn) > 0.6) count++;
      }
      return count;
    };
    expect(cornersOf(disc)).toBe(0);
    expect(cornersOf(square)).toBe(4);
    expect(cornersOf(tilted)).toBe(4);
  });

  it('leaves a gradient a gradient', () => {
    const faded: Painting = (x, y) =>
      (x - 0.5) ** 2 + (y - 0.5) ** 2 < 0.25 ** 2
        ? RED
        : [0.2 + 0.6 * y, 0.3 + 0.3 * x, 0.7 - 0.4 * y];
    const tracing = trace(painted(faded, { width: 160, height: 160 }));
    expect(tracing.fills).toHaveLength(2);
    const ground = tracing.fills.find(({ field }) => field)!;
    for (const [x, y] of [
      [10, 10],
      [150, 20],
      [40, 140],
    ] as const)
      faded(x / 160, y / 160).forEach((value, c) =>
        expect(Math.abs(fillAt(ground, c, x, y) - value)).toBeLessThan(LEVEL),
      );
  });

  it('shows nothing between neighbours', () => {
    // Three areas that meet, drawn in one colour: only what the drawing adds could be seen.
    const parted: Painting = (x, y) => (y < 0.5 ? (x < 0.4 ? RED : NAVY) : CREAM);
    const tracing = trace(painted(parted, SIZE));
    expect(tracing.fills).toHaveLength(3);
    for (const fill of tracing.fills) fill.colour = [...NAVY];
    const found = all(tracing, { width: 301, height: 277 });
    found.planes.forEach((plane, c) => {
      for (const value of plane) expect(Math.abs(value - NAVY[c]!)).toBeLessThan(1e-5);
    });
  });

  it('lies where any other enlargement lies, however it is turned and cut', () => {
    const small = painted((x, y) => (x < 0.3 && y > 0.2 ? NAVY : disc(x, y)), SIZE);
    const tracing = trace(small);
    for (const turn of [0, 90, 180, 270] as const)
      for (const straighten of [0, 7]) {
        const part = {
          ...{ source: { x: 5.5, y: 9, width: 40, height: 30 }, turn, straighten },
          ...{ width: 240, height: 180 },
        };
        const found = drawTraced(tracing, part, whole(part));
        const soft = rgb(bicubic(small, part, part));
        const off = rgb(found).map((value, i) => Math.abs(value - soft[i]!));
        expect(off.reduce((sum, value) => sum + value, 0) / off.length).toBeLessThan(0.02);
      }
  });

  it('keeps what is transparent', () => {
    const badge: Painting = (x, y) =>
      (x - 0.5) ** 2 + (y - 0.5) ** 2 < 0.3 ** 2 ? [...RED, 1] : [0, 0, 0, 0];
    const premultiplied = painted(badge, SIZE);
    const alpha = premultiplied.planes[3]!;
    const straight = {
      ...premultiplied,
      planes: premultiplied.planes.map((plane, c) =>
        c === 3 ? plane : plane.map((value, i) => (alpha[i]! > 0 ? value / alpha[i]! : 0)),
      ),
    };
    const found = all(trace(straight), LARGE);
    const at = (x: number, y: number) => found.planes.map((plane) => plane[y * 512 + x]!);
    expect(at(4, 4)[3]).toBeCloseTo(0, 4);
    [...RED, 1].forEach((value, c) => expect(at(256, 256)[c]).toBeCloseTo(value, 3));
    // Its rim is as red as its middle: nothing of what lies behind shows through.
    const rim = found.planes[3]!.findIndex((value) => value > 0.3 && value < 0.7);
    expect(found.planes[0]![rim]).toBeCloseTo(RED[0]!, 2);
  });
});

describe('pictures that are no drawings', () => {
  const flat = (value: number, size: Size): Raster => {
    const raster = emptyRaster(size.width, size.height, RGB);
    raster.planes.forEach((plane) => plane.fill(value));
    return raster;
  };

  it.each([
    { width: 1, height: 1 },
    { width: 8, height: 8 },
    { width: 1, height: 40 },
  ])('of one colour are one area at $width x $height', (size) => {
    const tracing = trace(flat(0.4, size));
    expect(tracing.fills).toHaveLength(1);
    const found = all(tracing, { width: 20, height: 30 });
    for (const value of found.planes[0]!) expect(value).toBeCloseTo(0.4, 5);
  });

  it('and wholly transparent stay so', () => {
    const none = emptyRaster(30, 20, RGBA);
    const found = all(trace(none), { width: 60, height: 40 });
    for (const plane of found.planes) expect(plane.every((value) => value === 0)).toBe(true);
  });

  it('and are thousands of areas are drawn as they are', () => {
    const next = random(2);
    const cells = Array.from({ length: 3 * 40 * 40 }, next);
    const raster = flat(0, { width: 160, height: 160 });
    raster.planes.forEach((plane, c) =>
      plane.forEach((_, i) => {
        const at = Math.floor(i / 160 / 4) * 40 + Math.floor((i % 160) / 4);
        plane[i] = cells[3 * at + c]!;
      }),
    );
    const tracing = trace(raster);
    expect(tracing.fills.length).toBeGreaterThan(1500);
    const found = all(tracing, { width: 160, height: 160 });
    let off = 0;
    found.planes.forEach((plane, c) =>
      plane.forEach((value, i) => (off += Math.abs(value - raster.planes[c]![i]!))),
    );
    expect(off / (3 * 160 * 160)).toBeLessThan(3 * LEVEL);
  });

  it('and are noise alone are drawn all the same, without an end of areas', () => {
    const next = random(4);
    const raster = flat(0, { width: 200, height: 200 });
    raster.planes.forEach((plane) => plane.forEach((_, i) => (plane[i] = next())));
    const tracing = trace(raster);
    expect(tracing.fills.length).toBeLessThan(20_000);
    const found = all(tracing, { width: 400, height: 400 });
    for (const plane of found.planes)
      for (const value of plane) expect(value >= -0.01 && value <= 1.01).toBe(true);
  });
});
