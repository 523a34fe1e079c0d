import { describe, expect, it } from 'vitest';
import { gaussianReference } from '../testing/references';
import { random } from '../testing';
import { fromSamples } from '../raster/samples';
import type { Patch } from './patches';
import { measureRims } from './rims';

const size = { width: 64, height: 64 };

/** A patch of squares, softened by a lens, then sharpened by an unsharp mask of some px; with noise of a level. */
function patch(amount: number, seed: number, radius = 1): Patch {
  const next = random(seed);
  const squares = Float32Array.from({ length: 64 * 64 }, (_, i) => {
    const [x, y] = [i % 64, Math.floor(i / 64)];
    return x + 10 > 32 + seed !== y > 30 ? 170 : 80;
  });
  const lens = gaussianReference(squares, size, 0.6);
  const soft = gaussianReference(lens, size, radius);
  const luma = Float32Array.from(lens, (value, i) => {
    const noise = next() + next() + next() - 1.5;
    return value + amount * (value - soft[i]!) + noise;
  });
  const none = new Float32Array(64 * 64);
  const raster = fromSamples(new Uint8Array(64 * 64 * 3), 64, 64, 3, 8);
  return { x: 0, y: 0, ...size, raster, luma, cb: none, cr: none };
}
const patches = (amount: number) => [1, 3, 5, 7].map((seed) => patch(amount, seed));

describe('rims', () => {
  it('are none where nothing was sharpened', () => {
    const { beyond, reach } = measureRims(patches(0))!;
    expect(beyond).toBeLessThan(0.02);
    expect(reach).toBeNull();
  });

  it('grow with how much it was', () => {
    const [some, much] = [0.6, 1.5].map((amount) => measureRims(patches(amount))!.beyond) as [
      number,
      number,
    ];
    expect(some).toBeGreaterThan(0.04);
    expect(much).toBeGreaterThan(2 * some);
    expect(much).toBeLessThan(0.4);
  });

  it('lie the farther off an edge the wider it was sharpened', () => {
    const reaches = [1.2, 2, 3].map((radius) => {
      const all = [1, 3, 5, 7].map((seed) => patch(1.5, seed, radius));
      return measureRims(all)!.reach!;
    });
    expect(reaches[0]).toBeGreaterThan(0.7);
    expect(reaches[1]).toBeGreaterThan(1.05 * reaches[0]!);
    expect(reaches[2]).toBeGreaterThan(1.05 * reaches[1]!);
    expect(reaches[2]).toBeLessThan(3);
  });

  it('cannot be told without hard edges', () => {
    const even = patch(0, 1);
    even.luma.fill(120);
    expect(measureRims([even])).toBeNull();
    expect(measureRims([])).toBeNull();
  });
});
