import { readdir, readFile } from 'node:fs/promises';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { SHIPPED } from '@/core/colour/profiles';
import { layOutProof } from '@/core/output/proof-sheet';
import { MM_PER_INCH } from '@/core/measure/units';
import type { Piece } from '@/core/shop/job';
import { paperOf, type ProofRequest } from '@/core/shop/proof';
import { artifactOf, ProofTask } from '@/core/shop/task';
import { endPictureProcesses } from '../codecs/pictures';
import { readJob } from '../db/jobs';
import { changePiece, readPiece } from '../db/pieces';
import { artifactPath, cancelTask, claimTask, readTask } from '../db/tasks';
import { store } from '../files/store';
import { readPdf } from '../output/pdf-read';
import { endThreads } from '../render/threads';
import { orderedPiece } from '../testing/ordered';
import { openTestShop, testJpeg, type TestShop } from '../testing/shop';
import { requestProof } from './request-proof';
import { requestRun } from './request-run';
import { doTask } from './task-process';

let shop: TestShop;
beforeAll(async () => {
  shop = await openTestShop();
});
afterAll(async () => {
  await Promise.all([endPictureProcesses(), endThreads()]);
  await shop.close();
});

const begun = (bytes: Uint8Array, name: string) => orderedPiece(shop, bytes, name, 30);

const STOPS = [
  { title: 'edges', words: '', x: 0.5, y: 0.5 },
  { title: 'corner', words: '', x: 1, y: 0 },
];
const asked = (piece: Piece, more: Partial<ProofRequest> = {}): ProofRequest => ({
  ...{ revision: piece.revision, on: { kind: 'sheet', paper: 'A4' }, format: 'tiff' },
  ...{ stops: STOPS, trials: [piece.work.trials[0]!.id], ...more },
});

/** Does the next task and returns it, and where its file lies. */
async function done(id: string): Promise<string> {
  const task = await claimTask(shop.db, 'me');
  expect(task?.id).toBe(id);
  await doTask(shop.db, task!, 'me');
  const over = await readTask(shop.db, id);
  expect(over.error).toBeNull();
  return store.named((await artifactPath(shop.db, id, 'result'))!);
}

/** Changes the first trial's output. */
async function written(piece: Piece, output: object): Promise<Piece> {
  const patch = Object.entries(output).map(([name, value]) => ({
    ...{ op: 'replace' as const, path: `/trials/0/output/${name}`, value },
  }));
  await changePiece(shop.db, piece.id, { revision: piece.revision, label: 'output', patch });
  return readPiece(shop.db, piece.id);
}

