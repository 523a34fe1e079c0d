import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { whole } from '@/core/raster/region';
import { OPEN_PAPER } from '@/core/measure/paper';
import { toSamples } from '@/core/raster/samples';
import { propose } from '@/core/recipe/propose';
import { render } from '@/core/render/render';
import { resolveRecipe } from '@/core/recipe/resolve';
import { originalOf } from '@/core/recipe/original';
import { endThreads } from '../../render/threads';
import { renderFile } from '../../render/render-file';
import { buildPdf, jpegObject, type PdfPageText } from '../../testing/pdf';
import { testPixels } from '../../testing/shop';
import { decode } from '../decode';
import { decodeTask } from '../decoded';
import { drawToFile, endPictureProcesses } from '../pictures';
import { openRaw } from '../raw';
import { drawCell } from './drawn';

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lontano-shapes-'));
});
afterAll(async () => {
  await Promise.all([endThreads(), endPictureProcesses()]);
  await rm(folder, { recursive: true, force: true });
});

let count = 0;
async function place(bytes: Buffer | string, ending: string): Promise<string> {
  const file = join(folder, `${++count}.${ending}`);
  await writeFile(file, bytes);
  return file;
}

const taken = async (file: string, page = 1) =>
  decode({ ...decodeTask(file, `${file}.raw`), page });

/** 200 x 100 points: red below left, a blue circle-like mark at the right. */
const PAGE: PdfPageText = {
  width: 200,
  height: 100,
  content: '1 0 0 rg 0 0 100 50 re f 0 0 1 rg 150 60 30 30 re f 0 g 20 55 m 90 95 l S',
};
const SVG = `<svg xmlns="http://www.w3.org/2000/svg" width="200pt" height="100pt" viewBox="0 0 400 200">
  <rect y="100" width="200" height="100" fill="#f00"/><circle cx="330" cy="50" r="30" fill="#00f"/>
  <path d="M40 90L180 10" stroke="#000" stroke-width="3"/></svg>`;

describe.each([
  ['a PDF', () => place(buildPdf([PAGE, { ...PAGE, width: 300 }]), 'pdf'), 2],
  ['an SVG', () => place(SVG, 'svg'), 1],
] as const)('%s of shapes', (_, make, pages) => {
  it('has a size on paper and no pixels to enlarge', async () => {
    const { findings, profile } = await taken(await make());
    expect(findings).toMatchObject({
      pages,
      width: 20_000,
      height: 10_000,
      jpeg: null,
      vector: { widthPt: expect.closeTo(200, 6), heightPt: expect.closeTo(100, 6), pictures: [] },
    });
    expect(profile).toBeNull();
    const { work } = propose(findings, { paper: OPEN_PAPER, distance: 2 });
    const resolved = resolveRecipe(originalOf('d', findings), work, work.trials[0]!);
    expect(resolved.ok && resolved.recipe.steps).toEqual([]);
  });

  it('is drawn alike in the file and on the stage, cell by cell, turned and cropped', async () => {
    const file = await make();
    const { findings } = await taken(file);
    const paper = { ...OPEN_PAPER, width: { value: 30, unit: 'cm' as const } };
    const { work } = propose(findings, { paper, distance: 2 });
    work.framing = {
      ...work.framing,
      turn: 90,
      crop: { x: 0, y: 720, width: 9120, height: 16_800 },
    };
    work.trials[0]!.ppi = 100;
    const resolved = resolveRecipe(originalOf('d', findings), work, work.trials[0]!);
    if (!resolved.ok) throw new Error(resolved.reason);
    const { recipe } = resolved;
    expect(recipe.target.width).toBe(1181);
    const out = join(folder, `${++count}.tif`);
    const original = { file, name: 'shapes', raw: () => Promise.reject(new Error('no pixels')) };
    await renderFile({ original, recipe, profile: null, out });
    const written = await sharp(out).raw().toBuffer();

    const drawing = {
      file,
      name: 'shapes',
      page: 1,
      drawn: recipe.original.drawn!,
      size: { width: recipe.original.width, height: recipe.original.height },
      channels: recipe.alpha === 'none' ? (3 as const) : (4 as const),
    };
    const raw = join(folder, `${++count}.raw`);
    await drawToFile(drawing, raw, () => {});
    const source = await openRaw(raw);
    const region = { x: 1000, y: 1000, width: 60, height: 60 };
    const shown = toSamples(await render(source, recipe).read(region), 8);
    for (let y = 0; y < region.height; y++) {
      const at = ((region.y + y) * recipe.target.width + region.x) * 3;
      const row = written.subarray(at, at + region.width * 3);
      expect(row.equals(shown.subarray(y * 180, (y + 1) * 180))).toBe(true);
    }
    const all = toSamples(await render(source, recipe).read(whole(recipe.target)), 8);
    expect(written.equals(all)).toBe(true);
    await source.close();
    // Its lower left corner is red; turned to the right that is the upper left one.
    expect([...written.subarray(0, 3)]).toEqual([255, 0, 0]);
  });

  it('is as sharp at any size: an edge is one pixel wide', async () => {
    const file = await make();
    for (const width of [400, 4000]) {
      const size = { width, height: width / 2 };
      const drawn = { source: { x: 0, y: 0, width: 20_000, height: 10_000 }, turn: 0 as const };
      const drawing = { file, name: 's', page: 1, drawn, size, channels: 4 as const };
      const row = { x: 0, y: size.height - 2, width, height: 1 };
      const samples = await drawCell(drawing, row);
      // What is transparent is seen on white.
      const greens = Array.from({ length: width }, (__, i) => {
        const alpha = samples[4 * i + 3]!;
        return (samples[4 * i + 1]! * alpha) / 255 + 255 - alpha;
      });
      const between = greens.filter((value) => value > 20 && value < 235);
      expect(between.length).toBeLessThanOrEqual(1);
      expect(greens.indexOf(Math.max(...greens)) / width).toBeCloseTo(0.5, 2);
    }
  });
});

