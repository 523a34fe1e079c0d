import { describe, expect, it } from 'vitest';
import type { History } from '../../inspect/history';
import { STANDARD_LUMA, tableAtQuality } from '../../inspect/jpeg-quality';
import { ALL_MODELS, NO_MODELS } from '../../learned/models';
import type { Network } from '../../learned/network';
import { cut } from '../../raster/raster';
import { whole } from '../../raster/region';
import { nothingBeside, testContext, testHistory, testPicture, withoutMargin } from '../../testing';
import { classical, classicalInput } from '../compression/classical';
import { restore } from './restore';

const size = { width: 40, height: 30 };
const jpeg = {
  ...{ luma: tableAtQuality(STANDARD_LUMA, 50), chroma: null, quality: 50 },
  ...{ samplingX: 1, samplingY: 1, gridX: -2, gridY: 0, progressive: false },
};
const history: History = testHistory({
  ...{ blur: [1, 0.2], noise: [6, 1.2], grain: [0.5, 0.1], sharpening: [90, 36] },
  ...{ resized: [0.3, 0.4], enlarged: [0.75, 0.3], quality: [50, 5] },
});
const resolved = (settings = {}, named = {}) =>
  restore.resolve(
    { ...restore.defaults, ...settings },
    testContext(size, { jpeg, history, models: ALL_MODELS, ...named }),
  );

describe('what a network is told', () => {
  it('is what was measured, and how far off it may be, each as a share of the most', () => {
    const { told, unsure, tables, model } = resolved()!;
    expect(told).toEqual({
      ...{ blur: 0.5, noise: 0.5, grain: 0.5, sharpening: 0.5, resized: 0.3, enlarged: 0.5 },
    });
    expect(unsure.blur).toBeCloseTo(0.1, 9);
    expect(unsure.sharpening).toBeCloseTo(0.2, 9);
    expect(tables).toMatchObject({ luma: jpeg.luma, gridX: -2 });
    expect(model).toBe(ALL_MODELS.restore);
  });

  it('is what is set by hand, as sure as can be', () => {
    const { told, unsure } = resolved({ blur: 0.4, resized: 100, enlarged: 2 })!;
    expect([told.blur, told.resized, told.noise]).toEqual([0.2, 1, 0.5]);
    expect(told.enlarged).toBeCloseTo(2 / 3, 9);
    expect(unsure.enlarged).toBeCloseTo(0.03, 9);
    expect(unsure.blur).toBeCloseTo(0.03, 9);
    expect(unsure.resized).toBeCloseTo(0.03, 9);
  });

  it('is nothing, and unsure, where nothing was measured', () => {
    const { told, unsure } = resolved({}, { history: null })!;
    expect(Object.values(told).every((value) => value === 0)).toBe(true);
    expect(Object.values(unsure).every((value) => value >= 0.5)).toBe(true);
  });

  it('is nothing at all where there is neither a model nor compression', () => {
    expect(resolved({}, { jpeg: null, models: NO_MODELS })).toBeNull();
    expect(resolved({}, { jpeg: null })!.tables).toBeNull();
    const blocks = { x: 3, y: 0, quality: 60 };
    expect(resolved({}, { jpeg: null, blocks })!.tables).toMatchObject({ gridX: -5 });
  });
});

describe('restoring', () => {
  const raster = testPicture(size, 5);
  const input = { region: whole(size), raster };
  const grids = { from: size, to: size };

  it('adds to the classical estimate what the network says, which reads all that it is told', async () => {
    const numbers = resolved()!;
    const seen: Float32Array[] = [];
    const network: Network = {
      run: (planes, width, height, margin) => {
        seen.push(planes);
        expect(planes).toHaveLength(23 * width * height);
        const all = new Float32Array(3 * width * height).fill(0.1, 0, width * height);
        return withoutMargin(all, { width, height }, margin);
      },
    };
    const beside = { network: () => Promise.resolve(network) };
    const found = await restore.apply(input, numbers, whole(size), grids, beside);
    const estimate = classical(input, numbers.tables!, whole(size), size);
    found.planes.forEach((plane, c) =>
      plane.forEach((v, i) => expect(v).toBeCloseTo(estimate.planes[c]![i]! + 0.1, 5)),
    );
    const [planes] = seen;
    const count = planes!.length / 23;
    const told = Array.from({ length: 23 }, (_, plane) => planes![plane * count]!);
    // Noise in fiftieths of a level; then blur, grain, sharpening, resizing, enlarging, and how unsure all six are.
    expect(told[9]).toBeCloseTo(6 / 50, 6);
    [0.5, 0.5, 0.5, 0.3, 0.5, 0.1, 0.1, 0.1, 0.2, 0.4, 0.2].forEach((value, i) =>
      expect(told[12 + i]).toBeCloseTo(value, 6),
    );
  });

  it('is the classical estimate where the model is missing, in parts as in one', async () => {
    const numbers = { ...resolved()!, model: null };
    const all = await restore.apply(input, numbers, whole(size), grids, nothingBeside);
    const region = { x: 9, y: 5, width: 12, height: 8 };
    const needed = restore.inputRegion(numbers, region, grids);
    expect(needed).toEqual(classicalInput(numbers.tables!, region, size));
    const part = await restore.apply(
      { region: needed, raster: cut(input, needed) },
      ...([numbers, region, grids, nothingBeside] as const),
    );
    expect(part).toEqual(cut({ region: whole(size), raster: all }, region));
  });
});

describe('its summary', () => {
  it('says what was set by hand', () => {
    expect(restore.summary(restore.defaults, 100)).toBe('restore as measured');
    expect(restore.summary({ ...restore.defaults, blur: 1 }, 60)).toBe(
      'restore 1 set by hand · 60 %',
    );
  });
});
