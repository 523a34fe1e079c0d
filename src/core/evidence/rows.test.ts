import { describe, expect, it } from 'vitest';
import { bestOf, EVIDENCE_ROWS, figureWords } from './rows';

const row = (title: string) => EVIDENCE_ROWS.find((one) => one.title === title)!;

describe('figures of the evidence', () => {
  it('tell the better one, whichever way is good', () => {
    expect(bestOf(row('Reduced back'), [40.2, 41.7, null])).toBe(1);
    expect(bestOf(row('Overshoot'), [9.1, null, 6.4])).toBe(2);
  });

  it('tell none where they read alike, or there is nothing beside', () => {
    expect(bestOf(row('Reduced back'), [40.21, 40.19])).toBeNull();
    expect(bestOf(row('Noise'), [0.4, null])).toBeNull();
    expect(bestOf(row('Noise'), [])).toBeNull();
  });

  it('are read with as many digits as mean something', () => {
    expect(figureWords(row('Similarity (SSIM)'), 0.95512)).toBe('0.955');
    expect(figureWords(row('Edges rise in'), null)).toBe('–');
  });
});
