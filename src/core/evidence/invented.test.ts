import { describe, expect, it } from 'vitest';
import { emptyRaster } from '../raster/raster';
import { memorySource, testPicture } from '../testing';
import { MODELS } from '../learned/models';
import { CALIBRATIONS, calibratedFor } from './calibrations';
import { expectedOff, inventedDetail, INVENTED_CELL, signsIn, type Signs } from './invented';
import { RGB } from '../raster/form';

const by = CALIBRATIONS.photo;
const PLAIN = { severity: 0, by };
const large = { width: 1560, height: 280 };
const plain = testPicture(large);
const before = memorySource(plain);

/** The plain enlargement with stripes added to a part of it. */
function striped(...places: [x: number, y: number, by?: number][]) {
  const raster = emptyRaster(large.width, large.height, RGB);
  raster.planes.forEach((plane, c) => {
    plane.set(plain.planes[c]!);
    for (const [x, y, by = 0.03] of places)
      for (let v = y; v < y + 40; v++)
        for (let u = x; u < x + 40; u++) plane[v * large.width + u]! += u % 2 ? by : -by;
  });
  return memorySource(raster);
}

describe('invented detail', () => {
  it('is none where the network added nothing', async () => {
    const raster = { ...plain };
    const found = (await inventedDetail(before, memorySource(raster), PLAIN))!;
    expect([found.columns, found.rows]).toEqual([49, 9]);
    const most = expectedOff({ added: 0, edges: 60, severity: 0 }, by);
    for (const level of found.levels) expect(level).toBeLessThan(most);
    expect(most).toBeLessThan(5);
  });

  it('is found where there is some, the worst place first', async () => {
    const found = (await inventedDetail(before, striped([400, 120]), PLAIN))!;
    const [worst] = found.worst;
    expect(Math.abs(worst!.x - 105)).toBeLessThan(INVENTED_CELL);
    expect(Math.abs(worst!.y - 35)).toBeLessThan(INVENTED_CELL);
    expect(worst!.levels).toBeGreaterThan(10);
    expect(found.levels[0]).toBeLessThan(5);
    const rest = found.worst.slice(1);
    for (const { x, y } of rest)
      expect(Math.max(Math.abs(x - worst!.x), Math.abs(y - worst!.y))).toBeGreaterThanOrEqual(64);
  });

  it('puts what was added more before what was added less', async () => {
    const found = (await inventedDetail(before, striped([200, 40, 0.05], [900, 200, 0.1]), PLAIN))!;
    const [worst, second] = found.worst;
    // What is expected levels off in the end; the order does not.
    expect(worst!.levels).toBeGreaterThanOrEqual(second!.levels);
    expect(Math.abs(worst!.x - 230)).toBeLessThan(INVENTED_CELL);
    expect(Math.abs(second!.x - 55)).toBeLessThan(INVENTED_CELL);
  });

  it('tells how far it is, and ends when it is told to', async () => {
    const shares: number[] = [];
    const ended = await inventedDetail(before, striped([0, 0]), PLAIN, (share) => {
      shares.push(share);
      return shares.length < 1;
    });
    expect(ended).toBeNull();
    expect(shares).toEqual([0.5]);
  });

  it('is more the more was added, the harder the edges and the more was lost, up to an end', () => {
    const ways: Partial<Signs>[][] = [
      [0, 0.2, 0.9, 2, 4, 8, 30].map((added) => ({ added })),
      [0, 0.3, 2, 5, 9, 40].map((edges) => ({ edges })),
      [0, 0.3, 0.6, 1].map((severity) => ({ severity })),
    ];
    for (const way of ways) {
      const levels = way.map((signs) =>
        expectedOff({ added: 1, edges: 3, severity: 0, ...signs }, by),
      );
      expect([...levels].sort((a, b) => a - b)).toEqual(levels);
      expect(levels.at(-1)).toBeGreaterThan(2 * levels[0]!);
    }
    const far = { added: 90, edges: 90, severity: 1 };
    expect(expectedOff(far, by)).toBe(expectedOff({ ...far, added: 200 }, by));
    expect(expectedOff({ added: 0, edges: 0, severity: 0 }, by)).toBeGreaterThan(0);
  });

  it('is told by what stands in a cell alone', () => {
    const covered = { x: 0, y: 0, width: 64, height: 32 };
    const cell = { x: 32, y: 0, width: 32, height: 32 };
    const ramp = new Float32Array(64 * 32).map((_, i) => (i % 64 >= 32 ? (3 * (i % 64)) / 255 : 0));
    const raised = ramp.map((value, i) => (i % 64 >= 32 ? value + 5 / 255 : 9));
    const signs = signsIn(cell, covered, ramp, raised, 0.4);
    expect(signs.added).toBeCloseTo(5, 4);
    expect(signs.edges).toBeCloseTo(3, 4);
    expect(signs.severity).toBe(0.4);
  });
});

describe('calibrations', () => {
  it('are told apart by the network and how it is asked', () => {
    const numbers = { luma: 0, colour: 0 };
    expect(calibratedFor({ ...numbers, model: MODELS.photo.digest })).toBe('photo');
    expect(calibratedFor({ ...numbers, model: MODELS.photo.digest, finest: true })).toBe('finest');
    expect(calibratedFor({ ...numbers, model: MODELS.art.digest })).toBe('art');
  });

  it.each(Object.entries(CALIBRATIONS))(
    'of %s rise, and end far from where they begin',
    (_, of) => {
      of.offByScore.forEach(([score, off], i, all) => {
        if (i === 0) return;
        expect(score).toBeGreaterThan(all[i - 1]![0]);
        expect(off).toBeGreaterThanOrEqual(all[i - 1]![1]);
      });
      expect(of.offByScore.at(-1)![1] / of.offByScore[0]![1]).toBeGreaterThan(10);
    },
  );

  it('say more of drawings, whose edges go wrong by more', () => {
    const edge = { added: 6, edges: 40, severity: 0.3 };
    expect(expectedOff(edge, CALIBRATIONS.art)).toBeGreaterThan(1.5 * expectedOff(edge, by));
  });
});
