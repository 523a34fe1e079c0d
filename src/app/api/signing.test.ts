import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { standingApproval, type ShopEvent } from '@/core/shop/event';
import { JobView } from '@/core/shop/job';
import { Run } from '@/core/shop/task';
import { appendEvent, eventsOfJob } from '@/server/db/events';
import { database } from '@/server/db/connection';
import { claimTask, finishTask } from '@/server/db/tasks';
import { openTestShop, testJpeg, type TestShop } from '@/server/testing/shop';
import * as approval from './pieces/[id]/approval/route';
import * as changes from './pieces/[id]/changes/route';
import * as runs from './pieces/[id]/runs/route';
import * as job from './jobs/[id]/route';
import * as events from './jobs/[id]/events/route';
import { at, begin, call } from './testing';

let shop: TestShop;
beforeAll(async () => {
  shop = await openTestShop();
});
afterAll(() => shop.close());

/** Queues a run of the first trial and says that it is done, as the process of tasks does. */
async function ran(pieceId: number, revision: number): Promise<Run> {
  const asked = call('POST', { revision, trialId: 'a' });
  const queued = Run.parse(await (await runs.POST(asked, at({ id: String(pieceId) }))).json());
  const db = await database();
  await claimTask(db, 'test');
  const { width, height } = queued.payload.recipe.target;
  const result = { width, height, ppi: { x: 160, y: 160 }, profile: null, seconds: 1 };
  await finishTask(db, queued.id, 'test', {
    state: 'done',
    result: { ...result, resumed: false },
    files: [
      {
        ...{ role: 'result', path: `results/${queued.id}`, bytes: 10 },
        ...{ fileName: queued.payload.fileName, digest: 'f'.repeat(64) },
      },
    ],
  });
  return queued;
}

const sign = (pieceId: number, revision: number, more: object = {}) =>
  approval.POST(
    call('POST', { revision, trialId: 'a', initials: 'ab', note: '', unseen: 0.4, ...more }),
    at({ id: String(pieceId) }),
  );
const words = async (answer: Response) => ((await answer.json()) as { message: string }).message;

describe('signing for a result', () => {
  it('names the file, who, and what was not seen; the job is approved, and back', async () => {
    const { id, piece } = await begin(await testJpeg(60, 40));
    expect(await words(await sign(piece.id, 0))).toMatch(/Run Trial A first/);
    const run = await ran(piece.id, 0);
    const signed = JobView.parse(await (await sign(piece.id, 0)).json());
    expect(signed.state).toBe('approved');
    const stands = standingApproval(signed.events, piece.id)!;
    expect(stands).toMatchObject({
      ...{ run: run.id, trialName: 'Trial A', initials: 'AB', unseen: 0.4 },
      ...{ fileName: run.payload.fileName, digest: 'f'.repeat(64) },
    });
    const back = await approval.DELETE(
      call('DELETE', { initials: 'cd', note: 'too dark' }),
      at({ id: String(piece.id) }),
    );
    const withdrawn = JobView.parse(await back.json());
    expect(withdrawn.state).toBe('on the bench');
    expect(standingApproval(withdrawn.events, piece.id)).toBeNull();
    const kinds = withdrawn.events.map(({ kind }) => kind);
    expect(kinds).toEqual(['state', 'approval withdrawn', 'state', 'approved', 'state']);
    const again = await approval.DELETE(
      call('DELETE', { initials: 'cd', note: '' }),
      at({ id: String(piece.id) }),
    );
    expect(again.status).toBe(400);
    const listed = await events.GET(call('GET'), at({ id: String(id) }));
    expect(((await listed.json()) as ShopEvent[]).length).toBe(5);
  });

  it('is refused for what was changed since, without initials, and for a trial that is none', async () => {
    const { piece } = await begin(await testJpeg(60, 40));
    await ran(piece.id, 0);
    const patch = [{ op: 'replace', path: '/trials/0/ppi', value: 90 }];
    const of = at({ id: String(piece.id) });
    await changes.POST(call('POST', { revision: 0, label: '90 ppi', patch }), of);
    expect((await sign(piece.id, 0)).status).toBe(409);
    expect(await words(await sign(piece.id, 1))).toMatch(/Run Trial A first/);
    expect(await words(await sign(piece.id, 1, { initials: ' ' }))).toMatch(/Who signs/);
    expect((await sign(piece.id, 1, { trialId: 'z' })).status).toBe(404);
    expect((await sign(piece.id, 1, { unseen: 7 })).status).toBe(400);
  });

  it('writes down every state, by hand too, and edits nothing', async () => {
    const { id } = await begin(await testJpeg(60, 40));
    await job.PATCH(call('PATCH', { state: 'proofed' }), at({ id: String(id) }));
    await job.PATCH(call('PATCH', { state: 'proofed' }), at({ id: String(id) }));
    const db = await database();
    const [only, ...others] = await eventsOfJob(db, id);
    expect(only).toMatchObject({ kind: 'state', from: 'received', to: 'proofed' });
    expect(others).toEqual([]);
    await expect(db('events').update({ data: '{}' })).rejects.toThrow(/never edited/);
    // One that can't be read is left out, and the others stay.
    await db('events').insert({ job_id: id, at: 1, kind: 'approved', data: '{broken' });
    await appendEvent(db, { jobId: id }, { kind: 'state', from: 'proofed', to: 'received' });
    expect(await eventsOfJob(db, id)).toHaveLength(2);
  });
});
