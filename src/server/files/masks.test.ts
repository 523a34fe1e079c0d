import { createHash } from 'node:crypto';
import { mkdtemp, readdir, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { emptyMask, maskBytes } from '@/core/zone/mask';
import type { Painted } from '@/core/zone/zone';
import { keepMask, masksFrom, readMask } from './masks';

const size = { width: 40, height: 30 };
let folder: string;
let painted: Painted;
let bytes: Uint8Array;

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lontano-masks-'));
  const mask = emptyMask(size);
  mask.ink.fill(90, 100, 300);
  mask.cover.fill(140, 50, 400);
  bytes = maskBytes(mask);
  painted = { digest: createHash('sha256').update(bytes).digest('hex'), ...size };
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const files = async () =>
  (await readdir(folder, { recursive: true, withFileTypes: true })).filter((one) => one.isFile());

describe('painted masks', () => {
  it('are kept once under their digest and read back', async () => {
    await keepMask(folder, painted, gzipSync(bytes));
    await keepMask(folder, painted, gzipSync(bytes));
    expect(await files()).toHaveLength(1);
    expect(maskBytes(await readMask(folder, painted))).toEqual(bytes);
  });

  it.each<[string, () => [Painted, Uint8Array], RegExp]>([
    ['too few bytes', () => [painted, gzipSync(bytes.subarray(9))], /does not fill 40 x 30/],
    ['too many', () => [painted, gzipSync(new Uint8Array(5e6))], /does not fill 40 x 30/],
    ['no gzip', () => [painted, bytes], /does not fill 40 x 30/],
    [
      'another digest',
      () => [{ ...painted, digest: '0'.repeat(64) }, gzipSync(bytes)],
      /did not arrive whole/,
    ],
    ['another size', () => [{ ...painted, width: 41 }, gzipSync(bytes)], /does not fill 41 x 30/],
  ])('with %s are refused, and nothing is left', async (_, made, words) => {
    const before = await files();
    const [name, packed] = made();
    await expect(keepMask(folder, name, packed)).rejects.toThrow(words);
    expect(await files()).toEqual(before);
  });

  it('say so when they are gone or damaged', async () => {
    const gone = { ...painted, digest: 'd'.repeat(64) };
    await expect(readMask(folder, gone)).rejects.toThrow(/not here any more/);
    const [file] = await files();
    await writeFile(join(file!.parentPath, file!.name), 'damaged');
    await expect(readMask(folder, painted)).rejects.toThrow(/is damaged/);
  });

  it('are held for the next strip, and asked for again after trouble', async () => {
    const read = masksFrom(folder);
    await expect(read(painted)).rejects.toThrow(/is damaged/);
    await rm(folder, { recursive: true });
    await keepMask(folder, painted, gzipSync(bytes));
    const first = await read(painted);
    expect(await read(painted)).toBe(first);
  });
});