describe('pictures in documents', () => {
  const jpeg = () => testPixels(120, 80).jpeg({ quality: 37 }).toBuffer();
  const placed = (matrix: string): string => `q ${matrix} cm /P Do Q`;
  const resources = '/XObject<</P 1 0 R>>';

  it('alone on a page are taken out byte for byte, with what the paper makes of them', async () => {
    const bytes = await jpeg();
    const page = { width: 120, height: 80, content: placed('120 0 0 80 0 0'), resources };
    const file = await place(buildPdf([page], [jpegObject(bytes, 120, 80)]), 'pdf');
    const { findings } = await taken(file);
    expect(findings).toMatchObject({
      format: 'pdf',
      width: 120,
      height: 80,
      vector: null,
      ppi: { x: 72, y: 72 },
      jpeg: { quality: 37 },
    });
    expect(findings.notes.join()).toMatch(/the picture itself was taken out/);
    const source = await openRaw(`${file}.raw`);
    const samples = await source.samples({ x: 0, y: 0, width: 120, height: 80 });
    await source.close();
    expect(samples.equals(await sharp(bytes).raw().toBuffer())).toBe(true);
  });

  it('with shapes about them are listed with their own pixels', async () => {
    const content = `0 1 0 rg 0 0 300 200 re f ${placed('60 0 0 40 20 30')}`;
    const page = { width: 300, height: 200, content, resources };
    const file = await place(buildPdf([page], [jpegObject(await jpeg(), 120, 80)]), 'pdf');
    const { findings } = await taken(file);
    expect(findings.vector?.pictures).toEqual([
      expect.objectContaining({ width: 120, height: 80, widthPt: 60, heightPt: 40, kept: null }),
    ]);
  });

  it('within an SVG are drawn where they lie inside, and never fetched from elsewhere', async () => {
    const inner = (await testPixels(20, 10).png().toBuffer()).toString('base64');
    const secret = await place(await testPixels(50, 50).png().toBuffer(), 'png');
    const image = (href: string) =>
      `<svg xmlns="http://www.w3.org/2000/svg" width="72pt" height="36pt" viewBox="0 0 100 50"><image href="${href}" width="100" height="50"/></svg>`;
    const own = await taken(await place(image(`data:image/png;base64,${inner}`), 'svg'));
    expect(own.findings.vector?.pictures).toEqual([
      expect.objectContaining({
        width: 20,
        height: 10,
        widthPt: expect.closeTo(72, 9),
        heightPt: expect.closeTo(36, 9),
      }),
    ]);
    for (const href of [secret, `file://${secret}`, 'http://127.0.0.1:9/x.png']) {
      const file = await place(image(href), 'svg');
      const { findings } = await taken(file);
      expect(findings.vector?.pictures).toEqual([]);
      const drawn = { source: { x: 0, y: 0, width: 7200, height: 3600 }, turn: 0 as const };
      const size = { width: 40, height: 20 };
      const samples = await drawCell(
        { file, name: 's', page: 1, drawn, size, channels: 4 },
        whole(size),
      );
      expect(samples.every((value) => value === 0)).toBe(true);
    }
  });
});

