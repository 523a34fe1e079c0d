import { describe, expect, it } from 'vitest';
import type { Face } from '../faces/face';
import type { JpegFacts } from '../inspect/jpeg';
import { emptyRaster, type Raster } from '../raster/raster';
import { RGB } from '../raster/form';
import { whole, type Region } from '../raster/region';
import type { Source } from '../raster/source';
import { memorySource, random } from '../testing';
import { whereApart } from './apart';
import { blockGrid } from './block-grid';
import { findStops } from './find';
import type { Stop, StopKind } from './stop';
import { nextUnseen, see, seenShare, sweepGrid } from './sweep';

const SIZE = { width: 640, height: 512 };

/** A grey picture: levels by place. */
function grey(of: (x: number, y: number) => number, size = SIZE): Raster {
  const raster = emptyRaster(size.width, size.height, RGB);
  for (let y = 0, i = 0; y < size.height; y++)
    for (let x = 0; x < size.width; x++, i++)
      for (let c = 0; c < 3; c++) raster.planes[c]![i] = of(x, y) / 255;
  return raster;
}

const inside = ({ x, y, width, height }: Region, u: number, v: number) =>
  u >= x && v >= y && u < x + width && v < y + height;

const at: Record<Exclude<StopKind, 'face'>, Region> = {
  blocks: { x: 64, y: 64, width: 64, height: 64 },
  lettering: { x: 384, y: 64, width: 64, height: 64 },
  edges: { x: 64, y: 320, width: 64, height: 64 },
  texture: { x: 384, y: 320, width: 64, height: 64 },
  gradient: { x: 512, y: 192, width: 64, height: 64 },
  shadow: { x: 192, y: 192, width: 64, height: 64 },
};

/** A plain middle grey with one square of each kind. */
const noise = random(7);
const scene = grey((x, y) => {
  if (inside(at.blocks, x, y)) return 128 + 5 * (((x >> 3) + (y >> 3)) % 2);
  if (inside(at.lettering, x, y)) return x % 12 < 4 !== y % 20 < 3 ? 20 : 235;
  if (inside(at.edges, x, y)) return x < 100 ? 128 : 250;
  if (inside(at.texture, x, y)) return 128 + 12 * (noise() - 0.5);
  if (inside(at.gradient, x, y)) return 120 + (x - 512) / 8;
  if (inside(at.shadow, x, y)) return 12 + 6 * Math.sin(x / 5);
  return 128;
});
const grid = { x: 0, y: 0 };
const found = (
  within = whole(SIZE),
  of = scene,
  blocks: typeof grid | null = grid,
  faces: readonly Face[] = [],
) => findStops({ original: memorySource(of), within, grid: blocks, faces });
const first = (stops: readonly Stop[], kind: StopKind) => stops.find((one) => one.kind === kind)!;

describe('stops', () => {
  it('are at the eyes of the largest faces that lie on the paper', async () => {
    const face = (x: number, y: number, side: number) => ({
      ...{ x, y, width: side, height: side, sure: 0.9 },
    });
    const faces = [face(300, 200, 150), face(20, 400, 60), face(500, 10, 50), face(560, 10, 40)];
    const of = async (within = whole(SIZE)) =>
      (await found(within, scene, null, faces))
        .filter(({ kind }) => kind === 'face')
        .map(({ x, y, figure }) => [x, y, figure]);
    expect(await of()).toEqual([
      [375, 260, 150],
      [50, 424, 60],
      [525, 30, 50],
    ]);
    expect(await of({ x: 0, y: 300, width: 640, height: 212 })).toEqual([[50, 424, 60]]);
  });

  it('find each kind where it is', async () => {
    const stops = await found();
    for (const kind of Object.keys(at) as (keyof typeof at)[]) {
      const { x, y } = first(stops, kind);
      expect(inside(at[kind], x, y), kind).toBe(true);
    }
    expect(first(stops, 'edges').x).toBeGreaterThanOrEqual(98);
    expect(first(stops, 'edges').x).toBeLessThanOrEqual(100);
    expect(first(stops, 'lettering').figure).toBe(215);
    expect(first(stops, 'gradient').figure).toBeCloseTo(8, 0);
  });

  it('lie apart, and where the picture lies on the paper', async () => {
    const within = { x: 300, y: 200, width: 300, height: 250 };
    const stops = await found(within);
    expect(stops.length).toBeGreaterThan(0);
    for (const { x, y } of stops) expect(inside(within, x, y)).toBe(true);
    const all = await found();
    all.forEach((one, i) =>
      all
        .slice(i + 1)
        .forEach((other) =>
          expect(Math.hypot(one.x - other.x, one.y - other.y)).toBeGreaterThan(90),
        ),
    );
  });

  it('are none where there is nothing to look at, and no blocks where none are known of', async () => {
    expect(
      await found(
        whole(SIZE),
        grey(() => 128),
      ),
    ).toEqual([]);
    const stops = await found(whole(SIZE), scene, null);
    expect(stops.some(({ kind }) => kind === 'blocks')).toBe(false);
    const tiny = { width: 5, height: 3 };
    expect(
      await found(
        whole(tiny),
        grey((x) => 50 * x, tiny),
      ),
    ).toEqual([]);
  });
});

