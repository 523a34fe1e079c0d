import { describe, expect, it } from 'vitest';
import type { Region } from '@/core/raster/region';
import type { Pixels } from '@/preview/client';
import { ahead, arriving, heldWhole, inHalves, keptAlong, type Painted } from './painted';
import type { Wanted } from './painter';

const wanted = (of: string, region: Region): Wanted => ({
  ...{ key: `${of} ${JSON.stringify(region)}`, of, region },
  layer: {} as Wanted['layer'],
});
const held = (of: string, region: Region) => ({ of, region }) as Painted;

/** What is asked for, and what comes of it. */
async function asked(want: Wanted, final: Painted | null, draftFrom = Infinity) {
  const regions: Region[] = [];
  const arrived = await arriving(want, final, (region) => {
    regions.push(region);
    return Promise.resolve({ draft: region.x >= draftFrom, milliseconds: region.width } as Pixels);
  });
  return { regions, arrived };
}

const view = { x: 100, y: 50, width: 90, height: 60 };

describe('what a pane asks for', () => {
  it('is all of it where nothing of the same is held', async () => {
    for (const final of [null, held('b', view), held('a', { ...view, x: 400 })]) {
      const { regions, arrived } = await asked(wanted('a', view), final);
      expect(regions).toEqual([view]);
      expect(arrived).toMatchObject({ held: null, draft: false, milliseconds: 90 });
    }
    const large = { ...view, height: 101 };
    const { regions } = await asked(wanted('a', large), null);
    expect(regions).toEqual([
      { ...large, height: 51 },
      { ...large, y: 101, height: 50 },
    ]);
  });

  it('is the strips that a pan brings into view, and nothing twice', async () => {
    const final = held('a', view);
    const moved = { ...view, x: 116, y: 43 };
    const { regions, arrived } = await asked(wanted('a', moved), final);
    expect(arrived.held).toBe(final);
    const covered = regions.reduce((sum, { width, height }) => sum + width * height, 0);
    expect(covered).toBe(90 * 60 - (90 - 16) * (60 - 7));
    for (const { x, y, width, height } of regions) {
      const [right, bottom] = [Math.min(x + width, 190), Math.min(y + height, 110)];
      expect(right <= Math.max(x, 100) || bottom <= Math.max(y, 50)).toBe(true);
    }
  });

  it('is nothing where one goes back within what is held', async () => {
    const inner = { ...view, width: 40 };
    const final = held('a', view);
    expect(heldWhole(wanted('a', inner), final)).toMatchObject({ held: final, pieces: [] });
    expect(heldWhole(wanted('b', inner), final)).toBeNull();
    expect(heldWhole(wanted('a', { ...view, x: 101 }), final)).toBeNull();
    expect(heldWhole(wanted('a', view), null)).toBeNull();
    const { regions, arrived } = await asked(wanted('a', { ...view, width: 40 }), held('a', view));
    expect(regions).toEqual([]);
    expect(arrived).toMatchObject({ draft: false, milliseconds: 0 });
  });

  it('is a draft where any of it is', async () => {
    const { arrived } = await asked(wanted('a', { ...view, x: 116 }), held('a', view), 190);
    expect(arrived.draft).toBe(true);
  });
});

describe('what is kept along a pan', () => {
  const at = (x: number, y: number) => ({ x, y, width: 90, height: 60 });

  it('is what was held beside it, as far as it is a rectangle', () => {
    expect(keptAlong(null, at(5, 5))).toEqual(at(5, 5));
    expect(keptAlong(at(0, 0), at(20, 0))).toEqual({ x: 0, y: 0, width: 110, height: 60 });
    expect(keptAlong(at(0, 0), at(0, -15))).toEqual({ x: 0, y: -15, width: 90, height: 75 });
    expect(keptAlong(at(0, 0), at(20, 3))).toEqual(at(20, 3));
  });

  it('is the very same where nothing more is wanted', () => {
    const held = { x: 0, y: 0, width: 300, height: 60 };
    expect(keptAlong(held, at(200, 0))).toBe(held);
  });

  it('does not grow without end', () => {
    let held = at(0, 0);
    for (let x = 16; x < 4000; x += 16) held = keptAlong(held, at(x, 0));
    expect(held.x + held.width).toBe(3984 + 90);
    expect(held.width).toBe(90 + 256);
  });
});

describe('halves of what is shown', () => {
  const shown = { x: 10, y: 100, width: 400, height: 301 };

  it('are the same for every part of it, which they cover once', () => {
    for (const y of [0, 1, 60, 118, 119, 150, 183, 200, 268])
      for (const height of [1, 32, 33, 70, 101]) {
        const region = { x: 30, y: shown.y + y, width: 50, height };
        const parts = inHalves(region, shown);
        expect(parts.reduce((sum, { region: part }) => sum + part.height, 0)).toBe(height);
        expect(parts[0]!.region.y).toBe(region.y);
        for (const { region: part, half } of parts) {
          // Where one reaches over the middle, it is by less than what is worth a worker.
          const over = half === 'upper' ? part.y + part.height - 251 : 251 - part.y;
          expect(over).toBeLessThan(32);
        }
      }
  });

  it('go to a worker each where both are worth it', () => {
    expect(inHalves(shown, shown).map(({ half, region }) => [half, region.height])).toEqual([
      ['upper', 151],
      ['lower', 150],
    ]);
    expect(inHalves({ ...shown, height: 60 }, { ...shown, height: 60 })).toHaveLength(1);
  });
});

describe('what is computed ahead', () => {
  const size = { width: 1000, height: 500 };
  const on = (of: string, region: Region, scale = 1): Wanted => ({
    ...wanted(of, region),
    layer: { size, scale } as Wanted['layer'],
  });

  it('is what a pan would bring into view, once for some of its steps', () => {
    const far = { x: 116, y: 50, width: 512 - 116, height: 60 };
    expect(ahead(on('a', view), on('a', { ...view, x: 116 }), null)).toEqual(far);
    expect(ahead(on('a', { ...view, x: 116 }), on('a', { ...view, x: 180 }), far)).toBeNull();
    expect(ahead(on('a', { ...view, x: 240 }), on('a', { ...view, x: 300 }), far)).toEqual({
      ...{ x: 300, y: 50, width: 640 - 300, height: 60 },
    });
    expect(ahead(on('a', view), on('a', { ...view, x: 93, y: 55 }), far)).toEqual({
      ...{ x: 0, y: 55, width: 183, height: 384 - 55 },
    });
  });

  it('is nothing where nothing was panned, or the picture ends', () => {
    expect(ahead(null, on('a', view), null)).toBeNull();
    expect(ahead(on('a', view), on('a', view), null)).toBeNull();
    expect(ahead(on('b', { ...view, x: 90 }), on('a', view), null)).toBeNull();
    expect(ahead(on('a', view), on('a', { ...view, x: 700 }), null)).toBeNull();
    expect(ahead(on('a', view, 2), on('a', { ...view, x: 116 }), null)).toBeNull();
    const end = { ...view, x: 910 };
    expect(ahead(on('a', { ...end, x: 890 }), on('a', end), null)).toBeNull();
  });
});