describe('a proof', () => {
  it('shows the very pixels of the file that a run writes, at the scale of the print', async () => {
    const piece = await begun(await testJpeg(160, 100), 'dome.jpg');
    const { id } = await requestProof(shop.db, piece.id, asked(piece));
    const proof = await done(id);
    const task = ProofTask.parse(await readTask(shop.db, id));
    expect(artifactOf(task, 'result')!.fileName).toMatch(/^\d+-grosse-kuppel-proof\.tif$/);
    expect((await readJob(shop.db, piece.jobId)).state).toBe('proofed');

    const [recipe] = task.payload.recipes;
    const { ppi } = recipe!.target;
    const { width, height, density } = await sharp(proof).metadata();
    expect(width).toBe(Math.round((210 / MM_PER_INCH) * ppi));
    expect(height).toBe(Math.round((297 / MM_PER_INCH) * ppi));
    expect(density).toBe(ppi);

    const trialId = piece.work.trials[0]!.id;
    const run = await requestRun(shop.db, piece.id, { revision: piece.revision, trialId });
    const file = sharp(await done(run.id));
    const settings = task.payload.words.trials[0]!.settings.length + 1;
    const sheet = layOutProof(paperOf(task.payload.on), { stops: 2, trials: 1, settings });
    if (!sheet.ok) throw new Error(sheet.reason);
    const px = (mm: number) => Math.round((mm / MM_PER_INCH) * ppi);
    for (const { stop, at } of sheet.pictures) {
      const [w, h] = [px(at.width), px(at.height)];
      const { target } = recipe!;
      const { x, y } = STOPS[stop]!;
      const region = {
        left: Math.min(target.width - w, Math.max(0, Math.round(x * target.width - w / 2))),
        top: Math.min(target.height - h, Math.max(0, Math.round(y * target.height - h / 2))),
        ...{ width: w, height: h },
      };
      const wanted = await file.clone().extract(region).raw().toBuffer();
      const shown = await sharp(proof)
        .extract({ left: px(at.x), top: px(at.y), width: w, height: h })
        .raw()
        .toBuffer();
      expect(shown.equals(wanted)).toBe(true);
    }
    // There are letters above the pictures, and a star in the foot.
    const dark = async (left: number, top: number, w: number, h: number) => {
      const part = { left: px(left), top: px(top), width: px(w), height: px(h) };
      const grey = await sharp(proof).extract(part).greyscale().raw().toBuffer();
      return grey.filter((one) => one < 100).length / grey.length;
    };
    const { heading, foot } = sheet;
    expect(await dark(heading.x, heading.y, 60, 4)).toBeGreaterThan(0.05);
    expect(await dark(foot.x + 148, foot.y, 16, 16)).toBeGreaterThan(0.3);
  });

  it('is written in the inks that the file will have, as a PDF of exactly its paper', async () => {
    const converted = {
      ...{ profile: SHIPPED['coated.icc'].digest, space: 'cmyk' },
      ...{ intent: 'relative', blackPoint: true },
    };
    const piece = await written(await begun(await testJpeg(160, 100), 'b.jpg'), {
      ...{ format: 'pdf', colour: converted },
    });
    const on = { kind: 'strip', width: 1060 } as const;
    const { id } = await requestProof(shop.db, piece.id, asked(piece, { on, format: 'pdf' }));
    const { boxes, space, profile, pages } = readPdf(await done(id));
    expect({ space, pages }).toEqual({ space: 'cmyk', pages: 1 });
    expect(profile!.length).toBeGreaterThan(100_000);
    expect(boxes.media.width).toBeCloseTo((1060 / MM_PER_INCH) * 72, -0.5);
    const task = ProofTask.parse(await readTask(shop.db, id));
    expect(task.result!.profile).toMatch(/coated/i);
  });

  it('sets trials beside each other, each at its own resolution', async () => {
    const piece = await begun(await testJpeg(160, 100), 'c.jpg');
    const other = { ...piece.work.trials[0]!, id: 'b', name: 'Coarse', ppi: 80 };
    await changePiece(shop.db, piece.id, {
      ...{ revision: piece.revision, label: 'another trial' },
      patch: [{ op: 'add', path: '/trials/-', value: other }],
    });
    const now = await readPiece(shop.db, piece.id);
    const trials = now.work.trials.map(({ id }) => id);
    const { id, payload } = await requestProof(shop.db, piece.id, asked(now, { trials }));
    expect(payload.words.print).toMatch(/160 and 80 ppi/);
    expect((await readFile(await done(id))).length).toBeGreaterThan(10_000);
  });

  it('is refused in words where something is not as it was, or has no room', async () => {
    const piece = await begun(await testJpeg(90, 60), 'd.jpg');
    const ask = (more: Partial<ProofRequest>) =>
      requestProof(shop.db, piece.id, asked(piece, more));
    await expect(ask({ revision: piece.revision + 1 })).rejects.toMatchObject({ kind: 'conflict' });
    await expect(ask({ trials: ['gone'] })).rejects.toThrow(/not there any more/);
    await expect(
      ask({
        stops: Array(24).fill(STOPS[0]),
        trials: [...Array(4)].map(() => piece.work.trials[0]!.id),
      }),
    ).rejects.toThrow(/Fewer places/);
    await expect(ask({ on: { kind: 'strip', width: 120 } })).rejects.toThrow(/too narrow/);
    const other = structuredClone(piece.work.trials[0]!);
    other.id = 'b';
    other.output.untagged = 'none';
    await changePiece(shop.db, piece.id, {
      ...{ revision: piece.revision, label: 'another trial' },
      patch: [{ op: 'add', path: '/trials/-', value: other }],
    });
    const now = await readPiece(shop.db, piece.id);
    const both = asked(now, { trials: now.work.trials.map(({ id }) => id) });
    await expect(requestProof(shop.db, piece.id, both)).rejects.toThrow(/different colours/);
  });

  it('that is cancelled leaves nothing', async () => {
    const piece = await begun(await testJpeg(90, 60), 'e.jpg');
    const { id } = await requestProof(shop.db, piece.id, asked(piece));
    const task = await claimTask(shop.db, 'me');
    await cancelTask(shop.db, id);
    await doTask(shop.db, task!, 'me');
    expect((await readTask(shop.db, id)).state).not.toBe('running');
    const left = await readdir(store.named('results')).catch(() => []);
    expect(left.filter((name) => name.includes('.part'))).toEqual([]);
  });
});
