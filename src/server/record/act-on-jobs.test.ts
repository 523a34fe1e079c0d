import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Happened } from '@/core/shop/event';
import { testPaper } from '@/core/testing';
import { DELETED_ROUNDS, purge } from '../db/deleting';
import { appendEvent } from '../db/events';
import { PictureOfJob } from '@/core/shop/picture-of-job';
import { beginJob, picturesOfJobs, readJob } from '../db/jobs';
import { takeIn } from '../files/take-in';
import { openTestShop, streamOf, testJpeg, type TestShop } from '../testing/shop';
import { actOnJobs } from './act-on-jobs';
import { jobOfNumber, recordOfAny } from './gone';

let shop: TestShop;
beforeAll(async () => {
  shop = await openTestShop();
});
afterAll(() => shop.close());

let made = 0;
async function begun(): Promise<number> {
  const bytes = await testJpeg(80 + made++, 60);
  const { digest, fileName } = await takeIn(shop.db, streamOf(bytes), 'p.jpg');
  return beginJob(shop.db, {
    ...{ title: `Job ${made}`, customer: 'A', due: '2026-12-01', distance: 2, device: null },
    ...{ material: 'Canvas', paper: testPaper({ width: { value: 30, unit: 'cm' } }) },
    ...{ note: 'as agreed', pictures: [{ digest, fileName, page: 1 }] },
  });
}

const sent: Happened = {
  ...{ kind: 'sent', key: 'k', fileName: 'f.tif', device: 'Roll', material: 'Canvas', copies: 1 },
  ...{ digest: 'd', initials: 'AB', why: null, cautions: [] },
};

describe('one act on several jobs', () => {
  it('changes all, and says which it could not', async () => {
    const [one, two] = [await begun(), await begun()];
    const change = { customer: 'B', due: null, note: 'by noon' };
    const outcome = await actOnJobs(shop.db, { act: 'change', jobs: [one, 9999, two], change });
    expect(outcome).toMatchObject({
      done: [one, two],
      failed: [{ job: 9999, words: 'There is no such job on the board.' }],
    });
    for (const id of [one, two]) expect(await readJob(shop.db, id)).toMatchObject(change);
    // Both were the same before: one act takes it back.
    const before = { customer: 'A', due: '2026-12-01', note: 'as agreed' };
    expect(outcome.undo).toEqual([{ act: 'change', jobs: [one, two], change: before }]);
    for (const undo of outcome.undo) await actOnJobs(shop.db, undo);
    for (const id of [one, two]) expect(await readJob(shop.db, id)).toMatchObject(before);
  });

  it('is taken back job by job where they differed', async () => {
    const [one, two] = [await begun(), await begun()];
    await actOnJobs(shop.db, { act: 'change', jobs: [two], change: { state: 'approved' } });
    const change = { state: 'printed' } as const;
    const { undo } = await actOnJobs(shop.db, { act: 'change', jobs: [one, two], change });
    expect(undo).toHaveLength(2);
    for (const act of undo) await actOnJobs(shop.db, act);
    expect((await readJob(shop.db, one)).state).toBe('received');
    expect((await readJob(shop.db, two)).state).toBe('approved');
  });

  it('duplicates a job with its pictures as they stand, not dated', async () => {
    const one = await begun();
    const { done } = await actOnJobs(shop.db, { act: 'duplicate', jobs: [one] });
    const [before, after] = [await readJob(shop.db, one), await readJob(shop.db, done[0]!)];
    expect(after).toMatchObject({ title: before.title, due: null, state: 'received' });
    expect(after.note).toBe('as agreed');
    expect(after.piece.work).toEqual(before.piece.work);
    expect(after.number).not.toBe(before.number);
  });

  it('deletes them and brings them back', async () => {
    const jobs = [await begun(), await begun()];
    const pictures = await picturesOfJobs(shop.db, jobs);
    expect(pictures.map(({ jobId }) => jobId)).toEqual(jobs);
    expect(PictureOfJob.array().parse(pictures)).toEqual(pictures);
    await actOnJobs(shop.db, { act: 'delete', jobs });
    await expect(readJob(shop.db, jobs[0]!)).rejects.toThrow('no such job');
    expect(await picturesOfJobs(shop.db, jobs)).toEqual([]);
    const back = await actOnJobs(shop.db, { act: 'restore', jobs });
    expect(back.done).toEqual(jobs);
    expect((await readJob(shop.db, jobs[1]!)).title).toContain('Job');
  });
});

describe('the record of a job that was deleted', () => {
  it('stays where something of it was sent, also once its pictures are gone', async () => {
    const { db } = shop;
    const [gone, silent] = [await begun(), await begun()];
    const { number, piece } = await readJob(db, gone);
    const { number: other } = await readJob(db, silent);
    await appendEvent(db, { jobId: gone, pieceId: piece.id }, sent);
    const before = await recordOfAny(db, gone);
    await actOnJobs(db, { act: 'delete', jobs: [gone, silent] });
    const purged = await purge(db, DELETED_ROUNDS + 1);
    expect(purged.originals).toContain(piece.digest);
    expect(await jobOfNumber(db, number)).toBe(gone);
    expect(await recordOfAny(db, gone)).toEqual(before);
    expect(before.events.map(({ words }) => words).join()).toContain('Roll');
    expect(before.head).toContainEqual({ label: 'Note', text: 'as agreed' });
    await expect(jobOfNumber(db, other)).rejects.toThrow('no job');
    await expect(recordOfAny(db, silent)).rejects.toThrow('no such job');
  });

  it('is that of the job itself again once it is brought back', async () => {
    const { db } = shop;
    const id = await begun();
    await appendEvent(db, { jobId: id }, sent);
    await actOnJobs(db, { act: 'delete', jobs: [id] });
    await actOnJobs(db, { act: 'restore', jobs: [id] });
    await actOnJobs(db, { act: 'change', jobs: [id], change: { title: 'Renamed' } });
    expect((await recordOfAny(db, id)).title).toBe('Renamed');
    expect(await db('gone_records').where({ job_id: id })).toEqual([]);
  });
});
