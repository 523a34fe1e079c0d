import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { plainTiff, type PlainTiff } from '../testing/tiff';
import { decode } from './decode';
import { decodeTask } from './decoded';
import { openRaw } from './raw';

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lontano-extra-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const SIZE = { width: 40, height: 30 };
const RGB = 2;
const GREY = 1;
const LAB = 8;

/** Decodes a TIFF whose sample number `channel` is everywhere `10 * (channel + 1)`, and its first pixel. */
async function read(tiff: Omit<PlainTiff, 'size' | 'value'>) {
  const file = join(folder, 'a.tif');
  const scale = tiff.bits === 16 ? 257 : 1;
  await writeFile(
    file,
    plainTiff({ ...tiff, size: SIZE, value: (channel) => 10 * (channel + 1) * scale }),
  );
  const raw = join(folder, 'a.raw');
  const { findings } = await decode(decodeTask(file, raw));
  const source = await openRaw(raw);
  const samples = await source.samples({ x: 7, y: 5, width: 1, height: 1 });
  await source.close();
  const pixel =
    source.depth === 8
      ? [...samples]
      : [...new Uint16Array(samples.buffer, samples.byteOffset, samples.length / 2)];
  return { findings, pixel };
}

describe('channels beside the colours of a TIFF', () => {
  it('are left out and spoken of where they are neither colour nor transparency', async () => {
    const { findings, pixel } = await read({ photometric: RGB, channels: 5, extra: [2, 0] });
    expect(pixel).toEqual([10, 20, 30, 40]);
    expect(findings).toMatchObject({ alpha: true, channels: 4 });
    expect(findings.notes.join()).toMatch(
      /One channel beside its colours and transparency, such as a spot colour, was left out/,
    );
  });

  it('are told apart by their tag, wherever the transparency stands', async () => {
    const spotFirst = await read({ photometric: RGB, channels: 5, extra: [0, 2] });
    expect(spotFirst.pixel).toEqual([10, 20, 30, 50]);
    const spotsAlone = await read({ photometric: RGB, channels: 5, extra: [0, 0] });
    expect(spotsAlone.pixel).toEqual([10, 20, 30]);
    expect(spotsAlone.findings).toMatchObject({ alpha: false, channels: 3 });
    expect(spotsAlone.findings.notes.join()).toMatch(/2 channels beside its colours, such/);
    const oneSpot = await read({ photometric: RGB, channels: 4, extra: [0] });
    expect(oneSpot.pixel).toEqual([10, 20, 30]);
    const clear = await read({ photometric: RGB, channels: 4, extra: [2] });
    expect(clear.pixel).toEqual([10, 20, 30, 40]);
    const untold = await read({ photometric: RGB, channels: 4, extra: [] });
    expect(untold.pixel).toEqual([10, 20, 30, 40]);
  });

  it('of grey pictures and deep ones are read the same way', async () => {
    const grey = await read({ photometric: GREY, channels: 3, extra: [0, 0] });
    expect(grey.pixel).toEqual([10, 10, 10]);
    const deep = await read({ photometric: GREY, channels: 3, extra: [2, 0], bits: 16 });
    expect(deep.pixel).toEqual([2570, 2570, 2570, 5140]);
    expect(deep.findings).toMatchObject({ bitDepth: 16, alpha: true });
  });
});

describe('samples that can’t be read as they are', () => {
  it.each<[string, Omit<PlainTiff, 'size' | 'value'>, RegExp]>([
    [
      '32 bits',
      { photometric: RGB, channels: 3, extra: [], bits: 32 },
      /numbers of 32 bits, which/,
    ],
    [
      '16 bits with a sign',
      { photometric: RGB, channels: 3, extra: [], bits: 16, signed: true },
      /numbers of 16 bits with a sign/,
    ],
    ['Lab colours', { photometric: LAB, channels: 3, extra: [] }, /in Lab colours, in a form/],
  ])('as %s are refused in words', async (_, tiff, words) => {
    await expect(read(tiff)).rejects.toMatchObject({
      kind: 'input',
      message: expect.stringMatching(words),
    });
  });
});
