import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Size } from '@/core/raster/region';
import type { Depth } from '@/core/raster/samples';
import { random } from '@/core/testing';
import { RowMeans } from './row-means';
import type { ReadRow, SampleForm } from './samples';

const formOf = (size: Size, channels: number, depth: Depth): SampleForm => ({
  ...{ size, channels, depth },
  space: channels === 4 ? 'cmyk' : 'rgb',
});

/** A picture of noise, and its rows as they come from a file: at any place of a buffer. */
function picture({ size, channels, depth }: SampleForm, seed: number) {
  const next = random(seed);
  const line = size.width * channels;
  const values = Array.from({ length: line * size.height }, () =>
    Math.floor(next() * (depth === 8 ? 256 : 65536)),
  );
  const rows = Array.from({ length: size.height }, (_, y): ReadRow => {
    const own = values.slice(y * line, (y + 1) * line);
    const bytes = depth === 8 ? Uint8Array.from(own) : new Uint8Array(Uint16Array.from(own).buffer);
    // Every other one begins at an odd byte.
    const held = new Uint8Array(bytes.length + 1);
    held.set(bytes, y % 2);
    return { y, row: held.subarray(y % 2, (y % 2) + bytes.length) };
  });
  return { values, rows };
}

/** Every small row with its samples, copied as it is given. */
function reduced(form: SampleForm, small: Size, rows: readonly ReadRow[]) {
  const means = new RowMeans(form, small);
  const found = new Map<number, number[]>();
  const take = (one: ReadRow | null) => {
    if (!one) return;
    expect(found.has(one.y)).toBe(false);
    const bytes = Uint8Array.from(one.row);
    found.set(one.y, [...(form.depth === 8 ? bytes : new Uint16Array(bytes.buffer))]);
  };
  for (const row of rows) take(means.add(row));
  take(means.end());
  return found;
}

describe('rows brought to a smaller size', () => {
  it('are means of the samples that each of its pixels stands for, every sample in one of them', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 30 }),
        fc.integer({ min: 1, max: 30 }),
        fc.double({ min: 0.05, max: 1, noNaN: true }),
        fc.double({ min: 0.05, max: 1, noNaN: true }),
        fc.constantFrom(1, 3, 4),
        fc.constantFrom<Depth>(8, 16),
        (width, height, across, down, channels, depth) => {
          const form = formOf({ width, height }, channels, depth);
          const small = {
            width: Math.max(1, Math.round(width * across)),
            height: Math.max(1, Math.round(height * down)),
          };
          const { values, rows } = picture(form, width + 31 * height);
          const found = reduced(form, small, rows);
          const sums = new Map<string, number[]>();
          values.forEach((value, i) => {
            const [c, x] = [i % channels, Math.floor(i / channels) % width];
            const y = Math.floor(i / channels / width);
            const key = [
              Math.floor((y * small.height) / height),
              Math.floor((x * small.width) / width),
              c,
            ].join();
            sums.set(key, [...(sums.get(key) ?? []), value]);
          });
          expect([...found.keys()]).toEqual(Array.from({ length: small.height }, (_, y) => y));
          for (const [key, of] of sums) {
            const [y, x, c] = key.split(',').map(Number) as [number, number, number];
            const mean = of.reduce((sum, value) => sum + value, 0) / of.length;
            expect(Math.abs(found.get(y)![x * channels + c]! - mean)).toBeLessThanOrEqual(0.5);
          }
        },
      ),
      { numRuns: 60 },
    );
  });

  it('are the rows themselves where the size stays', () => {
    const form = formOf({ width: 7, height: 5 }, 3, 16);
    const { values, rows } = picture(form, 9);
    const found = reduced(form, form.size, rows);
    expect([...found.values()].flat()).toEqual(values);
  });

  it('are none of a picture that has none', () => {
    const means = new RowMeans(formOf({ width: 4, height: 4 }, 3, 8), { width: 2, height: 2 });
    expect(means.end()).toBeNull();
  });

  it('end where a file breaks off, with what there is of the last one', () => {
    const form = formOf({ width: 4, height: 6 }, 1, 8);
    const even = Array.from({ length: 5 }, (_, y) => ({ y, row: new Uint8Array(4).fill(10 * y) }));
    const found = reduced(form, { width: 1, height: 2 }, even);
    expect([...found]).toEqual([
      [0, [10]],
      [1, [35]],
    ]);
  });
});