describe('the grid of blocks', () => {
  const blocking = { ratio: 1.5, strength: 30, offsetX: 3, offsetY: 5 };
  const jpeg = { gridX: -13, gridY: -3 } as JpegFacts;

  it('is the file’s own, or the one that shows', () => {
    expect(blockGrid({ blocking, jpeg })).toEqual({ x: 3, y: 5 });
    expect(blockGrid({ blocking, jpeg: { ...jpeg, gridX: 0, gridY: 0 } })).toEqual({ x: 0, y: 0 });
    expect(blockGrid({ blocking, jpeg: null })).toEqual({ x: 3, y: 5 });
  });

  it('is none where blocks hardly show', () => {
    expect(blockGrid({ blocking: { ...blocking, strength: 3 }, jpeg })).toBeNull();
  });
});

describe('where two results differ', () => {
  const one = memorySource(grey(() => 100));
  const spot = { x: 480, y: 96, width: 80, height: 64 };
  const changed = grey((x, y) => (inside(spot, x, y) ? 160 : 100));

  it('is found by a grid of places, the farthest apart first', async () => {
    const [place] = await whereApart(one, memorySource(changed), [], 3);
    expect(inside(spot, place!.x * SIZE.width, place!.y * SIZE.height)).toBe(true);
    expect(place!.levels).toBeGreaterThan(10);
  });

  it('is found where it lies between the places of the grid', async () => {
    const large = { width: 6400, height: 5120 };
    const wide = (of: (x: number, y: number) => number): Source => ({
      size: large,
      read: async (region) => grey((x, y) => of(x + region.x, y + region.y), region),
    });
    // It is strongest a quarter of the way to the next places, and reaches as far as one of them.
    const hill = (x: number, y: number) =>
      120 * Math.exp(-(((x - 3400) / 500) ** 2) - ((y - 2350) / 500) ** 2);
    const [place] = await whereApart(
      wide(() => 100),
      wide((x, y) => 100 + hill(x, y)),
      [],
      3,
    );
    expect(place!.levels).toBeGreaterThan(110);
    expect(Math.hypot(place!.x * 6400 - 3400, place!.y * 5120 - 2350)).toBeLessThan(200);
  });

  it('is found at a place that is named, and in a result of another size', async () => {
    const twice = { width: 1280, height: 1024 };
    const small = { x: 500, y: 120, width: 8, height: 8 };
    const larger = grey((x, y) => (inside(small, x / 2, y / 2) ? 250 : 100), twice);
    const named = [{ x: 504 / SIZE.width, y: 124 / SIZE.height }];
    const places = await whereApart(one, memorySource(larger), named, 3);
    expect(places[0]).toMatchObject(named[0]!);
    // 64 of 4096 pixels by 150 levels.
    expect(places[0]!.levels).toBeCloseTo((64 * 150) / 4096, 1);
  });

  it('is nowhere where they are the same', async () => {
    expect(await whereApart(one, memorySource(grey(() => 100)), [], 3)).toEqual([]);
  });
});

describe('a sweep', () => {
  const size = { width: 12_700, height: 8_500 };
  const grid_ = sweepGrid(size);
  const part = { width: 900 / size.width, height: 620 / size.height };

  it('goes over all of a print in reading order, and sees every square once', () => {
    let seen: Uint8Array = new Uint8Array(grid_.columns * grid_.rows);
    let steps = 0;
    let last = { x: 0, y: 0 };
    for (let next = nextUnseen(seen, grid_, part); next; next = nextUnseen(seen, grid_, part)) {
      const { x, y } = next;
      const area = { x: x - part.width / 2, y: y - part.height / 2, ...part };
      expect(area.x + area.width).toBeLessThanOrEqual(1 + 1e-9);
      expect(y > last.y - 1e-9 || x > last.x).toBe(true);
      const now = see(seen, grid_, area);
      expect(now).not.toBe(seen);
      [seen, last] = [now, next];
      if (++steps > 1000) break;
    }
    expect(seenShare(seen)).toBe(1);
    // 14.1 by 13.7 views, and what is lost since only whole squares count.
    expect(steps).toBeLessThan(400);
  });

  it('counts no square that is seen in part, and changes nothing where none is new', () => {
    const none = new Uint8Array(grid_.columns * grid_.rows);
    const half = { x: 0, y: 0, width: 0.9 / grid_.columns, height: 1 };
    expect(see(none, grid_, half)).toBe(none);
    const all = see(none, grid_, { x: 0, y: 0, width: 1, height: 1 });
    expect(seenShare(all)).toBe(1);
    expect(nextUnseen(all, grid_, part)).toBeNull();
    expect(seenShare(none)).toBe(0);
  });

  it('shows a print that is smaller than the stage at once', () => {
    const small = sweepGrid({ width: 300, height: 200 });
    const next = nextUnseen(new Uint8Array(small.columns * small.rows), small, {
      width: 3,
      height: 3,
    });
    expect(next).toEqual({ x: 0.5, y: 0.5 });
  });
});
