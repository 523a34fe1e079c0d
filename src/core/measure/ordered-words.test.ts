import { describe, expect, it } from 'vitest';
import { testPaper } from '../testing';
import { orderedWords } from './ordered-words';
import type { Paper } from './paper';
import { planPrint } from './plan';
import { formatLength, type Length } from './units';

const of = (value: number, unit: Length['unit']): Length => ({ value, unit });

/** An order of a picture of 600 x 400 pixels, in words. */
function words(paper: Partial<Paper>, vector = false): string {
  const picture = { rect: { x: 0, y: 0, width: 600, height: 400 }, vector };
  const planned = planPrint(picture, testPaper(paper), 100);
  if (!planned.ok) throw new Error(planned.reason);
  return orderedWords(planned.plan, testPaper(paper));
}

describe('a paper in words', () => {
  it.each<[string, Partial<Paper>]>([
    ['120 × 80 cm', { width: of(120, 'cm') }],
    ['90 × 60 cm', { height: of(60, 'cm') }],
    ['42 × 29.7 cm', { width: of(42, 'cm'), height: of(29.7, 'cm') }],
    ['210 × 297 mm', { width: of(210, 'mm'), height: of(297, 'mm') }],
    // No size is told to less than a millimetre, whatever it was typed in.
    ['1.25 × 0.833 m', { width: of(1.25, 'm') }],
    ['11.75 × 8.25 in', { width: of(11.75, 'in'), height: of(8.25, 'in') }],
    ['4.125 × 2.75 ft', { width: of(4.125, 'ft') }],
    ['842 × 595 pt', { width: of(842, 'pt'), height: of(595, 'pt') }],
  ])('is %s, in the unit that it was typed in', (expected, paper) => {
    expect(words(paper)).toBe(expected);
  });

  it('that is open, or a share of the picture, is told in pixels', () => {
    expect(words({})).toBe('600 × 400 px');
    expect(words({ width: of(200, '%') })).toBe('1200 × 800 px');
    expect(words({ width: of(900, 'px') })).toBe('900 × 600 px');
  });

  it('of shapes has no pixels to be told in', () => {
    expect(words({}, true)).toMatch(/^\d+(\.\d)? × \d+(\.\d)? cm$/);
  });
});

describe('a length for reading', () => {
  it.each<[number, Length['unit'], string]>([
    [120, 'cm', '120 cm'],
    [12.345, 'cm', '12.35 cm'],
    [1.255, 'm', '1.255 m'],
    [4.1254, 'ft', '4.125 ft'],
    [33.333, '%', '33.33 %'],
  ])('%d %s is %s', (value, unit, expected) => {
    expect(formatLength(of(value, unit))).toBe(expected);
  });

  it('has fewer decimals where that is asked', () => {
    expect(formatLength(of(1.255, 'm'), 1)).toBe('1.3 m');
  });
});
