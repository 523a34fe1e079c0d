import { describe, expect, it } from 'vitest';
import { magnifiedRegion } from '../../learned/enlarger';
import { cut, type Raster, type Window } from '../../raster/raster';
import { whole, type Size } from '../../raster/region';
import { LEVEL } from '../../raster/samples';
import { memorySource, testPicture } from '../../testing';
import { run, type Pass } from '../resample/passes';
import { backProjected, inputsOf, backProjectionWeight } from './back-projection';

const size: Size = { width: 23, height: 17 };
const large: Size = { width: 92, height: 68 };
const small = testPicture(size, 3);
const input: Window = { region: whole(size), raster: small };
/** What a network might have added. */
const added: Raster = testPicture(large, 4);
added.planes.forEach((plane) => plane.forEach((value, i) => (plane[i] = 0.3 * (value - 0.5))));

const pass = (from: Size, to: Size): Pass => ({
  method: 'bicubic',
  frame: from,
  source: whole(from),
  target: to,
  degrees: 0,
});
const up = (raster: Raster): Raster =>
  run(pass(size, large), { region: whole(size), raster }, whole(large), 0);
const down = (raster: Raster): Raster =>
  run(pass(large, size), { region: whole(large), raster }, whole(size), 0);
const mixed = (a: Raster, b: Raster, share: number): Raster => ({
  ...a,
  planes: a.planes.map((plane, c) => plane.map((value, i) => value + share * b.planes[c]![i]!)),
});
const farthest = (a: Raster, b: Raster): number =>
  Math.max(
    ...a.planes.flatMap((plane, c) => [...plane.map((v, i) => Math.abs(v - b.planes[c]![i]!))]),
  );

/** One correction after the other, each on the whole large picture. */
function corrected(times: number): Raster {
  let picture = mixed(up(small), added, 1);
  for (let i = 0; i < times; i++) {
    picture = mixed(picture, up(mixed(small, down(picture), -1)), 1);
  }
  return picture;
}

const everywhere: Window = { region: whole(large), raster: added };

describe('agreement with the source', () => {
  it('is two corrections of the large picture, one after the other', () => {
    const found = backProjected(everywhere, input, whole(large), size, 1);
    expect(farthest(found, corrected(2))).toBeLessThan(LEVEL / 500);
    // Reduced again it is nearly what it was made of, which it was not before.
    expect(farthest(down(corrected(0)), small)).toBeGreaterThan(10 * LEVEL);
    expect(farthest(down(found), small)).toBeLessThan(3 * LEVEL);
  });

  it('is left out where nothing is to be trusted, and half of it is half the way', () => {
    const none = backProjected(everywhere, input, whole(large), size, 0);
    expect(farthest(none, corrected(0))).toBeLessThan(LEVEL / 500);
    const half = backProjected(everywhere, input, whole(large), size, 0.5);
    const middle = mixed(mixed(none, none, -0.5), corrected(2), 0.5);
    expect(farthest(half, middle)).toBeLessThan(LEVEL / 500);
  });

  it('needs no more of either picture than it says, anywhere', async () => {
    const all = backProjected(everywhere, input, whole(large), size, 1);
    for (const region of [
      { x: 0, y: 0, width: 5, height: 9 },
      { x: 33, y: 21, width: 20, height: 7 },
      { x: 90, y: 60, width: 2, height: 8 },
    ]) {
      const needs = inputsOf(region, size);
      const there = magnifiedRegion(needs.added);
      const source = memorySource(small, needs.source);
      const found = backProjected(
        { region: there, raster: cut(everywhere, there) },
        { region: needs.source, raster: await source.read(needs.source) },
        region,
        size,
        1,
      );
      expect(found).toEqual(cut({ region: whole(large), raster: all }, region));
    }
  });

  it('is followed less the worse the source was compressed, but never given up', () => {
    const trust = [0, 0.05, 0.14, 0.3, 1].map(backProjectionWeight);
    expect(trust[0]).toBe(1);
    expect([...trust].sort((a, b) => b - a)).toEqual(trust);
    expect(trust.at(-1)).toBeGreaterThan(0);
  });
});
