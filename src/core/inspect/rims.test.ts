import { describe, expect, it } from 'vitest';
import { gaussianReference } from '../testing/references';
import { random } from '../testing';
import { fromSamples } from '../raster/samples';
import type { Patch } from './patches';
import { measureRims } from './rims';

const size = { width: 64, height: 64 };

/** A patch of squares, softened by a lens, then sharpened by an unsharp mask of 1 px; with noise of a level. */
function patch(amount: number, seed: number): Patch {
  const next = random(seed);
  const squares = Float32Array.from({ length: 64 * 64 }, (_, i) => {
    const [x, y] = [i % 64, Math.floor(i / 64)];
    return x + 10 > 32 + seed !== y > 30 ? 170 : 80;
  });
  const lens = gaussianReference(squares, size, 0.6);
  const soft = gaussianReference(lens, size, 1);
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
    expect(measureRims(patches(0))).toBeLessThan(0.02);
  });

  it('grow with how much it was', () => {
    const [some, much] = [measureRims(patches(0.6))!, measureRims(patches(1.5))!];
    expect(some).toBeGreaterThan(0.04);
    expect(much).toBeGreaterThan(2 * some);
    expect(much).toBeLessThan(0.4);
  });

  it('cannot be told without hard edges', () => {
    const even = patch(0, 1);
    even.luma.fill(120);
    expect(measureRims([even])).toBeNull();
    expect(measureRims([])).toBeNull();
  });
});
