import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { NO_MARKS, type Marks } from '@/core/output/marks';
import { usualOutput, packedBy } from '@/core/output/output';
import { CORE_VERSION, Recipe } from '@/core/recipe/recipe';
import { RECIPE_VERSION } from '@/core/recipe/versions';
import { renderPage } from '../testing/rendered-pdf';
import { pdfWriter } from './pdf';
import { readPdf } from './pdf-read';
import { packStrip } from './strip';

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lontano-pdf-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const marks: Marks = {
  ...{ crop: true, registration: true, slug: true },
  folds: [{ along: 'width', mm: 30 }],
};
const facts = {
  ...{ job: '2026-014', title: 'Ža programme (leaf)', customer: '', trial: 'Trial A' },
  ...{ size: '60 × 40 mm', date: '2026-11-29' },
};

/** A red picture of 60 x 40 mm with 3 mm of bleed, at 254 ppi: ten pixels a millimetre. */
async function written(change: Partial<Recipe['target']>, output = usualOutput('pdf', 8)) {
  const target = { width: 660, height: 460, ppi: 254, bleed: 30, ...change };
  const recipe = Recipe.parse({
    ...{ version: RECIPE_VERSION, core: CORE_VERSION, alpha: 'none', colour: '#ffffff' },
    original: { digest: 'd'.repeat(64), page: 1, width: 66, height: 46, drawn: null },
    ...{ target, steps: [], output },
  });
  const part = join(folder, 'page');
  const packed = (task: Parameters<typeof packStrip>[0]) => Promise.resolve(packStrip(task));
  const writer = pdfWriter({ recipe, profile: null, part, facts, packed });
  const samples = await writer.begin();
  const bytes = await readFile(samples.path);
  for (let i = samples.start; i < bytes.length; i += (3 * samples.depth) / 8) bytes[i] = 255;
  await writeFile(samples.path, bytes);
  return { writer, path: await writer.end(() => {}) };
}

describe('a written PDF', () => {
  it('opens elsewhere at its size, with the picture and its marks in their places', async () => {
    const { writer, path } = await written({}, { ...usualOutput('pdf', 8), marks });
    const scale = 4;
    const { points, pixel, box } = await renderPage(await readFile(path), scale);
    const MM = 72 / 25.4;
    expect(points.width).toBeCloseTo((66 + 17) * MM, 3);
    expect(points.height).toBeCloseTo((46 + 17) * MM, 3);
    const at = (x: number, y: number) => pixel(x * MM * scale, y * MM * scale);
    // Red within, from the bleed's corner on; paper beyond it.
    expect(at(8.7, 8.7)).toEqual([255, 0, 0]);
    expect(at(41, 30)).toEqual([255, 0, 0]);
    expect(at(8.2, 8.2)).toEqual([255, 255, 255]);
    // A crop mark in line with the trim: 3 mm within the picture, which begins 8.5 mm from the rim.
    const darkest = (x: number, y: number) =>
      Math.min(...[-1, 0, 1].map((d) => pixel(x * MM * scale + d, y * MM * scale)[1]!));
    expect(darkest(11.5, 3)).toBeLessThan(150);
    expect(darkest(10.5, 3)).toBe(255);
    expect(box('trim')!.width).toBeCloseTo(60 * MM, 3);
    expect(box('bleed')!.height).toBeCloseTo(46 * MM, 3);
    await writer.clear();
  });

  it.each([
    ['1.4', {}, usualOutput('pdf', 8)],
    ['1.5', {}, usualOutput('pdf', 16)],
    ['1.6', { width: 15_000, height: 30, ppi: 50, bleed: 0 }, usualOutput('pdf', 8)],
    ['1.4', {}, packedBy(usualOutput('pdf', 8), 'lossy')],
  ])('is of version %s where that suffices', async (version, target, output) => {
    const { writer, path } = await written(target, output);
    expect((await readFile(path)).toString('latin1', 0, 8)).toBe(`%PDF-${version}`);
    const { ppi, boxes } = readPdf(path);
    const { width = 660, ppi: asked = 254 } = target as Partial<Recipe['target']>;
    expect(ppi!.x).toBeCloseTo(asked, 2);
    expect(boxes.media.width).toBeCloseTo((width / asked) * 72, 2);
    await writer.clear();
  });

  it('is the same for the same work', async () => {
    const one = await written({});
    const first = await readFile(one.path);
    const other = await written({});
    expect((await readFile(other.path)).equals(first)).toBe(true);
    await other.writer.clear();
  });

  it('is told from one whose boxes are elsewhere', async () => {
    const { writer, path } = await written({});
    const text = (await readFile(path)).toString('latin1');
    const shown = /\/TrimBox \[([\d.]+)/.exec(text)![1]!;
    const moved = text.replace(
      `/TrimBox [${shown}`,
      `/TrimBox [${shown.replace(/\d$/, '0').replace(/^\d/, '9')}`,
    );
    await writeFile(path, moved, 'latin1');
    const { complaints } = await writer.verify([], () => {});
    expect(complaints.join(' ')).toMatch(/Its trim box is not where it should be/);
    await writer.clear();
  });

  it('that is damaged says what it lacks', async () => {
    const { path, writer } = await written({}, { ...usualOutput('pdf', 8), marks: NO_MARKS });
    const whole = await readFile(path);
    await writeFile(path, whole.subarray(0, whole.length - 60));
    expect(() => readPdf(path)).toThrow();
    await writeFile(path, whole.toString('latin1').replace('/Width', '/Wadth'), 'latin1');
    expect(() => readPdf(path)).toThrow(/has no .*Width/);
    await writer.clear();
  });
});
