import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { packedBy, usualOutput, type Output } from '@/core/output/output';
import { layOutPanels, USUAL_PANELS, type Panels } from '@/core/output/panels';
import { CORE_VERSION, Recipe } from '@/core/recipe/recipe';
import { RECIPE_VERSION } from '@/core/recipe/versions';
import { renderPage } from '../testing/rendered-pdf';
import { pdfWriter } from './pdf';
import { pdfRows, readPdf } from './pdf-read';
import { rowSum } from './samples';
import { packStrip } from './strip';

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lontano-panels-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

/** Ten pixels a millimetre: 90 x 60 mm in panels of at most 40 x 35 mm. */
const target = { width: 900, height: 600, ppi: 254, bleed: 0 };
const panels: Panels = {
  ...USUAL_PANELS,
  ...{ way: 'grid', widest: 40, tallest: 35, overlap: 5, hem: 6, pocket: 10, eyelets: 30 },
};
const facts = {
  ...{ job: '2026-014', title: 'Banner', customer: '', trial: 'Trial A' },
  ...{ size: '90 × 60 mm', date: '2026-11-29' },
};

/** A picture whose every pixel tells where it is. */
async function written(change: Partial<Output> = {}) {
  const output = { ...usualOutput('pdf', 8), panels, ...change };
  const recipe = Recipe.parse({
    ...{ version: RECIPE_VERSION, core: CORE_VERSION, alpha: 'none', colour: '#ffffff' },
    original: { digest: 'd'.repeat(64), page: 1, width: 90, height: 60, drawn: null },
    ...{ target, steps: [], output },
  });
  const packed = (task: Parameters<typeof packStrip>[0]) => Promise.resolve(packStrip(task));
  const part = join(folder, 'panels');
  const writer = pdfWriter({ recipe, profile: null, part, facts, packed });
  const samples = await writer.begin();
  const file = await readFile(samples.path);
  const pixels = file.subarray(samples.start);
  for (let y = 0, i = 0; y < target.height; y++)
    for (let x = 0; x < target.width; x++, i += 3) {
      pixels[i] = x / 4;
      pixels[i + 1] = y / 3;
      pixels[i + 2] = (x + y) / 8;
    }
  await writeFile(samples.path, file);
  const line = target.width * 3;
  const sums = Uint32Array.from({ length: target.height }, (_, y) =>
    rowSum(pixels.subarray(y * line, (y + 1) * line)),
  );
  const whole = { x: 0, y: 0, width: target.width, height: target.height };
  return { writer, path: await writer.end(() => {}), sums: [{ part: whole, sums }] };
}

const laid = layOutPanels(target, panels);
if (!laid.ok) throw new Error(laid.reason);

describe('a PDF of panels', () => {
  it('has a page for each of them, with just its pixels, and a drawing of how they are joined', async () => {
    expect(laid.panels).toHaveLength(6);
    const { writer, path, sums } = await written();
    const { found, complaints } = await writer.verify(sums, () => {});
    expect(complaints).toEqual([]);
    expect(found).toMatchObject({ width: 900, height: 600 });
    expect(found.ppi!.x).toBeCloseTo(254, 2);
    expect(readPdf(path).pages).toBe(7);
    for (const [i, { region }] of laid.panels.entries()) {
      const form = { size: region, depth: 8, channels: 3, space: 'rgb' } as const;
      for await (const { y, row } of pdfRows(path, form, undefined, i)) {
        if (y % 50 !== 0) continue;
        expect([row[0], row[1]]).toEqual([
          Math.floor(region.x / 4),
          Math.floor((region.y + y) / 3),
        ]);
      }
    }
    // The last page is the print at 1:50, and room about it.
    expect(() => readPdf(path, 7)).toThrow(/no page 8/);
    await writer.clear();
  });

  it('leaves at the outer edges what is folded back, and nothing where panels are joined', async () => {
    const { writer, path } = await written();
    const MM = 72 / 25.4;
    const first = readPdf(path, 0).boxes.trim;
    const { region } = laid.panels[0]!;
    // A hem at the left; hem and pocket at the top; overlap alone at the right and below.
    expect(first.width).toBeCloseTo((region.width / 10 + 6) * MM, 2);
    expect(first.height).toBeCloseTo((region.height / 10 + 16) * MM, 2);
    const middle = readPdf(path, 1).boxes.trim;
    expect(middle.width).toBeCloseTo((laid.panels[1]!.region.width / 10) * MM, 2);
    // Drawn elsewhere, the hem is empty and the picture begins after it.
    const { pixel } = await renderPage(await readFile(path), 4);
    const rim = 8.5;
    const at = (x: number, y: number) => pixel(x * MM * 4, y * MM * 4);
    expect(at(rim + 1.2, rim + 25)).toEqual([255, 255, 255]);
    expect(at(rim + 6.5, rim + 17)[0]!).toBeLessThan(20);
    await writer.clear();
  });

  it('of JPEGs holds each of them as that', async () => {
    const { writer, path, sums } = await written({
      ...packedBy(usualOutput('pdf', 8), 'lossy'),
      panels,
    });
    const { complaints } = await writer.verify(sums, () => {});
    expect(complaints).toEqual([]);
    const file = await readFile(path);
    const { data, width } = readPdf(path, 4);
    const inside = file.subarray(data.start, data.start + data.length);
    const { data: rgb, info } = await sharp(inside).raw().toBuffer({ resolveWithObject: true });
    expect(info.width).toBe(width);
    expect(Math.abs(rgb[0]! - laid.panels[4]!.region.x / 4)).toBeLessThan(4);
    await writer.clear();
  });

  it('is told from one in which a panel holds other pixels', async () => {
    const { writer, path, sums } = await written();
    const file = await readFile(path);
    const { start, length } = readPdf(path, 3).data;
    const other = readPdf(path, 2).data;
    // Panels of one size, exchanged: each is a good picture, in the wrong place.
    file.copy(file, start, other.start, other.start + Math.min(length, other.length));
    await writeFile(path, file);
    const verified = writer.verify(sums, () => {}).then(({ complaints }) => complaints.join(' '));
    await expect(verified.catch((error: Error) => `Page 4: ${error.message}`)).resolves.toMatch(
      /Page 4/,
    );
    await writer.clear();
  });
});