describe('bad documents', () => {
  const encrypted =
    '/Encrypt<</Filter/Standard/V 1/R 2/P -4/O<' +
    '41'.repeat(32) +
    '>/U<' +
    '42'.repeat(32) +
    '>>>/ID[<01020304><01020304>]';
  const svg = (inside: string, head = 'width="100" height="50"') =>
    `<svg xmlns="http://www.w3.org/2000/svg" ${head}>${inside}</svg>`;

  it.each<[string, () => Buffer | string, string, RegExp]>([
    ['a damaged PDF', () => buildPdf([PAGE]).subarray(0, 90), 'pdf', /damaged PDF/],
    ['a locked PDF', () => buildPdf([PAGE], [], encrypted), 'pdf', /locked with a password/],
    ['an endless page', () => buildPdf([{ ...PAGE, width: 9e7 }]), 'pdf', /can't be drawn/],
    [
      'an SVG with entities',
      () => `<!DOCTYPE svg [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]>${svg('<text>&b;</text>')}`,
      'svg',
      /entities of its own/,
    ],
    [
      'an SVG of an absurd size',
      () => svg('', 'width="9e9" height="9e9"'),
      'svg',
      /can't be drawn/,
    ],
    ['an SVG without a size', () => svg('', 'width="0" height="0"'), 'svg', /can't be drawn/],
    ['an SVG that is cut off', () => svg('<g>').slice(0, 80), 'svg', /damaged SVG/],
    [
      'an SVG of nested groups',
      () => svg('<g>'.repeat(900) + '</g>'.repeat(900)),
      'svg',
      /damaged SVG/,
    ],
  ])('%s is answered in words', async (_, bytes, ending, words) => {
    const file = await place(bytes(), ending);
    await expect(taken(file)).rejects.toMatchObject({
      kind: 'input',
      message: expect.stringMatching(words),
    });
  });

  it('an SVG that refers to itself over and over is given up or drawn, and soon', async () => {
    let inside = '<g id="a0"><rect width="1" height="1"/></g>';
    for (let i = 1; i < 30; i++) {
      inside += `<g id="a${i}">${`<use href="#a${i - 1}"/>`.repeat(10)}</g>`;
    }
    const outcome = await taken(await place(svg(inside), 'svg')).then(
      () => 'drawn',
      (error: unknown) => String(error),
    );
    expect(outcome).toMatch(/drawn|never ends/);
  });

  it('of a thousand pages any one can be chosen', async () => {
    const pages = Array.from({ length: 1000 }, (_, i) => ({ ...PAGE, width: 100 + i }));
    const file = await place(buildPdf(pages), 'pdf');
    const { findings } = await taken(file, 777);
    expect(findings).toMatchObject({ page: 777, pages: 1000, vector: { widthPt: 876 } });
    await expect(taken(file, 1001)).rejects.toThrow(/there is no page 1001/);
  });

  it('scripts in an SVG do nothing', async () => {
    const file = await place(
      svg('<script>throw 1</script><rect width="100" height="50" onload="x()" fill="#0f0"/>'),
      'svg',
    );
    const { findings } = await taken(file);
    expect(findings.vector?.widthPt).toBe(75);
    expect((await readFile(file)).includes('script')).toBe(true);
  });
});
