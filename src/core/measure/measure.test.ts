import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { eyePpi, sharpFrom } from './eye';
import { formatBytes, formatFactor, formatMegapixels, formatSeconds, formatTimes } from './format';
import { testFindings, testPaper } from '../testing';
import type { Paper } from './paper';
import { planPrint, type PrintPlan } from './plan';
import type { Findings } from '../inspect/findings';
import { customerNote, eyeNeed, holdsFrom, realPpi, verdict } from './verdict';
import { largestAt, waysToPrint } from './what-if';
import { fromInches, toInches, toPixels, Unit } from './units';

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
          // The result's sides are whole pixels, so its shape is a square's but for one of them.
          const shape = source.width / source.height;
          expect(Math.abs(shape - 1)).toBeLessThanOrEqual(
            0.5 / (Math.min(pixels.width, pixels.height) - 0.5) + 1e-9,
          );
        },
      ),
    );
  });

  it('crops where the picture goes beyond the paper by less than a pixel on either side', () => {
    const { source } = plan(237, 240, { width: cm(5), height: cm(5) }, 30);
    expect(source).toEqual({ x: 0, y: 1.5, width: 237, height: 237 });
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
    [20, { width: cm(60) }, 600, /709 times the original/],
    [720, { width: { value: 1, unit: '%' as const } }, 300, /64th/],
    [20_000, { width: cm(500) }, 300, /more than Lontano makes/],
  ])('of %d pixels on %o at %d ppi is refused in words', (pixels, paper, ppi, words) => {
    const result = planPrint(picture(pixels, pixels), testPaper(paper), ppi);
    const reason = result.ok ? '' : result.reason;
    expect(reason).toMatch(words);
    // What is named instead works, and a little more does not.
    const [, said, unit] = /at (?:most|least) ([\d.]+).* (cm|%)/.exec(reason)!;
    const ordered = (value: number) => {
      const width = { value, unit: unit as 'cm' | '%' };
      return planPrint(picture(pixels, pixels), testPaper({ width }), ppi).ok;
    };
    expect(ordered(Number(said))).toBe(true);
    expect(ordered(Number(said) * (reason.includes('at most') ? 1.02 : 0.9))).toBe(false);
    const fits = /, or (\d+) ppi/.exec(reason)?.[1];
    if (fits)
      expect(planPrint(picture(pixels, pixels), testPaper(paper), Number(fits)).ok).toBe(true);
  });

  it('counts the factor on the file as it came, whose squares may have become single pixels', () => {
    const paper = testPaper({ width: cm(40) });
    const single = planPrint(picture(24, 24), paper, 150);
    expect(single.ok ? '' : single.reason).toMatch(/98.4 times the original.*at most 26 x 26 cm/);
    expect(planPrint({ ...picture(24, 24), repeats: 4 }, paper, 150).ok).toBe(true);
  });
});

