import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { eyePpi, sharpFrom } from './eye';
import { formatBytes, formatFactor, formatMegapixels, formatSeconds } from './format';
import { testPaper } from '../testing';
import type { Paper } from './paper';
import { planPrint, type PrintPlan } from './plan';
import { verdict } from './verdict';
import { fromInches, parseLength, toInches, toPixels, Unit } from './units';

const cm = (value: number) => ({ value, unit: 'cm' as const });

const picture = (width: number, height: number) => ({ rect: { x: 0, y: 0, width, height } });

function plan(width: number, height: number, paper: Partial<Paper>, ppi: number): PrintPlan {
  const result = planPrint(picture(width, height), testPaper(paper), ppi);
  if (!result.ok) throw new Error(result.reason);
  return result.plan;
}

describe('units', () => {
  it('convert exactly', () => {
    const axis = { originalPixels: 720, ppi: 300 };
    expect(toInches({ value: 25.4, unit: 'mm' }, axis)).toBe(1);
    expect(toInches({ value: 2.54, unit: 'cm' }, axis)).toBe(1);
    expect(toInches({ value: 0.0254, unit: 'm' }, axis)).toBe(1);
    expect(toPixels({ value: 210, unit: 'mm' }, axis)).toBe(2480);
    expect(toPixels({ value: 29.7, unit: 'cm' }, axis)).toBe(3508);
    expect(toPixels({ value: 400, unit: '%' }, axis)).toBe(2880);
    expect(toPixels({ value: 1001, unit: 'px' }, axis)).toBe(1001);
  });

  it('come back after a round trip, in every unit', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...Unit.options),
        fc.double({ min: 0.01, max: 1e5, noNaN: true }),
        fc.integer({ min: 1, max: 2400 }),
        (unit, value, ppi) => {
          const axis = { originalPixels: 1234, ppi };
          const back = fromInches(toInches({ value, unit }, axis), unit, axis);
          expect(Math.abs(back / value - 1)).toBeLessThan(1e-14);
        },
      ),
    );
  });

  it('are read as people type them, and nothing else is', () => {
    expect(parseLength('120cm', 'mm')).toEqual(cm(120));
    expect(parseLength(' 47,5 in ', 'mm')).toEqual({ value: 47.5, unit: 'in' });
    expect(parseLength('12"', 'mm')).toEqual({ value: 12, unit: 'in' });
    expect(parseLength('80', 'cm')).toEqual(cm(80));
    for (const wrong of ['', '0', '-4', '1e9cm', 'cm', '12 parsecs', '1.2.3', 'NaN']) {
      expect(parseLength(wrong, 'cm'), wrong).toBeNull();
    }
  });
});

describe('the print plan', () => {
  it('gives the figures of the dome job', () => {
    const dome = plan(720, 480, { width: cm(120), height: cm(80) }, 160);
    expect(dome.pixels).toEqual({ width: 7559, height: 5039 });
    expect(dome.source).toEqual({ x: 0, y: 0, width: 720, height: 480 });
    expect(dome.ppiBefore.x).toBeCloseTo(15.24, 2);
    expect(dome.factor.x).toBeCloseTo(10.5, 2);
    expect(dome.bytes).toBe(7559 * 5039 * 3);
    expect(dome.croppedAway).toBe(0);
  });

  it('lets an open side follow, and takes the picture as it is where both are open', () => {
    expect(plan(720, 480, { height: cm(80) }, 160).pixels).toEqual({ width: 7559, height: 5039 });
    expect(plan(720, 481, {}, 300).pixels).toEqual({ width: 720, height: 481 });
    expect(plan(720, 480, { width: { value: 250, unit: '%' } }, 72).pixels).toEqual({
      width: 1800,
      height: 1200,
    });
  });

  it('is right within half a pixel on either axis', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 30, max: 3000 }),
        fc.integer({ min: 30, max: 3000 }),
        fc.double({ min: 5, max: 100, noNaN: true }),
        fc.integer({ min: 30, max: 300 }),
        (width, height, paper, ppi) => {
          const result = planPrint(
            picture(width, height),
            testPaper({ width: cm(paper), height: cm(paper) }),
            ppi,
          );
          if (!result.ok) return;
          const { pixels, ordered, source } = result.plan;
          expect(Math.abs(pixels.width - ordered.width * ppi)).toBeLessThanOrEqual(0.5 + 1e-9);
          expect(source.x).toBeGreaterThanOrEqual(0);
          expect(source.x + source.width).toBeLessThanOrEqual(width + 1e-9);
          expect(source.width / source.height).toBeCloseTo(1, 2);
        },
      ),
    );
  });

  it('crops to the middle or stretches, and says how much', () => {
    const cropped = plan(720, 480, { width: cm(80), height: cm(80) }, 100);
    expect(cropped.source).toEqual({ x: 120, y: 0, width: 480, height: 480 });
    expect(cropped.croppedAway).toBeCloseTo(1 / 3, 6);
    expect(cropped.distortion).toBe(0);
    const stretched = plan(720, 480, { width: cm(80), height: cm(80), fit: 'stretch' }, 100);
    expect(stretched.source.width).toBe(720);
    expect(stretched.distortion).toBeCloseTo(-1 / 3, 3);
  });

  it('stretches away a mismatch below half a pixel', () => {
    const almost = plan(720, 480, { width: cm(12), height: cm(8.0005) }, 100);
    expect(almost.source).toEqual({ x: 0, y: 0, width: 720, height: 480 });
  });

  it.each([
    [720, { width: cm(0.001) }, 72, /less than one pixel/],
    [200, { width: cm(60) }, 600, /times the original/],
    [720, { width: { value: 1, unit: '%' as const } }, 300, /64th/],
    [20_000, { width: cm(500) }, 300, /more than Lontano makes/],
  ])('of %d pixels on %o at %d ppi is refused in words', (pixels, paper, ppi, words) => {
    const result = planPrint(picture(pixels, pixels), testPaper(paper), ppi);
    expect(result.ok ? '' : result.reason).toMatch(words);
  });
});

describe('the eye', () => {
  it.each([
    [0.3, 291],
    [1, 87],
    [2, 44],
    [5, 17],
  ])('at %d m uses %d ppi', (metres, ppi) => {
    expect(Math.round(eyePpi(metres))).toBe(ppi);
    expect(sharpFrom(eyePpi(metres))).toBeCloseTo(metres, 9);
  });
});

describe('the verdict', () => {
  it.each([
    [720, 2, 'caution', /fine lettering will stay soft/],
    [720, 6, 'good', /holds by itself from 5.7 m/],
    [1200, 2, 'good', /Enlarging is enough/],
    [200, 2, 'trouble', /ask the customer/],
  ])('for %d pixels on 120 cm from %d m is %s', (pixels, metres, tone, words) => {
    const got = verdict(plan(pixels, pixels, { width: cm(120) }, 160), metres);
    expect(got.tone).toBe(tone);
    expect(got.sentence).toMatch(words);
  });
});

describe('figures for reading', () => {
  it('are short and true', () => {
    expect([999, 1000, 114_270_000, 4.21e9].map(formatBytes)).toEqual([
      '999 B',
      '1.0 kB',
      '114 MB',
      '4.2 GB',
    ]);
    expect([0.3456, 2.44, 38.09].map(formatMegapixels)).toEqual(['0.35', '2.4', '38']);
    expect([10.498, 4, 0.25].map(formatFactor)).toEqual(['10.5', '4', '0.25']);
    expect([14.2, 185, 3720].map(formatSeconds)).toEqual(['0:14', '3:05', '1:02:00']);
  });
});
