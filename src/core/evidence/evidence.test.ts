import { describe, expect, it } from 'vitest';
import { NO_GUARDS } from '../guard/guards';
import { NO_MODELS } from '../learned/models';
import { emptyRaster, type Raster } from '../raster/raster';
import { RGB } from '../raster/form';
import { whole, type Size } from '../raster/region';
import { newStep } from '../recipe/order';
import { originalOf } from '../recipe/original';
import { propose } from '../recipe/propose';
import { resolveRecipe } from '../recipe/resolve';
import type { Treatment } from '../recipe/work';
import { render } from '../render/render';
import { memorySource, random, testFindings, testPaper } from '../testing';
import { inspectPixels } from '../inspect/inspect';
import { EvidenceTable, sameShape, type Evidence } from './evidence';

const size: Size = { width: 192, height: 128 };

/** Soft-edged squares of several tones on plain ground. */
function picture(): Raster {
  const raster = emptyRaster(size.width, size.height, RGB);
  for (let y = 0; y < size.height; y++)
    for (let x = 0; x < size.width; x++) {
      const inside = x % 47 > 14 && x % 47 < 33 && y % 31 > 8 && y % 31 < 23;
      for (let c = 0; c < 3; c++) {
        raster.planes[c]![y * size.width + x] = inside ? 0.8 - 0.1 * c : 0.25 + 0.05 * c;
      }
    }
  return raster;
}
const original = picture();
const table = await EvidenceTable.begin({ original: memorySource(original) });

async function enlarged(treatment: Treatment): Promise<Raster> {
  const findings = testFindings(size);
  const paper = testPaper({ width: { value: 9.6, unit: 'cm' } });
  const { work } = propose(findings, { paper, distance: 2 });
  const trial = { ...work.trials[0]!, treatment, guards: NO_GUARDS };
  const resolved = resolveRecipe(originalOf('e'.repeat(64), findings), work, trial, NO_MODELS);
  if (!resolved.ok) throw new Error(resolved.reason);
  const { recipe } = resolved;
  return render(memorySource(original), recipe).read(whole(recipe.target));
}
const evidenceOf = async (raster: Raster): Promise<Evidence> =>
  table.ofResult(memorySource(raster));
const changed = (
  raster: Raster,
  change: (value: number, i: number, c: number) => number,
): Raster => ({
  ...raster,
  planes: raster.planes.map((plane, c) => plane.map((value, i) => change(value, i, c))),
});

const nearest = await enlarged([newStep('enlarge', { method: 'nearest' })]);
const lanczos = await enlarged([newStep('enlarge', { method: 'lanczos3', limit: 0 })]);
const bilinear = await enlarged([newStep('enlarge', { method: 'bilinear' })]);
const scale = nearest.width / size.width;

describe('evidence', () => {
  it('finds repeated pixels all true, whose edges are as hard as can be', async () => {
    const found = await evidenceOf(nearest);
    expect(found.psnrReduced).toBeGreaterThan(40);
    expect(found.ssimReduced).toBeGreaterThan(0.99);
    expect(found.colourShift).toBeLessThan(0.6);
    expect(found.edgeRisePx).toBeLessThan(1.5);
    expect(found.overshootPercent).toBeLessThan(0.1);
    expect(found.noise).toBeLessThan(0.1);
  });

  it('tells soft edges from crisp ones, and ringing from none', async () => {
    const [soft, ringing] = [await evidenceOf(bilinear), await evidenceOf(lanczos)];
    expect(soft.edgeRisePx!).toBeGreaterThan(0.6 * scale);
    expect(soft.overshootPercent!).toBeLessThan(1);
    expect(ringing.edgeRisePx!).toBeLessThan(soft.edgeRisePx!);
    expect(ringing.overshootPercent!).toBeGreaterThan(4);
    expect(ringing.psnrReduced).toBeGreaterThan(soft.psnrReduced);
  });

  it('names the largest shift of a colour, wherever it lies', async () => {
    const shifted = changed(nearest, (value, i, c) => {
      const [x, y] = [i % nearest.width, Math.floor(i / nearest.width)];
      const here = x > nearest.width * 0.7 && y > nearest.height * 0.6;
      return c === 2 && here ? value + 12 / 255 : value;
    });
    expect((await evidenceOf(shifted)).colourShift).toBeCloseTo(12, 0);
  });

  it('finds noise at the original’s pixels, whatever grain it has', async () => {
    const next = random(7);
    const cell = Math.round(scale);
    const grains = Array.from({ length: 1 << 16 }, () => next() - 0.5);
    const noisy = changed(nearest, (value, i) => {
      const [x, y] = [i % nearest.width, Math.floor(i / nearest.width)];
      const at = Math.floor(y / cell) * 997 + Math.floor(x / cell);
      return value + (grains[at & 0xffff]! * 20) / 255;
    });
    expect((await evidenceOf(noisy)).noise).toBeGreaterThan(2);
  });

  it('says of the original what can be said of it, in pixels of the result', async () => {
    const own = await table.ofOriginal(scale);
    expect(own.edgeRisePx!).toBeGreaterThan(0.5 * scale);
    expect(own.edgeRisePx!).toBeLessThan(1.2 * scale);
    expect(own.blocking).toBe(0);
  });

  it('comes to much the same on a sample of places', async () => {
    const sampled = await EvidenceTable.begin({ original: memorySource(original), sampled: true });
    const some = await sampled.ofResult(memorySource(lanczos));
    const all = await evidenceOf(lanczos);
    expect(some.psnrReduced).toBeCloseTo(all.psnrReduced, 0);
    expect(some.overshootPercent! / all.overshootPercent!).toBeCloseTo(1, 0);
    expect(some.edgeRisePx! / all.edgeRisePx!).toBeCloseTo(1, 0);
  });

  it('means by blocking and noise what findings mean, on however few places', async () => {
    const next = random(5);
    const raster = emptyRaster(640, 512, RGB);
    // Blocks in the right half alone, so that places differ.
    for (const plane of raster.planes) {
      for (let i = 0; i < plane.length; i++) {
        const [x, y] = [i % 640, Math.floor(i / 640)];
        const block = x < 320 ? 0 : 0.04 * (((x >> 3) * 7 + (y >> 3) * 13) % 3);
        plane[i] = 0.2 + x / 3000 + block + 0.05 * next();
      }
    }
    const source = memorySource(raster);
    const { findings } = await inspectPixels(source);
    expect(findings.blocking.strength).toBeGreaterThan(5);
    for (const sampled of [true, false]) {
      const of = await EvidenceTable.begin({ original: source, sampled });
      const { blocking, noise } = await of.ofOriginal(1);
      expect(blocking).toBe(findings.blocking.strength);
      expect(noise).toBe(findings.noise.luma);
      // A result that changed nothing has them as well.
      const same = await of.ofResult(source);
      expect(same.blocking).toBeCloseTo(blocking, 6);
      expect(same.noise).toBeCloseTo(noise, 6);
    }
  });

  it('compares nothing of another shape, or smaller', async () => {
    expect(sameShape(size, { width: 1921, height: 1280 })).toBe(true);
    expect(sameShape(size, { width: 1920, height: 1180 })).toBe(false);
    const square = emptyRaster(400, 400, RGB);
    await expect(evidenceOf(square)).rejects.toThrow(/another shape/);
    await expect(evidenceOf(emptyRaster(96, 64, RGB))).rejects.toThrow(/smaller/);
  });
});