describe('bleed and margins', () => {
  const bleed = (fill: Paper['bleed']['fill'], more: Partial<Paper> = {}) =>
    plan(720, 480, { width: cm(25.4), height: cm(25.4), bleed: { mm: 25.4, fill }, ...more }, 100);

  it('adds whole pixels on every side, filled with more of the picture where there is more', () => {
    const { pixels, trim, picture, source, inches, ordered } = bleed('picture');
    expect(pixels).toEqual({ width: 1200, height: 1200 });
    expect(trim).toEqual({ x: 100, y: 100, width: 1000, height: 1000 });
    expect(inches.width).toBeCloseTo(12, 9);
    expect(ordered.width).toBeCloseTo(10, 9);
    // 0.48 of a picture pixel a result pixel: to the left there are 120 more, above there are none.
    expect(picture).toEqual({ x: 0, y: 100, width: 1200, height: 1000 });
    expect(source).toEqual({ x: 72, y: 0, width: 576, height: 480 });
  });

  it('keeps the picture within the trim for other fills', () => {
    for (const fill of ['mirror', 'rim', 'colour'] as const) {
      expect(bleed(fill).picture).toEqual({ x: 100, y: 100, width: 1000, height: 1000 });
    }
  });

  it('shows the whole picture with margins, on whole pixels', () => {
    const made = bleed('colour', { fit: 'margin' });
    expect(made.source).toEqual({ x: 0, y: 0, width: 720, height: 480 });
    expect(made.picture).toMatchObject({ x: 100, width: 1000, height: 666 });
    expect(made.margins).toBeCloseTo(1 / 3, 6);
    expect(made.croppedAway).toBeCloseTo(0, 9);
  });

  it('never shows what is not there, wherever the paper lies', () => {
    fc.assert(
      fc.property(
        fc.record({
          x: fc.double({ min: 0, max: 1, noNaN: true }),
          y: fc.double({ min: 0, max: 1, noNaN: true }),
          zoom: fc.double({ min: 0.3, max: 4, noNaN: true }),
        }),
        fc.constantFrom('crop', 'margin', 'stretch'),
        fc.double({ min: 0, max: 40, noNaN: true }),
        (place, fit, mm) => {
          const paper = { width: cm(30), height: cm(22), place, fit } as const;
          const made = plan(720, 480, { ...paper, bleed: { mm, fill: 'picture' } }, 60);
          expect(made.source.x).toBeGreaterThanOrEqual(-1e-9);
          expect(made.source.y).toBeGreaterThanOrEqual(-1e-9);
          expect(made.source.x + made.source.width).toBeLessThanOrEqual(720 + 1e-6);
          expect(made.source.y + made.source.height).toBeLessThanOrEqual(480 + 1e-6);
          expect(made.picture.x + made.picture.width).toBeLessThanOrEqual(made.pixels.width);
          expect(made.picture.y + made.picture.height).toBeLessThanOrEqual(made.pixels.height);
        },
      ),
    );
  });
});

