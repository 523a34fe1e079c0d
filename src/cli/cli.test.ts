import { execFile } from 'node:child_process';
import { mkdtemp, readdir, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { testJpeg } from '@/server/testing/shop';

let folder: string;
let picture: string;

const run = (...words: string[]) =>
  new Promise<{ code: number; out: string; err: string }>((resolve) => {
    execFile(
      process.execPath,
      ['--import', 'tsx', 'src/cli/main.ts', ...words],
      (error, out, err) => resolve({ code: error ? Number(error.code) : 0, out, err }),
    );
  });

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lontano-cli-'));
  picture = join(folder, 'picture.jpg');
  await writeFile(picture, await testJpeg(90, 60, 35));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

describe('the terminal', () => {
  it('inspects, in words and as one object', async () => {
    const words = await run('inspect', picture);
    expect(words).toMatchObject({ code: 0, err: '' });
    expect(words.out).toMatch(/ppi tag +missing/);
    const { out } = await run('inspect', picture, '--json');
    expect(JSON.parse(out)).toMatchObject({
      width: 90,
      height: 60,
      ppi: null,
      format: 'jpeg',
      jpeg: { quality: 35, subsampling: '4:2:0', progressive: false },
    });
  });

  it('enlarges to the ordered size and says what it did', async () => {
    const out = join(folder, 'print.tif');
    const words = [
      '--width',
      '20cm',
      '--ppi',
      '120',
      '--clean',
      '80',
      '--sharpen',
      '0.4mm,70,2',
      '--json',
    ];
    const result = await run('enlarge', picture, out, ...words);
    expect(result.code).toBe(0);
    expect(JSON.parse(result.out)).toMatchObject({
      input: { width: 90, height: 60, ppi: null },
      output: { width: 945, height: 630, ppi: 120, format: 'tiff' },
    });
    expect(result.err).toMatch(/100 %/);
    expect(await sharp(out).metadata()).toMatchObject({ width: 945, height: 630, density: 120 });
  });

  it('takes a factor, crops to a shape, and writes the format of the ending', async () => {
    const out = join(folder, 'print.png');
    expect(
      await run('enlarge', picture, out, '--scale', '2.5', '--method', 'nearest'),
    ).toMatchObject({ code: 0 });
    expect(await sharp(out).metadata()).toMatchObject({ format: 'png', width: 225, height: 150 });
    const square = join(folder, 'square.jpg');
    await run('enlarge', picture, square, '--width', '5cm', '--height', '5cm', '--ppi', '100');
    expect(await sharp(square).metadata()).toMatchObject({
      format: 'jpeg',
      width: 197,
      height: 197,
      density: 100,
    });
  });

  it.each([
    [['enlarge', 'PICTURE', 'x.bmp'], 2, /should end in/],
    [['enlarge', 'PICTURE', 'PICTURE'], 2, /never overwritten/],
    [['enlarge', 'PICTURE', 'x.tif', '--width', '0cm'], 2, /a length/],
    [['enlarge', 'PICTURE', 'x.tif', '--clean', '101'], 2, /from 0 to 100/],
    [['enlarge', 'PICTURE', 'x.tif', '--sharpen', '1,2'], 2, /RADIUS,AMOUNT,THRESHOLD/],
    [['enlarge', 'PICTURE', 'x.tif', '--scale', '2', '--width', '3cm'], 2, /not both/],
    [['enlarge', 'PICTURE', 'x.tif', '--scale', '900'], 2, /64 times/],
    [['enlarge', 'PICTURE'], 2, /missing required argument/],
    [['polish', 'PICTURE'], 2, /unknown command/],
    [['inspect', 'nowhere.jpg'], 3, /no file/],
    [['inspect', 'package.json'], 3, /not a picture/],
    [['inspect', 'src'], 3, /folder/],
  ])('%j ends with %i and one clear line', async (words, code, sentence) => {
    const result = await run(
      ...words.map((word) =>
        word === 'PICTURE' ? picture : word.startsWith('x.') ? join(folder, word) : word,
      ),
    );
    expect(result.code).toBe(code);
    expect(result.err.trim().split('\n')).toHaveLength(1);
    expect(result.err).toMatch(sentence);
    expect(result.err).not.toMatch(/ at .*:\d+/);
    expect((await readdir(folder)).filter((name) => name.startsWith('x.'))).toEqual([]);
  });
});
