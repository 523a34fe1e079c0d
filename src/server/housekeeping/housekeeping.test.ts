import { createHash } from 'node:crypto';
import { existsSync } from 'node:fs';
import { mkdir, readdir, readFile, rm, stat, truncate, utimes, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { testPaper } from '@/core/testing';
import { emptyMask, maskBytes } from '@/core/zone/mask';
import { patchBetween } from '@/core/shop/change';
import type { Piece } from '@/core/shop/job';
import { lastAudit } from '../db/audits';
import { DELETED_ROUNDS, deleteJob, purge, restoreJob, UNUSED_ROUNDS } from '../db/deleting';
import { beginJob, changeJob, readJob } from '../db/jobs';
import { changePiece, movePiece } from '../db/pieces';
import { artifactPath, claimTask, finishTask, readTask } from '../db/tasks';
import { digestOfFile } from '../files/digest';
import { keepMask } from '../files/masks';
import { makeRoom } from '../files/room';
import { store } from '../files/store';
import { addProfile } from '../db/profiles';
import { root } from '../root';
import { GRACE_MS, removeFilesOf, sweepUnnamed } from '../files/sweep';
import { takeIn } from '../files/take-in';
import { openTestShop, streamOf, testJpeg, type TestShop } from '../testing/shop';
import { requestRun } from '../tasks/request-run';
import { audit } from './audit';
import { auditAndKeep, clearAway } from './housekeeping';

let shop: TestShop;
let made = 0;
beforeAll(async () => {
  shop = await openTestShop();
});
afterAll(() => shop.close());

/** A job with a picture of its own. */
async function begin(): Promise<Piece> {
  const jpeg = await testJpeg(60 + ++made, 40);
  const { digest, fileName } = await takeIn(shop.db, streamOf(jpeg), `picture ${made}.jpg`);
  const job = {
    ...{ title: `Job ${made}`, customer: '', due: null, distance: 2, device: null, material: null },
    pictures: [{ digest, fileName, page: 1 }],
    paper: testPaper({ width: { value: 10, unit: 'cm' } }),
  };
  return (await readJob(shop.db, await beginJob(shop.db, job))).piece;
}

/** A finished run of a piece, with a file of so many bytes, over at a moment. */
async function result(piece: Piece, bytes: number, finishedAt: number): Promise<string> {
  const run = await requestRun(shop.db, piece.id, { revision: piece.revision, trialId: 'a' });
  const path = store.result(run.id);
  await mkdir(dirname(path), { recursive: true });
  await writeFile(path, Buffer.alloc(bytes, made));
  await claimTask(shop.db, 'me');
  const file = {
    path: store.nameOf(path),
    fileName: 'r.tif',
    bytes,
    digest: await digestOfFile(path),
  };
  await finishTask(shop.db, run.id, 'me', {
    state: 'done',
    result: { width: 1, height: 1, ppi: { x: 1, y: 1 }, profile: null, seconds: 1, resumed: false },
    files: [{ role: 'result', ...file }],
  });
  await shop.db('tasks').where({ id: run.id }).update({ finished_at: finishedAt });
  return run.id;
}

async function change(piece: Piece, edit: (work: Piece['work']) => void): Promise<Piece> {
  const work = structuredClone(piece.work);
  edit(work);
  const patch = patchBetween(piece.work, work);
  return changePiece(shop.db, piece.id, { revision: piece.revision, label: 'x', patch });
}

/** Paints a zone of a piece. */
async function paint(piece: Piece): Promise<{ piece: Piece; digest: string }> {
  const { width, height } = piece.findings;
  const mask = emptyMask({ width, height });
  mask.ink.fill(made, 0, 300);
  const bytes = maskBytes(mask);
  const digest = createHash('sha256').update(bytes).digest('hex');
  await keepMask(store.masks(), { digest, width, height }, gzipSync(bytes));
  const zone = { parts: [], painted: { digest, width, height }, feather: 0, inverted: false };
  const painted = await change(piece, (work) => {
    work.zones.push({ ...zone, id: 'z', name: 'Sky' });
  });
  return { piece: painted, digest };
}

const maskPath = (digest: string) => join(store.masks(), digest.slice(0, 2), `${digest}.gz`);

describe('an audit', () => {
  beforeEach(async () => {
    for (const table of [
      'artifacts',
      'tasks',
      'changes',
      'events',
      'profiles',
      'pieces',
      'board',
      'jobs',
      'pages',
    ]) {
      await shop.db(table).delete();
    }
    await shop.db('originals').delete();
    for (const name of await readdir(shop.folder)) {
      if (!name.startsWith('lontano')) await rm(join(shop.folder, name), { recursive: true });
    }
  });

  it('finds nothing where all is as it was kept, and is kept itself', async () => {
    let piece = await begin();
    piece = (await paint(piece)).piece;
    piece = await change(piece, (work) => (work.trials[0]!.ppi = 90));
    piece = await movePiece(shop.db, piece.id, {
      ...{ revision: piece.revision, to: piece.history[1]!.id },
    });
    piece = await change(piece, (work) => (work.distance = 3));
    await result(piece, 500, Date.now());
    const outcome = await auditAndKeep(shop.db);
    expect(outcome.found).toEqual([]);
    expect(outcome.checked).toEqual({
      ...{ originals: 1, pictures: 1, changes: 4, masks: 1, results: 1, files: 5 },
    });
    expect(await lastAudit(shop.db)).toEqual(outcome);
  });

  const cases: [string, (piece: Piece, run: string, mask: string) => Promise<unknown>, RegExp][] = [
    [
      'an original that is gone',
      ({ digest }) => rm(store.original(digest)),
      /original is not there/,
    ],
    [
      'an original that was changed',
      ({ digest }) => writeFile(store.original(digest), 'another'),
      /not the file that was taken in/,
    ],
    ['a result that is gone', (_, run) => rm(store.result(run)), /file of a run is not there/],
    ['a result cut short', (_, run) => truncate(store.result(run), 9), /has 9 B, and had 500 B/],
    [
      'a result with other bytes',
      (_, run) => writeFile(store.result(run), Buffer.alloc(500, 255)),
      /not as it was made/,
    ],
    ['a mask that is gone', (_, __, mask) => rm(maskPath(mask)), /painted on a zone is not there/],
    [
      'a mask that is damaged',
      (_, __, mask) => writeFile(maskPath(mask), 'x'),
      /painted on a zone is damaged/,
    ],
    [
      'a file that no record names',
      () => writeFile(store.result('0123456789'), 'x'),
      /No record names this file/,
    ],
    [
      'a profile that is gone',
      async () => {
        const bytes = await readFile(join(root(), 'profiles', 'coated.icc'));
        bytes.write('Canvas', bytes.indexOf('Coated paper'), 'latin1');
        const { digest } = await addProfile(shop.db, bytes, 'canvas.icc');
        await rm(store.profile(digest));
      },
      /colour profile is not there as it was added/,
    ],
    [
      'a history with a hole',
      ({ id, history }) =>
        shop.db('changes').where({ piece_id: id, id: history[1]!.id }).update({ parent: 999_999 }),
      /follows one that is not there/,
    ],
    [
      'a picture that stands elsewhere',
      ({ id, work }) =>
        shop
          .db('pieces')
          .where({ id })
          .update({ work: JSON.stringify({ ...work, distance: 40 }) }),
      /does not stand where its changes lead/,
    ],
    [
      'findings that make no sense',
      ({ digest }) => shop.db('pages').where({ digest }).update({ findings: '{"width":-1}' }),
      /can't be read; it is looked at again/,
    ],
    [
      'a run without a file on record',
      (_, run) => shop.db('artifacts').where({ task_id: run }).delete(),
      /done and has no file/,
    ],
  ];

  it.each(cases)('finds %s', async (_, harm, words) => {
    const { piece, digest } = await paint(await begin());
    const run = await result(piece, 500, Date.now());
    await harm(piece, run, digest);
    const { found } = await audit(shop.db, { grace: 0 });
    expect(found.map((one) => one.words).join('\n')).toMatch(words);
  });

  it('of findings that make no sense is no verdict on the picture: it is looked at again', async () => {
    const piece = await begin();
    await shop.db('pages').where({ digest: piece.digest }).update({ findings: '{"width":-1}' });
    expect((await readJob(shop.db, piece.jobId)).piece.findings).toEqual(piece.findings);
    expect((await audit(shop.db)).found).toEqual([]);
  });
});

describe('making room', () => {
  const DAY = 24 * 3_600_000;

  it('takes what is needed least and was used longest ago, and never what must stay', async () => {
    const old = Date.now() - 9 * DAY;
    const [printed, fresh, approved, last] = [
      await begin(),
      await begin(),
      await begin(),
      await begin(),
    ];
    const runs = [
      await result(fresh, 40_000, old - DAY),
      await result(printed, 40_000, old),
      await result(approved, 40_000, old - 5 * DAY),
      await result(last, 40_000, Date.now() - DAY),
    ];
    await changeJob(shop.db, printed.jobId, { state: 'printed' });
    await changeJob(shop.db, approved.jobId, { state: 'approved' });
    for (const { digest } of [printed, fresh, approved, last]) {
      const raw = store.raw(digest, 1);
      await utimes(raw, old / 1000, (digest === last.digest ? Date.now() - DAY / 2 : old) / 1000);
    }
    const there = () => runs.map((run) => existsSync(store.result(run)));
    const everything = await makeRoom(shop.db, 1e12);
    expect(everything.removed).toEqual([]);
    // A little less than all: decoded pixels that nobody looked at go, and what is printed.
    const { removed, kept } = await makeRoom(shop.db, everything.kept - 50_000);
    expect(kept).toBeLessThanOrEqual(everything.kept - 50_000);
    expect(removed.some((path) => path.startsWith('decoded'))).toBe(true);
    expect(there()).toEqual([true, false, true, true]);
    await makeRoom(shop.db, 1);
    expect(there()).toEqual([false, false, true, false]);
    for (const { digest } of [printed, fresh, approved, last]) {
      expect(existsSync(store.original(digest))).toBe(true);
    }
    // Of a file that went its record stays.
    const gone = await readTask(shop.db, runs[0]!);
    expect(gone.artifacts[0]).toMatchObject({ bytes: 40_000, goneAt: expect.any(Number) });
    expect(await artifactPath(shop.db, runs[0]!, 'result')).toBeNull();
    expect((await audit(shop.db, { grace: 0 })).found).toEqual([]);
    // A decoded file comes again when it is wanted.
    expect((await readJob(shop.db, fresh.jobId)).piece.findings.width).toBe(fresh.findings.width);
  });

  it('leaves what is used just now', async () => {
    const piece = await begin();
    const { removed } = await makeRoom(shop.db, 1);
    expect(removed).not.toContain(store.nameOf(store.raw(piece.digest, 1)));
  });
});

describe('what is deleted', () => {
  it('can be brought back for a day, and goes then with all that only it holds', async () => {
    const { piece, digest: mask } = await paint(await begin());
    const run = await result(piece, 300, Date.now());
    const open = await requestRun(shop.db, piece.id, { revision: piece.revision, trialId: 'a' });
    await deleteJob(shop.db, piece.jobId);
    expect((await readTask(shop.db, open.id)).state).toBe('cancelled');
    await expect(readJob(shop.db, piece.jobId)).rejects.toMatchObject({ kind: 'missing' });
    await expect(deleteJob(shop.db, piece.jobId)).rejects.toMatchObject({ kind: 'missing' });
    await purge(shop.db);
    await restoreJob(shop.db, piece.jobId);
    expect((await readJob(shop.db, piece.jobId)).piece.history).toHaveLength(2);

    await deleteJob(shop.db, piece.jobId);
    await purge(shop.db, DELETED_ROUNDS);
    const paths = [store.original(piece.digest), store.raw(piece.digest, 1), store.result(run)];
    expect(paths.map(existsSync)).toEqual([true, true, true]);
    await clearAway(shop.db);
    await expect(restoreJob(shop.db, piece.jobId)).rejects.toThrow(/gone for good/);
    expect(paths.map(existsSync)).toEqual([false, false, false]);
    // What was painted is nobody's now, and goes when it has lain there for a while.
    expect(await sweepUnnamed(shop.db)).toEqual([]);
    const before = (Date.now() - GRACE_MS - 1000) / 1000;
    await utimes(maskPath(mask), before, before);
    await clearAway(shop.db);
    expect(existsSync(maskPath(mask))).toBe(false);
    expect((await audit(shop.db, { grace: 0 })).found).toEqual([]);
  });

  it('leaves an original that another job uses', async () => {
    const piece = await begin();
    const { digest, fileName } = piece;
    const job = {
      ...{ title: 'Again', customer: '', due: null, distance: 2, device: null, material: null },
      pictures: [{ digest, fileName, page: 1 }],
      paper: testPaper({ width: { value: 20, unit: 'cm' } }),
    };
    const other = await beginJob(shop.db, job);
    await deleteJob(shop.db, piece.jobId);
    await purge(shop.db, DELETED_ROUNDS + 1);
    expect((await readJob(shop.db, other)).piece.digest).toBe(digest);
    expect((await stat(store.original(digest))).size).toBeGreaterThan(0);
  });

  it('are files that were taken in and that no job used for a week', async () => {
    const jpeg = await testJpeg(201, 77);
    const { digest } = await takeIn(shop.db, streamOf(jpeg), 'unused.jpg');
    await purge(shop.db, UNUSED_ROUNDS);
    expect(await shop.db('originals').where({ digest })).toHaveLength(1);
    // One that comes again is kept anew.
    await takeIn(shop.db, streamOf(jpeg), 'unused.jpg');
    await purge(shop.db, UNUSED_ROUNDS);
    expect(await shop.db('originals').where({ digest })).toHaveLength(1);
    const { originals } = await purge(shop.db);
    expect(originals).toContain(digest);
    // One that is taken in again, before its files were removed, keeps them.
    const gone = await shop.db('originals').where({ digest });
    await takeIn(shop.db, streamOf(jpeg), 'unused.jpg');
    await removeFilesOf(shop.db, originals, []);
    expect(existsSync(store.original(digest))).toBe(true);
    expect(gone).toHaveLength(0);
    await purge(shop.db, UNUSED_ROUNDS + 1);
    expect(await shop.db('originals').where({ digest })).toHaveLength(0);
  });
});