describe('ways to print', () => {
  const order = testPaper({ width: cm(120), height: cm(80) });
  const dome = plan(720, 480, order, 160);

  it('stand beside each other with their pixels', () => {
    const ways = waysToPrint(picture(720, 480), order, dome, { eye: 43.7, device: 160 });
    expect(ways.map((way) => [way.name, way.plan?.pixels.width])).toEqual([
      ['tag only', 720],
      ['the eye', 2079],
      ['the device', 7559],
      ['twice the device', 15118],
    ]);
    const shapes = { ...dome, vector: true };
    expect(waysToPrint(picture(720, 480), order, shapes, { eye: 44, device: 160 })[0]!.name).toBe(
      'the eye',
    );
  });

  it('says how large a picture may be without new pixels', () => {
    expect(largestAt({ width: 720, height: 480 }, 144)).toEqual({ width: 5, height: 480 / 144 });
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

const found = (of: Partial<Findings> = {}) => testFindings({ width: 720, height: 480 }, of);

describe('the verdict', () => {
  const dome = () => plan(720, 480, { width: cm(120), height: cm(80) }, 160);

  it('says the effective resolution, what is needed, and what follows', () => {
    const { fact, judgement } = verdict(dome(), 2, found());
    expect(`${fact} ${judgement}`).toBe(
      'Effective resolution at 120 x 80 cm: 15 ppi. Seen from 2 m, 44 ppi are needed. Enlarging helps; fine lettering will stay soft.',
    );
  });

  it('asks twice as much of line work, and says so', () => {
    expect(eyeNeed(2, 'line art')).toBeCloseTo(2 * eyePpi(2), 9);
    expect(verdict(dome(), 2, found({ kind: 'line art' })).fact).toMatch(
      /87 ppi are needed, twice as many/,
    );
    expect(holdsFrom(eyeNeed(3, 'line art'), 'line art')).toBeCloseTo(3, 9);
  });

  it('unmasks what was enlarged before', () => {
    expect(verdict(dome(), 2, found({ detail: 0.25 })).fact).toMatch(
      /Its real detail is that of 7\.6/,
    );
    const hollow = verdict(dome(), 2, found({ detail: 0.05 }));
    expect(hollow).toMatchObject({ tone: 'trouble', short: 'not usable, ask for another file' });
    expect(hollow.judgement).toMatch(/about 5 % of its pixels/);
  });

  it('goes by the detail that is there, not by the pixels that hold none', () => {
    const large = () => plan(1440, 960, { width: cm(120), height: cm(80) }, 160);
    expect(verdict(large(), 2, found()).short).toBe('enlarging is enough');
    // Enlarged twice before, it says no more than the small one.
    const hollow = verdict(large(), 2, found({ detail: 0.25 }));
    expect(hollow).toMatchObject({ tone: 'caution', short: verdict(dome(), 2, found()).short });
    expect(hollow.fact).toMatch(/: 30 ppi\. Its real detail is that of 15 ppi/);
    expect(realPpi(large(), found({ detail: 0.25 }))).toBeCloseTo(realPpi(dome(), found()), 6);
    const squares = found({ detail: 0.01, kind: 'pixel squares' });
    expect(realPpi(large(), squares)).toBeCloseTo(30.5, 1);
  });

  it('of shapes and of pixel squares is good at any size', () => {
    const vector = { widthPt: 100, heightPt: 50, pictures: [] };
    expect(verdict(dome(), 0.4, found({ vector })).tone).toBe('good');
    expect(verdict(dome(), 0.4, found({ kind: 'pixel squares' })).tone).toBe('good');
  });

  it('comes with a note to the customer where the picture does not do', () => {
    const note = customerNote('dome.jpg', { width: 720, height: 480 }, dome(), 2, found())!;
    expect(note).toMatch(/720 x 480 pixels/);
    expect(note).toMatch(/about 2100 x 1400 pixels/);
    expect(note).toMatch(/will stay soft/);
    expect(customerNote('d.jpg', { width: 720, height: 480 }, dome(), 8, found())).toBeNull();
    const damaged = found({ damaged: 0.3 });
    expect(customerNote('d.jpg', { width: 720, height: 480 }, dome(), 2, damaged)).toMatch(
      /A part of the file is missing/,
    );
  });

  it.each([
    ['photograph', /as it came from the camera.*scan at 350 ppi/],
    ['flat artwork', /PDF, SVG or EPS.*name of the font/],
    ['line art', /PDF, SVG or EPS/],
    ['mixed', /as it was laid out.*scan/],
  ] as const)('asks for what helps a picture of the kind %s', (kind, words) => {
    const note = customerNote('a.png', { width: 720, height: 480 }, dome(), 2, found({ kind }))!;
    expect(note.replace(/scan at \d+/, 'scan at 350')).toMatch(words);
  });

  it.each([
    [720, 2, 'caution', /fine lettering will stay soft/],
    [720, 6, 'good', /holds by itself from 5.7 m/],
    [1200, 2, 'good', /Enlarging is enough/],
    [200, 2, 'trouble', /ask the customer/],
  ])('for %d pixels on 120 cm from %d m is %s', (pixels, metres, tone, words) => {
    const got = verdict(plan(pixels, pixels, { width: cm(120) }, 160), metres, found());
    expect(got.tone).toBe(tone);
    expect(got.judgement).toMatch(words);
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
    const times: [number, number][] = [
      ...([
        [0.2, 0.4],
        [6.2, 9.8],
        [6.8, 7.2],
        [44, 118],
        [100, 340],
      ] as [number, number][]),
      ...([
        [3500, 7000],
        [5600, 7300],
      ] as [number, number][]),
    ];
    expect(times.map(([least, most]) => formatTimes(least, most))).toEqual([
      ...['1 s', '6–10 s', '7 s', '45 s – 2 min', '1.5–5.5 min'],
      ...['58 min – 2 h', '1.5–2 h'],
    ]);
  });
});
