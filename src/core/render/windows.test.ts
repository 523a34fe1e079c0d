import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { testPicture } from '../testing';
import { RGB } from '../raster/form';
import { cut, rasterBytes, type Window } from '../raster/raster';
import { contains, whole, type Region, type Size } from '../raster/region';
import type { GraphNode } from '../recipe/graph-node';
import { Cells } from './cells';
import type { Store } from './store';
import { Windows } from './windows';

const SIZE: Size = { width: 420, height: 330 };
const picture = testPicture(SIZE);
const all: Window = { region: whole(picture), raster: picture };

const nodeOf = (hash: string, cost = 1): GraphNode => ({
  ...{ hash, cost, size: SIZE, grid: 'target', form: RGB, inputs: [], block: 256 },
  compute: (region) => cut(all, region),
});

/** A node that is looked at through a store, with all that is computed of it. */
function looking(store: Store, node = nodeOf('n')) {
  const computed: Region[] = [];
  const read = (region: Region) =>
    store.read(node, region, (part) => {
      computed.push(part);
      return Promise.resolve({ region: part, raster: cut(all, part) });
    });
  const areaComputed = () =>
    computed.splice(0).reduce((sum, { width, height }) => sum + width * height, 0);
  return { read, areaComputed, computed };
}

/** Whether a window holds the node's own pixels of what is looked at; quicker than comparing number by number in words. */
const isTrue = (window: Window, look: Region): boolean => {
  const [found, expected] = [cut(window, look), cut(all, look)];
  return found.planes.every((plane, c) =>
    Buffer.from(plane.buffer).equals(Buffer.from(expected.planes[c]!.buffer)),
  );
};

const region = (x: number, y: number, width: number, height: number): Region => ({
  ...{ x, y, width, height },
});

/** Any region of the picture. */
const regions = fc
  .record({
    x: fc.integer({ min: 0, max: SIZE.width - 1 }),
    y: fc.integer({ min: 0, max: SIZE.height - 1 }),
    width: fc.integer({ min: 1, max: 200 }),
    height: fc.integer({ min: 1, max: 200 }),
  })
  .map(({ x, y, width, height }) =>
    region(x, y, Math.min(width, SIZE.width - x), Math.min(height, SIZE.height - y)),
  );

const stores: [string, (limit: number) => Windows | Cells][] = [
  ['windows', (limit) => new Windows(limit)],
  ['cells', (limit) => new Cells(limit)],
];

describe.each(stores)('%s of what was looked at', (_, open) => {
  it('show the pixels of the node, wherever one looks one time after the other', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(regions, { minLength: 1, maxLength: 12 }), async (looks) => {
        const { read } = looking(open(2e6));
        for (const look of looks) {
          const window = await read(look);
          expect(contains(window.region, look)).toBe(true);
          expect(isTrue(window, look)).toBe(true);
        }
      }),
      { numRuns: 40 },
    );
  });

  it('are never larger than their bound, and small ones show the same', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(regions, { minLength: 3, maxLength: 10 }), async (looks) => {
        const limit = 150_000;
        const store = open(limit);
        const { read } = looking(store);
        for (const look of looks) {
          expect(isTrue(await read(look), look)).toBe(true);
          expect(store.bytes).toBeLessThanOrEqual(limit);
        }
      }),
      { numRuns: 30 },
    );
  });

  it('compute nothing twice where one looks again', async () => {
    const { read, areaComputed } = looking(open(8e6));
    await read(region(40, 30, 180, 160));
    expect(areaComputed()).toBeGreaterThanOrEqual(180 * 160);
    await read(region(40, 30, 180, 160));
    await read(region(60, 50, 80, 90));
    expect(areaComputed()).toBe(0);
  });

  it('keep nodes apart', async () => {
    const store = open(8e6);
    const one = looking(store, nodeOf('one'));
    const other = looking(store, nodeOf('other'));
    await one.read(region(0, 0, 90, 90));
    await other.read(region(0, 0, 90, 90));
    expect(other.areaComputed()).toBeGreaterThan(0);
  });

  it('serve reads of one node that go on at the same time', async () => {
    const { read } = looking(open(8e6));
    const looks = [region(0, 0, 120, 120), region(100, 0, 120, 120), region(60, 90, 150, 100)];
    const windows = await Promise.all(looks.map(read));
    windows.forEach((window, i) => expect(isTrue(window, looks[i]!)).toBe(true));
    for (const look of looks) expect(isTrue(await read(look), look)).toBe(true);
  });
});

describe('windows along a pan', () => {
  it('compute what came into view alone', async () => {
    const { read, areaComputed } = looking(new Windows(8e6));
    await read(region(100, 80, 120, 100));
    areaComputed();
    for (let x = 108; x <= 260; x += 8) {
      await read(region(x, 80, 120, 100));
      expect(areaComputed()).toBe(8 * 100);
    }
  });

  it('say beforehand what they would compute', async () => {
    const store = new Windows(8e6);
    const node = nodeOf('n');
    const { read, computed } = looking(store, node);
    for (const look of [
      region(100, 80, 120, 100),
      region(130, 80, 120, 100),
      region(130, 60, 120, 100),
      region(10, 10, 30, 20),
    ]) {
      const said = store.missing(node, look);
      await read(look);
      expect(computed.splice(0)).toEqual(said);
    }
  });

  it('hold a bounded part of a picture, however far one goes', async () => {
    const store = new Windows(64e6);
    const { read } = looking(store);
    for (let x = 0; x <= SIZE.width - 60; x += 20) await read(region(x, 100, 60, 60));
    const window = await read(region(SIZE.width - 60, 100, 60, 60));
    expect(rasterBytes(window.raster)).toBeLessThan(rasterBytes(picture));
  });

  it('are not given up for a look at something small beside them', async () => {
    const { read, areaComputed } = looking(new Windows(8e6));
    await read(region(0, 0, 200, 200));
    await read(region(300, 250, 20, 20));
    areaComputed();
    await read(region(0, 0, 200, 200));
    expect(areaComputed()).toBe(0);
  });
});

describe('cells', () => {
  it('don’t keep what is hardly more than a copy', async () => {
    const store = new Cells(8e6);
    const { read, areaComputed } = looking(store, nodeOf('free', 0));
    await read(region(0, 0, 90, 90));
    await read(region(0, 0, 90, 90));
    expect(areaComputed()).toBe(2 * 90 * 90);
    expect(store.bytes).toBe(0);
  });
});
