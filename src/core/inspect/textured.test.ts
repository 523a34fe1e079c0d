import { describe, expect, it } from 'vitest';
import { RGB } from '../raster/form';
import { blur } from '../raster/gaussian';
import { whole } from '../raster/region';
import { random } from '../testing';
import { patchOf, PATCH } from './patches';
import { measureTextured } from './textured';

const region = { x: 0, y: 0, width: PATCH, height: PATCH };

const share = (plane: Float32Array, noise = 0.5): number =>
  measureTextured(
    [patchOf({ ...region, form: RGB, planes: [plane, plane, plane] }, region)],
    noise,
  );

const next = random(5);
const grain = Float32Array.from({ length: PATCH * PATCH }, () => next() - 0.5);
const rough = (levels: number, softness = 0.6): Float32Array => {
  const soft = blur(grain, region, whole(region), region, softness);
  const rms = Math.sqrt(soft.reduce((sum, value) => sum + value * value, 0) / soft.length);
  return soft.map((value) => 0.5 + (levels / 255 / rms) * value);
};

describe('texture', () => {
  it('is told where a picture changes from pixel to pixel, everywhere alike', () => {
    expect(share(rough(12))).toBe(1);
    const half = rough(12).map((value, i) => (i % PATCH < PATCH / 2 ? value : 0.5));
    expect(share(half)).toBe(0.5);
  });

  it('is not what is plain, soft, or no more than noise', () => {
    expect(share(new Float32Array(PATCH * PATCH).fill(0.5))).toBe(0);
    expect(share(rough(12, 4))).toBe(0);
    expect(share(rough(6), 6)).toBe(0);
  });

  it('is not an edge or a line on a plain ground', () => {
    const edge = grain.map((_, i) => (i % PATCH < 20 ? 0.2 : 0.8));
    const lines = grain.map((_, i) => (Math.floor(i / PATCH) % 16 === 0 ? 0.1 : 0.9));
    expect(share(edge)).toBe(0);
    expect(share(lines)).toBe(0);
  });
});
