import { describe, expect, it } from 'vitest';
import type { Evidence } from './evidence';
import { differenceWords } from './words';

const plain: Evidence = {
  ...{ psnrReduced: 42, ssimReduced: 0.99, colourShift: 1, blocking: 10, noise: 1 },
  ...{ edgeRisePx: 6, overshootPercent: 3 },
};

describe('how results differ, in words', () => {
  it('is what would show, and which way', () => {
    const crisp = { ...plain, edgeRisePx: 4, overshootPercent: 9, psnrReduced: 43 };
    expect(differenceWords(crisp, plain)).toBe(
      'crisper edges, more overshoot along them, truer to the file',
    );
    expect(differenceWords(plain, crisp)).toBe(
      'softer edges, less overshoot along them, farther from the file',
    );
    expect(differenceWords({ ...plain, noise: 0.2, blocking: 30, colourShift: 4 }, plain)).toBe(
      'smoother plain areas, more blocking, colours shifted farther',
    );
  });

  it('is nothing where nothing would show, or nobody can tell', () => {
    expect(differenceWords({ ...plain, noise: 1.1, edgeRisePx: 6.2 }, plain)).toBeNull();
    expect(differenceWords({ ...plain, edgeRisePx: null }, plain)).toBeNull();
  });
});
