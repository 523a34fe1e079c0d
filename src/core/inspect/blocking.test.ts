import { describe, expect, it } from 'vitest';
import { random } from '../testing';
import { measureBlocking } from './blocking';
import { psnr } from './compare';

const size = { width: 96, height: 80 };

const patch = (luma: Float32Array, { width, height } = size) => [
  { x: 0, y: 0, width, height, luma },
];

function picture(steps: number, gridX = 0): Float32Array {
  const next = random(5);
  return Float32Array.from({ length: size.width * size.height }, (_, i) => {
    const x = i % size.width;
    const block = Math.floor((x - gridX) / 8);
    return 102 + next() + steps * (block % 2);
  });
}

describe('blocking', () => {
  it('is one where no grid shows, and grows with the steps between blocks', () => {
    const measured = [0, 2, 6].map((steps) => measureBlocking(patch(picture(steps))));
    expect(measured[0]!.ratio).toBeLessThan(1.1);
    expect(measured[1]!.ratio).toBeGreaterThan(1.5);
    expect(measured[2]!.ratio).toBeGreaterThan(measured[1]!.ratio * 1.3);
    expect(measured.map(({ strength }) => strength < 10)).toEqual([true, false, false]);
  });

  it('finds where the grid begins, on the picture and not on the patch', () => {
    for (const gridX of [0, 3, 7]) {
      expect(measureBlocking(patch(picture(6, gridX))).offsetX).toBe(gridX);
    }
    const [moved] = patch(picture(6, 3));
    expect(measureBlocking([{ ...moved!, x: 21 }]).offsetX).toBe(0);
  });

  it('does not take pixel squares for blocks', () => {
    const next = random(8);
    const squares = Array.from({ length: 24 * 20 }, () => 255 * next());
    const repeated = Float32Array.from({ length: size.width * size.height }, (_, i) => {
      const x = (i % size.width) >> 2;
      return squares[(Math.floor(i / size.width) >> 2) * 24 + x]!;
    });
    expect(measureBlocking(patch(repeated)).ratio).toBeLessThan(1.15);
  });

  it('is one for a flat and for a tiny picture', () => {
    const flat = new Float32Array(64 * 64).fill(80);
    expect(measureBlocking(patch(flat, { width: 64, height: 64 })).ratio).toBeCloseTo(1, 3);
    expect(measureBlocking(patch(new Float32Array(4), { width: 2, height: 2 })).ratio).toBe(1);
  });
});

describe('PSNR', () => {
  it('is 20 dB for a tenth of the scale, infinite for equal planes', () => {
    expect(psnr([0.2, 0.5], [0.3, 0.4])).toBeCloseTo(20, 6);
    expect(psnr([0.2], [0.2])).toBe(Infinity);
    expect(() => psnr([1], [1, 2])).toThrow(RangeError);
  });
});
