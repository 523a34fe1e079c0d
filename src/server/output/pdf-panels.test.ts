import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { packedBy, usualOutput, type Output } from '@/core/output/output';
import { layOutPanels } from '@/core/output/panels';
import { panels, target, writtenPanels } from '../testing/panels';
import { renderPage } from '../testing/rendered-pdf';
import { pdfRows, readPdf } from './pdf-read';

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lontano-panels-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const written = (change: Partial<Output> = {}) =>
  writtenPanels(folder, { ...usualOutput('pdf', 8), panels, ...change });

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
