import { rm } from 'node:fs/promises';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Format } from '@/core/output/formats';
import { LEVELS, levelSize } from '@/core/raster/tiles';
import { patchBetween } from '@/core/shop/change';
import type { Piece } from '@/core/shop/job';
import { artifactOf } from '@/core/shop/task';
import { testPaper } from '@/core/testing';
import { endPictureProcesses } from '../codecs/pictures';
import { beginJob, readJob } from '../db/jobs';
import { changePiece } from '../db/pieces';
import { claimTask, readTask, artifactPath } from '../db/tasks';
import { endThreads } from '../render/threads';
import { requestRun } from '../tasks/request-run';
import { doTask } from '../tasks/task-process';
import { openTestShop, streamOf, testJpeg, type TestShop } from '../testing/shop';
import { findFinished } from './finished';
import { halvedPath } from './halved';
import { openLookedAt, profileLookedAt } from './looked-at';
import { makeFolderOf, store } from './store';
import { sweepUnnamed } from './sweep';
import { takeIn } from './take-in';

let shop: TestShop;
let piece: Piece;
beforeAll(async () => {
  shop = await openTestShop();
  const { digest, fileName } = await takeIn(shop.db, streamOf(await testJpeg(90, 60)), 'p.jpg');
  const paper = testPaper({ width: { value: 10, unit: 'cm' } });
  const ordered = { title: 'Job', customer: '', due: null, distance: 2, device: null };
  const pictures = [{ digest, fileName, page: 1 }];
  const job = { ...ordered, material: null, paper, pictures };
  piece = (await readJob(shop.db, await beginJob(shop.db, job))).piece;
});
afterAll(async () => {
  await endPictureProcesses();
  await endThreads();
  await shop.close();
});

/** A run of the piece in a format, done. @returns the digest of its file, and where it lies */
async function ran(format: Format, depth: 8 | 16): Promise<{ digest: string; path: string }> {
  const work = structuredClone(piece.work);
  Object.assign(work.trials[0]!.output, { format, depth });
  const patch = patchBetween(piece.work, work);
  const { revision } = piece;
  piece = await changePiece(shop.db, piece.id, { revision, label: format, patch });
  const run = await requestRun(shop.db, piece.id, { revision: piece.revision, trialId: 'a' });
  const task = await claimTask(shop.db, 'me');
  expect(task?.id).toBe(run.id);
  await doTask(shop.db, task!, 'me');
  const { digest } = artifactOf(await readTask(shop.db, run.id), 'result')!;
  return { digest: digest!, path: store.named((await artifactPath(shop.db, run.id, 'result'))!) };
}

/** All samples of a level, and its size. */
async function level(digest: string, at: number) {
  const source = await openLookedAt(shop.db, digest, 1, at);
  const { size } = source;
  const samples = await source.samples({ x: 0, y: 0, ...size });
  await source.close();
  return { size, samples };
}

describe.each([
  ['tiff', 8],
  ['tiff', 16],
  ['png', 16],
  ['jpeg', 8],
] as const)('the file of a finished run, %s of %d bits', (format, depth) => {
  it('is looked at in parts, sample by sample as it was written', async () => {
    const { digest, path } = await ran(format, depth);
    const whole = await level(digest, 0);
    expect(whole.size).toEqual({ width: 630, height: 420 });
    const back = await sharp(path, { ignoreIcc: true })
      .toColourspace(depth === 16 ? 'rgb16' : 'srgb')
      .raw(depth === 16 ? { depth: 'ushort' } : {})
      .toBuffer();
    expect(Buffer.compare(whole.samples, back)).toBe(0);

    // Whatever made a level, it is the means of what it stands for.
    for (let i = 1; i <= LEVELS; i++) {
      const { size, samples } = await level(digest, i);
      expect(size).toEqual(levelSize(whole.size, i));
      const of = (bytes: Buffer, at: number) =>
        depth === 16 ? bytes.readUInt16LE(2 * at) / 257 : bytes[at]!;
      const mean = (bytes: Buffer) => {
        const count = bytes.length / (depth / 8);
        let sum = 0;
        for (let k = 0; k < count; k++) sum += of(bytes, k);
        return sum / count;
      };
      expect(Math.abs(mean(samples) - mean(back))).toBeLessThan(1);
    }
    const first = await level(digest, 1);
    const value = (x: number, y: number) => {
      const at = 3 * (y * whole.size.width + x);
      return depth === 16 ? whole.samples.readUInt16LE(2 * at) : whole.samples[at]!;
    };
    const four = (value(20, 10) + value(21, 10) + value(20, 11) + value(21, 11)) / 4;
    const at = 3 * (5 * first.size.width + 10);
    const small = depth === 16 ? first.samples.readUInt16LE(2 * at) : first.samples[at]!;
    expect(Math.abs(small - four)).toBeLessThanOrEqual(0.5);
  });

  it('is there at once from afar, and made again where that is lost', async () => {
    const { digest } = await ran(format, depth);
    const kept = halvedPath(await makeFolderOf(store.raw(digest, 1)), 3);
    const before = await level(digest, 3);
    await rm(kept);
    const after = await level(digest, 3);
    expect(after.size).toEqual(before.size);
    let most = 0;
    for (let i = depth === 16 ? 1 : 0; i < before.samples.length; i += depth / 8) {
      most = Math.max(most, Math.abs(before.samples[i]! - after.samples[i]!));
    }
    // Another way to reduce, the same picture.
    expect(most).toBeLessThan(24);
  });
});

describe('files of runs', () => {
  it('keep what is made for looking at them as long as they are there, and not longer', async () => {
    const { digest, path } = await ran('tiff', 8);
    const kept = halvedPath(store.raw(digest, 1), 3);
    expect(await sweepUnnamed(shop.db, 0)).not.toContain(store.nameOf(kept));
    await shop.db('artifacts').where({ digest }).update({ gone_at: Date.now() });
    expect(await findFinished(shop.db, digest)).toBeNull();
    await expect(openLookedAt(shop.db, digest, 1, 0)).rejects.toThrow(/no such original/);
    const swept = await sweepUnnamed(shop.db, 0);
    expect(swept).toContain(store.nameOf(kept));
    expect(swept).toContain(store.nameOf(path));
  });

  it('carry the profile of what they were made from', async () => {
    const { digest } = await ran('png', 8);
    expect(await profileLookedAt(shop.db, digest, 1)).toBeNull();
    await expect(profileLookedAt(shop.db, 'e'.repeat(64), 1)).rejects.toThrow(/no such original/);
  });
});
