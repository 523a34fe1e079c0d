import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { patchBetween, type Patch } from '@/core/shop/change';
import type { Piece } from '@/core/shop/job';
import { testPaper } from '@/core/testing';
import { takeIn } from '../files/take-in';
import { openTestShop, streamOf, testJpeg, type TestShop } from '../testing/shop';
import { openDatabase } from './connection';
import { BoardQuery } from '@/core/shop/board';
import { readBoard } from './board';
import { beginJob, readJob } from './jobs';
import { changePiece, movePiece } from './pieces';
import { config } from '../config';

let shop: TestShop;
let piece: Piece;

beforeAll(async () => {
  shop = await openTestShop();
  const { digest, fileName } = await takeIn(shop.db, streamOf(await testJpeg()), 'p.jpg');
  const paper = testPaper({ width: { value: 30, unit: 'cm' } });
  const job = {
    title: 'A job',
    customer: 'Somebody',
    due: '2026-12-04',
    pictures: [{ digest, fileName, page: 1 }],
    paper,
    distance: 2,
    device: null,
    material: null,
  };
  const id = await beginJob(shop.db, job);
  piece = (await readJob(shop.db, id)).piece;
});
afterAll(() => shop.close());

const withPpi = (ppi: number): Patch => [{ op: 'replace', path: '/trials/0/ppi', value: ppi }];

describe('a piece and its history', () => {
  it('begins with the proposed trial on the board', async () => {
    expect(piece).toMatchObject({ revision: 0, history: [{ label: 'Proposed first trial' }] });
    // A reason for every step that was proposed.
    const kinds = piece.work.trials[0]!.treatment.map(({ kind }) => kind);
    expect(piece.reasons.map(({ step }) => step)).toEqual(kinds);
    expect((await readBoard(shop.db, BoardQuery.parse({}))).rows).toMatchObject([
      { number: '0401', state: 'received', facts: { digest: piece.digest } },
    ]);
  });

  it('refuses a page that is not there before anything is written', async () => {
    const patch: Patch = [{ op: 'replace', path: '/framing/page', value: 7 }];
    const change = { revision: 0, label: 'Page 7', patch };
    await expect(changePiece(shop.db, piece.id, change)).rejects.toThrow(/one page only/);
    const { piece: now } = await readJob(shop.db, piece.jobId);
    expect(now).toMatchObject({ revision: 0, work: { framing: { page: 1 } } });
    expect((await readBoard(shop.db, BoardQuery.parse({}))).total).toBe(1);
  });

  it('undoes, redoes and branches without losing a change', async () => {
    const { db } = shop;
    const one = await changePiece(db, piece.id, {
      revision: 0,
      label: '100 ppi',
      patch: withPpi(100),
    });
    const two = await changePiece(db, piece.id, {
      revision: 1,
      label: '200 ppi',
      patch: withPpi(200),
    });
    expect(two.history.map((entry) => entry.label)).toEqual([
      'Proposed first trial',
      '100 ppi',
      '200 ppi',
    ]);
    const undone = await movePiece(db, piece.id, { revision: 2, to: one.current });
    expect(undone.work.trials[0]!.ppi).toBe(100);
    expect(undone.history).toHaveLength(3);
    const redone = await movePiece(db, piece.id, { revision: 3, to: two.current });
    expect(redone.work.trials[0]!.ppi).toBe(200);
    await movePiece(db, piece.id, { revision: 4, to: one.current });
    const branched = await changePiece(db, piece.id, {
      revision: 5,
      label: '300 ppi',
      patch: withPpi(300),
    });
    expect(branched.history.map((entry) => entry.label)).toEqual([
      'Proposed first trial',
      '100 ppi',
      '300 ppi',
    ]);
    // the abandoned change is still in the database
    expect(await db('changes').where({ piece_id: piece.id })).toHaveLength(4);
    await expect(movePiece(db, piece.id, { revision: 6, to: two.current })).rejects.toThrow(
      /not on the present line/,
    );
  });

  it('answers a stale write with what it is now', async () => {
    const stale = changePiece(shop.db, piece.id, {
      revision: 1,
      label: 'late',
      patch: withPpi(150),
    });
    await expect(stale).rejects.toMatchObject({ kind: 'conflict', facts: { revision: 6 } });
    await expect(
      changePiece(shop.db, 999, { revision: 0, label: 'x', patch: withPpi(9) }),
    ).rejects.toMatchObject({ kind: 'missing' });
  });

  it.each<[string, Patch, RegExp]>([
    ['a place that is not there', [{ op: 'remove', path: '/trials/9' }], /does not fit/],
    ['what makes no work', [{ op: 'remove', path: '/trials' }], /trials: /],
    ['a figure out of range', withPpi(-4), /trials\.0\.ppi: /],
    [
      'a prototype',
      [{ op: 'add', path: '/__proto__/polluted', value: true }],
      /does not fit|Unrecognized/,
    ],
  ])('refuses a change of %s, and keeps what was there', async (_, patch, words) => {
    const change = { revision: 6, label: 'x', patch };
    await expect(changePiece(shop.db, piece.id, change)).rejects.toThrow(words);
    expect((await readJob(shop.db, piece.jobId)).piece.revision).toBe(6);
    expect(({} as { polluted?: boolean }).polluted).toBeUndefined();
  });

  it('keeps what a change changed alone, and comes to every entry from every other', async () => {
    const { db } = shop;
    let now = (await readJob(db, piece.jobId)).piece;
    const works = new Map([[now.current, now.work]]);
    const clone = structuredClone(now.work);
    clone.trials.push({ ...structuredClone(clone.trials[0]!), id: 'b', name: 'B' });
    const edits = [clone, { ...clone, distance: 9 }, { ...clone, trials: [clone.trials[1]!] }];
    for (const [i, work] of edits.entries()) {
      const patch = patchBetween(now.work, work);
      now = await changePiece(db, piece.id, { revision: now.revision, label: `e${i}`, patch });
      expect(now.work).toEqual(work);
      works.set(now.current, now.work);
    }
    const [row] = await db('changes').where({ id: now.current - 1 });
    expect(row.work).toBe('null');
    expect(JSON.parse(row.patch)).toEqual([{ op: 'replace', path: '/distance', value: 9 }]);
    const ids = [...works.keys()];
    for (const from of ids) {
      for (const to of ids) {
        for (const at of [from, to]) {
          now = await movePiece(db, piece.id, { revision: now.revision, to: at });
          expect(now.work).toEqual(works.get(at));
        }
      }
    }
    await movePiece(db, piece.id, { revision: now.revision, to: ids[0]! });
  });

  it('is all there after the database was closed and opened again', async () => {
    const again = await openDatabase(config().database);
    const job = await readJob(again, piece.jobId);
    expect(job.piece).toMatchObject({ work: { trials: [{ ppi: 300 }] } });
    await again.destroy();
  });
});
