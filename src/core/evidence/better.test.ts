import { describe, expect, it } from 'vitest';
import { betterMethod } from './better';
import type { TestRow } from './self-test';

const row = (method: string, psnr: number): TestRow => ({
  ...{ method, psnr, ssim: 0.9, edgePixels: 2, milliseconds: 5 },
});
const rows = [row('bicubic', 30), row('lanczos3', 30.25), row('learned-photo', 30.9)];

describe('a method that did better on the very picture', () => {
  it('is told where that is more than 0.3 dB', () => {
    const better = betterMethod(rows, 'bicubic')!;
    expect(better.method).toBe('learned-photo');
    expect(better.by).toBeCloseTo(0.9, 9);
    expect(betterMethod(rows.slice(0, 2), 'bicubic')).toBeNull();
  });

  it('is none where the best is taken, or nothing is known of what is taken', () => {
    expect(betterMethod(rows, 'learned-photo')).toBeNull();
    expect(betterMethod(rows, 'nearest')).toBeNull();
    expect(betterMethod([], 'bicubic')).toBeNull();
  });
});
