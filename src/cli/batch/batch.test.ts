import { execFile, spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtemp, mkdir, readdir, readFile, rm, utimes, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { testJpeg, testPixels } from '@/server/testing/shop';
import { needsNoLook, orderOf, wholeRequest, type BatchOptions } from './asked';

let folder: string;
let pictures: string;

const run = (...words: string[]) =>
  new Promise<{ code: number; out: string; err: string }>((resolve) => {
    execFile(process.execPath, ['bin/lontano.mjs', ...words], (error, out, err) =>
      resolve({ code: error ? Number(error.code) : 0, out, err }),
    );
  });

/** A folder as customers send it: pictures of several kinds, one cut off, a letter, and what nobody sees. */
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lontano-batch-'));
  pictures = join(folder, 'pictures');
  await mkdir(join(pictures, 'more'), { recursive: true });
  await writeFile(join(pictures, 'lying.jpg'), await testJpeg(90, 60, 60));
  await writeFile(join(pictures, 'standing.jpg'), await testJpeg(40, 80, 80));
  await testPixels(50, 50).png().toFile(join(pictures, 'lying.png'));
  await writeFile(join(pictures, 'half.jpg'), (await testJpeg(200, 200)).subarray(0, 700));
  await writeFile(join(pictures, 'header.jpg'), (await testJpeg(200, 200)).subarray(0, 200));
  await writeFile(join(pictures, 'letter.txt'), 'Dear printers');
  await writeFile(join(pictures, '.hidden'), '');
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const asked = (...more: string[]) => ['--longest', '10cm', '--method', 'lanczos3', ...more];
const made = async (out: string) =>
  (await readdir(out)).filter((name) => name !== 'lontano-batch.jsonl').sort();

describe('a batch in the terminal', () => {
  it('makes a print of every picture, says what can’t be made, and ends with 1', async () => {
    const out = join(folder, 'first');
    const { code, out: words } = await run('batch', pictures, out, ...asked());
    expect(code).toBe(1);
    expect(await made(out)).toEqual(['half.tif', 'lying-2.tif', 'lying.tif', 'standing.tif']);
    expect(words).toMatch(/4 made, 2 failed:/);
    expect(words).toMatch(/half\.jpg → .* % of the picture is missing/);
    expect(words).toMatch(/header\.jpg: .*Ask for the file again/);
    expect(words).toMatch(/letter\.txt.*not a picture/);
    const size = async (name: string) => {
      const { width, height } = await sharp(join(out, name)).metadata();
      return [width, height];
    };
    // 10 cm at 160 ppi, along whichever side is longer.
    expect(await size('lying.tif')).toEqual([630, 420]);
    expect(await size('standing.tif')).toEqual([315, 630]);
    // The same bytes as one at a time, though nobody looked at what each suffers from.
    const alone = join(folder, 'alone.tif');
    const order = ['--width', '10cm', '--ppi', '160', '--method', 'lanczos3'];
    await run('enlarge', join(pictures, 'lying.jpg'), alone, ...order);
    expect(await sharp(join(out, 'lying.tif')).raw().toBuffer()).toEqual(
      await sharp(alone).raw().toBuffer(),
    );
  }, 120_000);

  it('makes nothing twice; what is new, changed, gone or asked otherwise is made', async () => {
    await rm(join(pictures, 'half.jpg'));
    const out = join(folder, 'first');
    const again = async (...words: string[]) => {
      const { out: text } = await run('batch', pictures, out, ...words, '--json');
      const { made: now, madeBefore } = JSON.parse(text) as Record<string, { file: string }[]>;
      return { now: now!.map(({ file }) => file), before: madeBefore!.map(({ file }) => file) };
    };
    const all = ['lying.jpg', 'lying.png', 'standing.jpg'];
    expect(await again(...asked())).toEqual({ now: [], before: all });
    await rm(join(out, 'standing.tif'));
    await testPixels(60, 50).png().toFile(join(pictures, 'lying.png'));
    expect(await again(...asked())).toEqual({
      now: ['lying.png', 'standing.jpg'],
      before: ['lying.jpg'],
    });
    expect(await again(...asked('--sharpen', '1,80,2'))).toEqual({ now: all, before: [] });
    expect(await made(out)).toHaveLength(4);
    // What somebody worked on since is not written over.
    await utimes(join(out, 'lying.tif'), 1, 1);
    const touched = await readFile(join(out, 'lying.tif'));
    expect((await again(...asked())).now).toEqual(all);
    expect(await readFile(join(out, 'lying.tif'))).toEqual(touched);
    expect(await made(out)).toEqual([
      ...['half.tif', 'lying-2.tif', 'lying-3.tif', 'lying.tif', 'standing.tif'],
    ]);
  }, 240_000);

  it('goes on after it was killed at any moment, and ends with whole files', async () => {
    const many = join(folder, 'many');
    const out = join(folder, 'killed');
    await mkdir(many);
    for (let i = 0; i < 9; i++) {
      await writeFile(join(many, `${i}.jpg`), await testJpeg(120 + i, 80, 70));
    }
    const words = ['batch', many, out, '--scale', '12', '--method', 'bicubic', '--format', 'png'];
    for (const [wait, signal] of [
      [900, 'SIGKILL'],
      [1600, 'SIGTERM'],
      [2300, 'SIGKILL'],
    ] as const) {
      const child = spawn(process.execPath, ['bin/lontano.mjs', ...words], { stdio: 'ignore' });
      const ended = once(child, 'exit');
      await new Promise((resolve) => setTimeout(resolve, wait));
      child.kill(signal);
      await ended;
    }
    const last = await run(...words, '--json');
    expect(last.code).toBe(0);
    const { made: now, madeBefore } = JSON.parse(last.out) as Record<string, unknown[]>;
    expect(now!.length + madeBefore!.length).toBe(9);
    expect((await made(out)).filter((name) => name.endsWith('.png'))).toHaveLength(9);
    for (let i = 0; i < 9; i++) {
      const { width } = await sharp(join(out, `${i}.png`)).metadata();
      expect(width).toBe(12 * (120 + i));
    }
    expect(await made(out)).toHaveLength(9);
  }, 240_000);

  it('treats each as it is proposed where nothing else is said', async () => {
    const out = join(folder, 'proposed');
    const words = ['batch', pictures, out, '--longest', '10cm', '--format', 'png'];
    const { code, out: told } = await run(...words);
    expect(code).toBe(1);
    // What was looked at is told with what it is, and how it will look.
    expect(told).toMatch(/lying\.jpg → lying\.png: 630 x 420 pixels, 160 ppi, [a-z ]+, [a-z ]+/);
    const { madeBefore } = JSON.parse((await run(...words, '--json')).out) as {
      madeBefore: { file: string; seen: { steps: string[] } }[];
    };
    const lying = madeBefore.find(({ file }) => file === 'lying.jpg')!;
    expect(lying.seen.steps.length).toBeGreaterThan(0);
    const plain = join(folder, 'plain.png');
    const order = ['--width', '10cm', '--recipe'];
    await run('enlarge', join(pictures, 'lying.jpg'), plain, ...order, 'auto');
    const pixels = (path: string) => sharp(path).raw().toBuffer();
    expect(await pixels(join(out, 'lying.png'))).toEqual(await pixels(plain));
    await run('enlarge', join(pictures, 'lying.jpg'), plain, ...order, 'Pixel squares');
    expect(await pixels(join(out, 'lying.png'))).not.toEqual(await pixels(plain));
  }, 120_000);

  it.each([
    [['nowhere', 'OUT'], 3, /no folder/],
    [['EMPTY', 'OUT'], 3, /no files/],
    [['PICTURES', 'PICTURES'], 2, /among the originals/],
    [['PICTURES', 'OUT', '--longest', '9cm', '--scale', '2'], 2, /Give --longest/],
    [['PICTURES', 'OUT', '--format', 'bmp'], 2, /Allowed choices/],
    [['PICTURES', 'OUT', '--recipe', 'Fresco'], 3, /no house recipe/],
    [['PICTURES', 'OUT', '--longest', 'wide'], 2, /a length/],
  ])('%j ends with %i in one line', async (words, code, sentence) => {
    await mkdir(join(folder, 'empty'), { recursive: true });
    const places: Record<string, string> = {
      ...{ PICTURES: pictures, OUT: join(folder, 'out'), EMPTY: join(folder, 'empty') },
    };
    const result = await run('batch', ...words.map((word) => places[word] ?? word));
    expect(result.code).toBe(code);
    expect(result.err.trim().split('\n')).toHaveLength(1);
    expect(result.err).toMatch(sentence);
  });
});

describe('what a batch is asked for', () => {
  const options = {
    ...{ fit: 'crop', bleed: 0, bleedFill: 'picture', page: 1, method: 'auto', step: 10, limit: 0 },
    ...{ clean: 0, cleanEngine: 'learned', noise: 0, texture: 0, tones: 0, heal: 'off' },
    ...{ intent: 'relative', overlap: 20, format: 'tiff' },
  } as BatchOptions;

  it('is what is proposed for each, unless anything is said of what is done', async () => {
    expect((await wholeRequest(options)).recipe).toBe('auto');
    for (const said of [{ method: 'bicubic' }, { clean: 50 }, { linear: true }]) {
      const whole = await wholeRequest({ ...options, ...said } as BatchOptions);
      expect(whole.recipe).toBeUndefined();
    }
    // A recipe is read once for all pictures.
    const by = await wholeRequest({ ...options, recipe: 'pixel squares', data: folder });
    expect(by.recipe).toMatchObject({ name: 'Pixel squares', content: { kind: 'pixel squares' } });
  });

  it('needs no look at pictures only where nothing follows from what is found', () => {
    expect(needsNoLook({ ...options, method: 'lanczos3' })).toBe(true);
    for (const said of [
      ...[{}, { method: 'learned-photo' }, { method: 'traced' }],
      ...[{ clean: 'auto' }, { noise: 3 }, { restore: true }, { recipe: 'X' }, { heal: 'auto' }],
    ]) {
      const method =
        'method' in said || Object.keys(said).length === 0 ? {} : { method: 'bicubic' };
      expect(needsNoLook({ ...options, ...method, ...said } as BatchOptions)).toBe(false);
    }
  });

  it('gives the longest side to the side that is', () => {
    const longest = { ...options, longest: { value: 60, unit: 'cm' as const } };
    const of = (width: number, height: number) => {
      const order = orderOf(longest, { width, height });
      return [order.width?.value, order.height?.value];
    };
    expect(of(30, 20)).toEqual([60, undefined]);
    expect(of(20, 30)).toEqual([undefined, 60]);
  });
});
