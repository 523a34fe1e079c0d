import { describe, expect, it } from 'vitest';
import { STANDARD_CHROMA, tableAtQuality } from '../../inspect/jpeg-quality';
import { whole, type Region } from '../../raster/region';
import { random } from '../../testing';
import type { Plane } from '../transform/shifted';
import { readBilinear, toSamplesOf, unsmoothed, UNSMOOTH_REACH, type Sampling } from './chroma';
import { deblockColour, trustInLuma } from './colour';
import { guided, GUIDED_REACH } from './guided';

const size = { width: 40, height: 32 };
const plane = (value: (x: number, y: number) => number, of = size): Plane => ({
  values: Float32Array.from({ length: of.width * of.height }, (_, i) =>
    value(i % of.width, Math.floor(i / of.width)),
  ),
  covered: whole(of),
  size: of,
});

describe('the samples of halved colour', () => {
  const sampling: Sampling = { x: 2, y: 2, gridX: 0, gridY: 0 };
  const fine = { width: 2 * size.width, height: 2 * size.height };
  const next = random(2);
  const samples = plane(() => 60 * (next() - 0.5));
  // As decoders bring them up: a triangle between the samples' centres.
  const decoded = readBilinear(samples.values, whole(size), whole(fine), fine, sampling);

  it('are won back from what a decoder made of them', () => {
    const means = toSamplesOf(decoded, whole(fine), whole(size), fine, sampling);
    const back = unsmoothed(means, whole(size), sampling);
    const off = (values: Float32Array) =>
      Math.max(...values.map((value, i) => Math.abs(value - samples.values[i]!)));
    expect(off(means.values)).toBeGreaterThan(5);
    expect(off(back.values)).toBeLessThan(0.05);
  });

  it('come alike from a part, with what it looks at', () => {
    const part: Region = { x: 9, y: 7, width: 11, height: 8 };
    const around = {
      x: part.x - UNSMOOTH_REACH,
      y: part.y - UNSMOOTH_REACH,
      width: part.width + 2 * UNSMOOTH_REACH,
      height: part.height + 2 * UNSMOOTH_REACH,
    };
    const means = toSamplesOf(decoded, whole(fine), around, fine, sampling);
    const all = unsmoothed(
      toSamplesOf(decoded, whole(fine), whole(size), fine, sampling),
      whole(size),
      sampling,
    );
    const { values } = unsmoothed(means, part, sampling);
    values.forEach((value, i) => {
      const x = part.x + (i % part.width);
      const y = part.y + Math.floor(i / part.width);
      expect(value).toBe(all.values[y * size.width + x]);
    });
  });

  it('are left as they are along an axis that was not halved', () => {
    const whole_ = unsmoothed(samples, whole(size), { ...sampling, x: 1, y: 1 });
    expect(whole_.values).toEqual(samples.values);
  });
});

describe('colour that follows luminance', () => {
  const luma = plane((x, y) => (x > 20 ? 150 : 60) + 3 * Math.sin(y));

  it('is the line through both, wherever they go together', () => {
    const colour = plane((x, y) => 0.4 * luma.values[y * size.width + x]! - 20);
    const { slope, level } = guided(colour, luma.values, whole(size));
    const at = 10 * size.width + 21;
    expect(slope[at]).toBeCloseTo(0.4, 1);
    expect(slope[at]! * luma.values[at]! + level[at]!).toBeCloseTo(colour.values[at]!, 0);
  });

  it('is level where luminance tells nothing', () => {
    const colour = plane((x) => x);
    const flat = new Float32Array(size.width * size.height).fill(90);
    const { slope, level } = guided(colour, flat, whole(size));
    expect(slope.every((value) => value === 0)).toBe(true);
    expect(level[10 * size.width + 15]).toBeCloseTo(15, 4);
  });

  it('is the same from a part that holds what it looks at', () => {
    const colour = plane((x, y) => (x * y) % 17);
    const all = guided(colour, luma.values, whole(size));
    const part = { x: 12, y: 9, width: 6, height: 5 };
    const covered = {
      x: part.x - GUIDED_REACH,
      y: part.y - GUIDED_REACH,
      width: part.width + 2 * GUIDED_REACH,
      height: part.height + 2 * GUIDED_REACH,
    };
    const cut = (values: Float32Array) =>
      Float32Array.from({ length: covered.width * covered.height }, (_, i) => {
        const x = covered.x + (i % covered.width);
        return values[(covered.y + Math.floor(i / covered.width)) * size.width + x]!;
      });
    const some = guided({ values: cut(colour.values), covered, size }, cut(luma.values), part);
    some.slope.forEach((value, i) => {
      const x = part.x + (i % part.width);
      const y = part.y + Math.floor(i / part.width);
      expect(value).toBe(all.slope[y * size.width + x]);
    });
  });

  it('is believed the less, the finer colour was kept', () => {
    const trust = [10, 50, 80, 90, 97].map((quality) =>
      trustInLuma(tableAtQuality(STANDARD_CHROMA, quality)),
    );
    expect(trust[0]).toBe(1);
    expect([...trust].sort((a, b) => b - a)).toEqual(trust);
    expect(trust.at(-1)).toBeLessThan(0.05);
  });

  it('wins an edge of colour back that quantisation blurred', () => {
    const table = tableAtQuality(STANDARD_CHROMA, 20);
    const truth = plane((x) => (x > 20 ? 24 : -16));
    // What is left where all waves but the slowest were dropped: block means.
    const given = plane((x, y) => {
      let sum = 0;
      for (let k = 0; k < 8; k++) {
        const column = (x >> 3) * 8 + k;
        sum += truth.values[y * size.width + column]!;
      }
      return sum / 8;
    });
    const { samples } = deblockColour(given, luma.values, whole(size), table);
    const error = (values: Float32Array) =>
      values.reduce((sum, value, i) => sum + (value - truth.values[i]!) ** 2, 0);
    expect(error(samples)).toBeLessThan(0.9 * error(given.values));
  });
});
