import { describe, expect, it } from 'vitest';
import { formatRefusal, SIDE_LIMIT } from './formats';

describe('what a format holds', () => {
  it('is all there is up to its limit', () => {
    expect(formatRefusal('jpeg', { width: SIDE_LIMIT.jpeg, height: 10 }, 300)).toBeNull();
    expect(formatRefusal('tiff', { width: 400_000, height: 300_000 }, 300)).toBeNull();
    expect(formatRefusal('png', { width: 70_000, height: 10 }, 300)).toBeNull();
  });

  it('is said beyond it, with what works', () => {
    const words = formatRefusal('jpeg', { width: 10, height: 131_000 }, 200);
    expect(words).toMatch(/at most 65500 pixels a side, this result has 131000/);
    expect(words).toMatch(/Choose TIFF, or order 100 ppi/);
    expect(formatRefusal('jpeg', { width: 70_000, height: 9 }, 1)).toMatch(/Choose TIFF\.$/);
  });
});
