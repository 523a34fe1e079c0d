import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { pngRows, writePngFile } from './png-file';
import type { SampleFile } from './samples';
import { packStrip, type StripTask } from './strip';

const packed = (task: StripTask) => Promise.resolve(packStrip(task));
const TAGS = { ppi: 150, profile: null, packed };

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lontano-png-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

/** What rows can be like: each is best told by another of the filters. */
const KINDS: Record<string, (x: number, y: number) => number> = {
  flat: () => 90,
  stripes: (x) => (x * 37) % 251,
  levels: (_, y) => (y * 53) % 251,
  slope: (x, y) => (x * 3 + y * 5) % 256,
  noise: (x, y) => ((x * 7919 + y * 104_729) % 7001) % 256,
};

/** A file of plain samples, with some bytes before the first. */
async function plain(
  kind: string,
  form: Pick<SampleFile, 'size' | 'depth' | 'channels'>,
): Promise<{ file: SampleFile; bytes: Buffer }> {
  const { size, depth, channels } = form;
  const bytes = Buffer.alloc((size.width * size.height * channels * depth) / 8);
  const value = KINDS[kind]!;
  for (let i = 0; i < bytes.length; i++) {
    const line = bytes.length / size.height;
    bytes[i] = value(i % line, Math.floor(i / line));
  }
  const path = join(folder, `${kind}-${size.width}-${depth}-${channels}.plain`);
  await writeFile(path, Buffer.concat([Buffer.from('before'), bytes]));
  return { file: { path, start: 6, space: 'rgb', ...form }, bytes };
}

async function rowsOf(path: string, form: SampleFile): Promise<Buffer> {
  const rows: Buffer[] = [];
  for await (const { y, row } of pngRows(path, form)) {
    expect(y).toBe(rows.length);
    rows.push(Buffer.from(row));
  }
  return Buffer.concat(rows);
}

const forms = ([8, 16] as const).flatMap((depth) =>
  [3, 4].flatMap((channels) =>
    // one of many blocks, one whose row is larger than a block, one of a single pixel
    [
      { width: 1900, height: 700 },
      { width: 400_000, height: 3 },
      { width: 1, height: 1 },
    ].map((size) => ({ size, depth, channels })),
  ),
);

describe.each(Object.keys(KINDS))('a PNG of %s', (kind) => {
  it.each(forms)(
    'of $size.width x $size.height, $depth bits, $channels planes opens elsewhere and here as what was written',
    async (form) => {
      const { file, bytes } = await plain(kind, form);
      const path = `${file.path}.png`;
      await writePngFile(path, file, TAGS);
      const there = await sharp(path, { limitInputPixels: false })
        .toColourspace(form.depth === 16 ? 'rgb16' : 'srgb')
        .raw({ depth: form.depth === 16 ? 'ushort' : 'uchar' })
        .toBuffer();
      expect(there.equals(bytes)).toBe(true);
      expect((await rowsOf(path, file)).equals(bytes)).toBe(true);
      await Promise.all([rm(path), rm(file.path)]);
    },
    60_000,
  );
});

describe('what goes wrong with a PNG', () => {
  const form = { size: { width: 300, height: 200 }, depth: 8, channels: 3 } as const;
  const written = async () => {
    const { file } = await plain('noise', form);
    const path = join(folder, 'damaged.png');
    await writePngFile(path, file, TAGS);
    return { file, path, whole: await readFile(path) };
  };

  it('is found when a part was changed', async () => {
    const { file, path, whole } = await written();
    whole[whole.length >> 1]! ^= 4;
    await writeFile(path, whole);
    await expect(rowsOf(path, file)).rejects.toThrow('damaged');
  });

  it('is found when the file ends too soon', async () => {
    const { file, path, whole } = await written();
    await writeFile(path, whole.subarray(0, whole.length - 40));
    await expect(rowsOf(path, file)).rejects.toThrow('too soon');
  });

  it('ends where the run is cancelled', async () => {
    const { file } = await written();
    const signal = AbortSignal.abort(new Error('cancelled'));
    const path = join(folder, 'cancelled.png');
    await expect(writePngFile(path, file, { ...TAGS, signal })).rejects.toThrow('cancelled');
  });
});
