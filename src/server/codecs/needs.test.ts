import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Metadata } from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { config } from '../config';
import { LIMITS } from '../sandbox/limits';
import { NeedsTurn } from './decoded';
import type { InputFormat } from './format';
import { refuseSamples, refuseTooLarge, refuseUnlessGiven, refuseWithoutRoom } from './needs';

const of = (width: number, height: number, more: Partial<Metadata> = {}) =>
  ({ width, height, ...more }) as Metadata;
const NAME = { name: 'sky.tif' };

describe('a file that promises many pixels', () => {
  const most = config().picturePixels;

  it('is taken in up to what the shop allows, and refused beyond with both figures', () => {
    const side = Math.floor(Math.sqrt(most));
    expect(() => refuseTooLarge(of(side, side), 'tiff', NAME)).not.toThrow();
    expect(() => refuseTooLarge(of(side + 1, side + 1), 'tiff', NAME)).toThrow(
      new RegExp(
        `^sky\\.tif says it is ${side + 1} x ${side + 1} pixels.*${Math.floor(most / 1e6)} megapixels`,
      ),
    );
  });

  it('may have a tighter bound of its own', () => {
    expect(() => refuseTooLarge(of(2000, 1000), 'tiff', { ...NAME, mostPixels: 1e6 })).toThrow(
      /1 megapixels/,
    );
  });

  it('is refused for one side that is too long, however few pixels it has', () => {
    expect(() => refuseTooLarge(of(65_535, 10), 'png', NAME)).not.toThrow();
    expect(() => refuseTooLarge(of(65_536, 10), 'png', NAME)).toThrow(/^sky\.tif says/);
  });

  it.each<[InputFormat, boolean]>([
    ['avif', false],
    ['webp', false],
    ['jpeg', true],
    ['png', true],
  ])(
    'of a kind that is decoded all at once (%s) may have fewer, and a TIFF is asked for',
    (format, isProgressive) => {
      const large = of(9000, 9000, { isProgressive });
      const huge = of(14_000, 14_000, { isProgressive });
      expect(() => refuseTooLarge(huge, format, NAME)).toThrow(/of such a file.*Ask for a TIFF/);
      expect(() => refuseTooLarge(large, 'tiff', NAME)).not.toThrow();
    },
  );
});

describe('a file that needs more than it is given', () => {
  const turnOf = (metadata: Metadata, format: InputFormat, given = LIMITS.pixels.short) => {
    try {
      refuseUnlessGiven(metadata, format, given);
      return null;
    } catch (error) {
      expect(error).toBeInstanceOf(NeedsTurn);
      return (error as NeedsTurn).turn;
    }
  };

  it('is begun at once where it is small', () => {
    expect(turnOf(of(3000, 2000), 'jpeg')).toBeNull();
    expect(turnOf(of(3000, 2000), 'avif')).toBeNull();
  });

  it('waits for a longer turn where it takes time, and for a heavy one where it takes memory', () => {
    expect(turnOf(of(12_000, 8000), 'jpeg')).toBe('long');
    expect(turnOf(of(6000, 4000), 'avif')).toBe('heavy');
    expect(turnOf(of(8000, 6000, { isProgressive: true }), 'jpeg')).toBe('heavy');
  });

  it('has what it needs in the turn that it waited for', () => {
    for (const [metadata, format] of [
      [of(12_000, 8000), 'jpeg'],
      [of(6000, 4000), 'avif'],
      [of(6000, 4000), 'webp'],
    ] as const) {
      const turn = turnOf(metadata, format)!;
      expect(turnOf(metadata, format, LIMITS.pixels[turn])).toBeNull();
    }
  });

  it('is not held back where nothing limits it', () => {
    expect(() => refuseUnlessGiven(of(60_000, 60_000), 'avif', undefined)).not.toThrow();
  });
});

describe('pixels that must find room on the disk', () => {
  let folder: string;
  beforeAll(async () => {
    folder = await mkdtemp(join(tmpdir(), 'lontano-needs-'));
  });
  afterAll(() => rm(folder, { recursive: true, force: true }));
  const task = () => ({ ...NAME, file: '', page: 1, thumbnail: null, raw: join(folder, 'raw') });

  it('are decoded where there is room', async () => {
    await expect(refuseWithoutRoom(of(1000, 1000), 8, task())).resolves.toBeUndefined();
  });

  it('are refused where there is none: how much they need, what is free, and what is kept back', async () => {
    const refused = refuseWithoutRoom(of(4e6, 4e6, { hasAlpha: true }), 16, task());
    await expect(refused).rejects.toMatchObject({ kind: 'full' });
    await expect(refused).rejects.toThrow(
      /^sky\.tif needs 128 TB on disk .* are free, of which 500 MB are kept back/,
    );
  });
});

describe('samples of another kind', () => {
  it.each<[Partial<Metadata>, RegExp | null]>([
    [{ depth: 'uchar' }, null],
    [{ depth: 'ushort' }, null],
    [{ depth: 'float', space: 'scrgb' }, null],
    [{ depth: 'float', space: 'b-w' }, /floating-point numbers without colours/],
    [{ depth: 'short' }, /numbers of 16 bits with a sign/],
    [{ depth: 'uint' }, /numbers of 32 bits/],
    [{ depth: 'double' }, /floating-point numbers of 64 bits/],
    [{ depth: 'complex' }, /complex/],
  ])('%j', (metadata, words) => {
    const refuse = () => refuseSamples(of(10, 10, metadata), 'sky.tif');
    if (words === null) expect(refuse).not.toThrow();
    else expect(refuse).toThrow(words);
  });
});
