import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { whole } from '@/core/raster/region';
import type { SheetWords } from '@/core/shop/sheet';
import { memorySource, testPicture } from '@/core/testing';
import { decodePicture, drawnCell, endPictureProcesses } from '../codecs/pictures';
import { cropOf, type SheetPane } from './pane';
import { writeSheet } from './write-sheet';

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lontano-sheet-'));
});
afterAll(async () => {
  await endPictureProcesses();
  await rm(folder, { recursive: true, force: true });
});

const SIZE = { width: 1200, height: 800 };
const picture = testPicture(SIZE, 4);
const pane = (ppi: number): SheetPane => ({
  picture: memorySource(picture),
  ...{ ppi, table: new Uint8Array() },
});
const words = (stops: number, panes = 2): SheetWords => ({
  paper: 'A4',
  heading: '0412 · Große Łódź „Ω“ · ' + 'a long customer '.repeat(12),
  print: 'picture.jpg · 120 × 80 cm · 160 ppi',
  date: '1 Dec 2026',
  stops: Array.from({ length: stops }, (_, i) => ({
    ...{ title: 'edges', words: '170 levels from pixel to pixel' },
    ...{ x: i / stops, y: 0.5 },
  })),
  panes: Array.from({ length: panes }, (_, i) => ({
    ...{ name: `Trial ${i}`, made: 'Lanczos-3', settings: ['unsharp 0.8 mm', 'grain'] },
  })),
  rows: [{ title: 'Blocking, %', better: 'less is cleaner', figures: ['34', '2'] }],
});

/** Pages of a PDF and the first of them, drawn at so many pixels a millimetre. */
async function drawn(file: string, perMm: number) {
  const { findings } = await decodePicture({
    ...{ file, name: 'sheet.pdf', page: 1, raw: join(folder, 'none'), thumbnail: null },
  });
  const { widthPt, heightPt } = findings.vector!;
  const mm = (points: number) => (points / 72) * 25.4;
  const size = {
    width: Math.round(mm(widthPt) * perMm),
    height: Math.round(mm(heightPt) * perMm),
  };
  const drawing = {
    ...{ file, name: 'sheet.pdf', page: 1, size, channels: 3 as const },
    drawn: {
      source: { x: 0, y: 0, width: findings.width, height: findings.height },
      turn: 0 as const,
    },
  };
  return { findings, size, cell: await drawnCell(drawing, whole(size)) };
}

describe('a crop', () => {
  it('is as large on paper as its pixels are on the print, and holds them as they are', async () => {
    const { png, x, y, width } = await cropOf(
      pane(160),
      { x: 0.5, y: 0.5 },
      {
        ...{ width: 60, height: 40 },
      },
    );
    const { data, info } = await sharp(png).raw().toBuffer({ resolveWithObject: true });
    expect(width).toBeCloseTo((info.width / 160) * 25.4, 9);
    const perMm = 160 / 25.4;
    // The middle of what was asked for is the middle of the picture, wherever its pixels begin.
    const left = 600 - 30 * perMm + x * perMm;
    const top = 400 - 20 * perMm + y * perMm;
    expect(left).toBeCloseTo(Math.floor(600 - 30 * perMm), 6);
    const at = 3 * (10 * info.width + 20);
    const i = (Math.round(top) + 10) * SIZE.width + Math.round(left) + 20;
    expect(data[at]).toBe(Math.round(255 * picture.planes[0]![i]!));
  });

  it('lies on the picture at its rim, and repeats pixels that are coarse', async () => {
    const { png, x, width } = await cropOf(pane(30), { x: 1, y: 0 }, { width: 50, height: 50 });
    const { data, info } = await sharp(png).raw().toBuffer({ resolveWithObject: true });
    // 59.06 pixels are asked for, of which 60 are touched.
    expect(info.width).toBe(60 * 5);
    expect(width + x).toBeCloseTo(50, 9);
    const last = 3 * (info.width - 1);
    expect(data[last]).toBe(Math.round(255 * picture.planes[0]![SIZE.width - 1]!));
    expect(data[last - 12]).toBe(data[last]);
  });
});

describe('a comparison sheet', () => {
  it('shows crops at the scale of the print, on a page of its paper', async () => {
    const file = join(folder, 'one.pdf');
    const told: number[] = [];
    await writeSheet(file, words(1), {
      panes: [pane(160), { ...pane(160), picture: memorySource(plain()) }],
      onProgress: async (share) => void told.push(share),
    });
    expect(told).toEqual([0.5, 1]);
    const { findings, size, cell } = await drawn(file, 4);
    expect(findings.vector!.widthPt).toBeCloseTo((210 / 25.4) * 72, 1);
    expect(findings.vector!.heightPt).toBeCloseTo((297 / 25.4) * 72, 1);
    // The second pane's crop is black: as wide and high as its pixels are on the print.
    const row = Math.round(4 * 60) * size.width;
    const dark = (x: number) => cell[3 * (row + x)]! < 60;
    const from = Array.from({ length: size.width }, (_, x) => x).filter(
      (x) => x > size.width / 2 && dark(x),
    );
    const wide = (from.at(-1)! - from[0]! + 1) / 4;
    const expected = (210 - 24 - 3) / 2;
    expect(Math.abs(wide - expected)).toBeLessThan(0.5);
  });

  it('goes on over pages, and says what has no letters by a dot', async () => {
    const file = join(folder, 'many.pdf');
    await writeSheet(file, words(9, 2), { panes: [pane(160), pane(160)] });
    const { findings } = await drawn(file, 1);
    expect(findings.pages).toBeGreaterThan(2);
    expect((await readFile(file)).subarray(0, 5).toString()).toBe('%PDF-');
  });

  it('that is stopped ends there', async () => {
    const file = join(folder, 'stopped.pdf');
    const stop = new Error('stopped');
    const stopped = writeSheet(file, words(3), {
      panes: [pane(160), pane(160)],
      onProgress: () => Promise.reject(stop),
    });
    await expect(stopped).rejects.toBe(stop);
  });
});

/** A black picture. */
function plain() {
  return { ...picture, planes: picture.planes.map((plane_) => plane_.map(() => 0)) };
}
