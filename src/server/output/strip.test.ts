import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { deflateSync, inflateSync } from 'node:zlib';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { adler32, joinedAdler32 } from './adler';
import { lzwEncode } from './lzw';
import type { SampleFile } from './samples';
import { packStrip } from './strip';
import { closeTiff, FIRST_STRIP } from './tiff-layout';
import { packedStream } from './zlib-stream';

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lontano-strip-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const hash = (i: number) => (Math.imul(i ^ (i >>> 7), 0x45d9f3b) >>> 13) & 255;

/** What rows can hold: tables that never fill, that fill at once, and that fill now and then. */
const KINDS: Record<string, (i: number) => number> = {
  flat: () => 77,
  noise: hash,
  slope: (i) => (i / 400) & 255,
  mixed: (i) => ((i >> 12) & 1 ? hash(i) : 9),
};

describe('LZW', () => {
  // About every place where codes become longer, the table is emptied, or the last code comes.
  const lengths = [0, 1, 2, 255, 256, 257, 510, 511, 512, 1023, 2000, 3836, 3837, 3838, 3839, 3840];
  it.each(Object.keys(KINDS))('of %s opens elsewhere at every length', async (kind) => {
    for (const length of [...lengths.filter((one) => one > 0), 9000, 300_000]) {
      const bytes = Uint8Array.from({ length }, (_, i) => KINDS[kind]!(i));
      const packed = lzwEncode(bytes);
      const tiff = greyTiff(packed, { width: length, height: 1 });
      const back = await sharp(tiff).toColourspace('b-w').raw().toBuffer();
      expect(back.equals(Buffer.from(bytes))).toBe(true);
    }
  });

  it('of nothing is a beginning and an end', () => {
    // 100000000 100000001, and six bits of nothing
    expect([...lzwEncode(new Uint8Array())]).toEqual([0x80, 0x40, 0x40]);
  });
});

/** A grey TIFF of one strip; its differences undone, since it has none. */
function greyTiff(packed: Uint8Array, size: { width: number; height: number }): Buffer {
  const at = FIRST_STRIP + packed.length + (packed.length & 1);
  const { header, directory } = closeTiff(
    {
      ...{ size, depth: 8, channels: 1, space: 'grey', ppi: 72 },
      ...{ profile: null, rowsPerStrip: size.height },
    },
    { offsets: [FIRST_STRIP], counts: [packed.length], packing: 'lzw', at },
  );
  const out = Buffer.alloc(at + directory.length);
  header.copy(out);
  out.set(packed, FIRST_STRIP);
  directory.copy(out, at);
  // The tag of differences says none.
  const predictor = out.indexOf(Buffer.from([317 & 255, 317 >> 8, 3, 0]), at);
  out.writeUInt16LE(1, predictor + 8);
  return out;
}

describe('sums of zlib streams', () => {
  it('are those of the standard, and joined those of both parts', () => {
    const bytes = Uint8Array.from({ length: 70_000 }, (_, i) => hash(i));
    const of = (part: Uint8Array) => deflateSync(part).readUInt32BE(deflateSync(part).length - 4);
    expect(adler32(bytes)).toBe(of(bytes));
    for (const cut of [0, 1, 3800, 65_521, 69_999, 70_000]) {
      const [first, second] = [bytes.subarray(0, cut), bytes.subarray(cut)];
      expect(joinedAdler32(adler32(first), adler32(second), second.length)).toBe(of(bytes));
    }
  });
});

describe('a stream of filtered rows', () => {
  it('is told how far it is, and ends where it is stopped', async () => {
    const size = { width: 600, height: 1500 };
    const path = join(folder, 'rows');
    await writeFile(path, Buffer.alloc(size.width * size.height * 3, 5));
    const samples: SampleFile = { path, start: 0, size, depth: 8, channels: 3, space: 'rgb' };
    const packed = (task: Parameters<typeof packStrip>[0]) => Promise.resolve(packStrip(task));
    const told: number[] = [];
    const pieces: Uint8Array[] = [];
    for await (const one of packedStream(samples, 'filtered', { packed }, (share) =>
      told.push(share),
    )) {
      pieces.push(one);
    }
    expect(inflateSync(Buffer.concat(pieces))).toHaveLength(size.height * (size.width * 3 + 1));
    expect(told).toEqual([...told].sort((a, b) => a - b));
    expect(told.at(-1)).toBe(1);
    const signal = AbortSignal.abort(new Error('cancelled'));
    const stopped = packedStream(samples, 'filtered', { packed, signal }, () => {});
    await stopped.next();
    await expect(stopped.next()).rejects.toThrow('cancelled');
  });
});
