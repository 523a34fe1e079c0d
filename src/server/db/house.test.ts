import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startSet } from '@/core/house/start-set';
import { newStep } from '@/core/recipe/order';
import { patchBetween } from '@/core/shop/change';
import { testPaper } from '@/core/testing';
import { takeIn } from '../files/take-in';
import { openTestShop, streamOf, testJpeg, type TestShop } from '../testing/shop';
import { applyHouse } from './apply-house';
import { appendEvent } from './events';
import {
  addHouse,
  addStartSet,
  changeHouse,
  deleteHouse,
  houseNamed,
  houseVersion,
  listHouse,
  readHouse,
  restoreHouse,
  versionsOfHouse,
} from './house';
import { beginJob, readJob } from './jobs';
import { changePiece, movePiece, readPiece } from './pieces';

let shop: TestShop;
let pieces: number[];
const { content } = startSet()[0]!;
const author = { browser: 'browser-1', initials: 'AB' };

beforeAll(async () => {
  shop = await openTestShop();
  const { digest, fileName } = await takeIn(shop.db, streamOf(await testJpeg()), 'p.jpg');
  const job = await beginJob(shop.db, {
    ...{ title: 'Two', customer: '', due: null, distance: 2, device: null, material: null },
    pictures: [1, 2, 3].map(() => ({ digest, fileName, page: 1 })),
    paper: testPaper({ width: { value: 30, unit: 'cm' } }),
  });
  pieces = (await readJob(shop.db, job)).pieces.map(({ id }) => id);
});
afterAll(() => shop.close());

const named = async (name: string) =>
  (await listHouse(shop.db)).find((recipe) => recipe.name === name)!;

describe('house recipes of a shop', () => {
  it('begin with those that ship; one that was deleted stays away', async () => {
    const names = (await listHouse(shop.db)).map(({ name, asShipped }) => [name, asShipped]);
    expect(names).toEqual(
      startSet()
        .map(({ name }) => [name, true])
        .sort(),
    );
    const { id } = await named('Pixel squares');
    await deleteHouse(shop.db, id);
    await addStartSet(shop.db);
    expect(await named('Pixel squares')).toBeUndefined();
    await restoreHouse(shop.db, id);
    expect(await named('Pixel squares')).toMatchObject({ id, version: 1 });
  });

  it('are told apart by name, in any letters', async () => {
    const { id } = await addHouse(shop.db, { name: 'Walls', content, author });
    await expect(addHouse(shop.db, { name: 'WALLS', content })).rejects.toThrow('another name');
    await expect(
      changeHouse(shop.db, id, { version: 1, name: 'Line drawing', content }),
    ).rejects.toThrow('another name');
    expect(await houseNamed(shop.db, 'walls')).toMatchObject({ id, author });
    await expect(houseNamed(shop.db, 'Ceilings')).rejects.toThrow(/There are: .*“Walls”/);
  });

  it('have a version for every change, and keep all of them', async () => {
    const { id } = await named('Walls');
    const next = { ...content, note: 'finer' };
    await changeHouse(shop.db, id, { version: 1, name: 'Walls', content });
    expect((await readHouse(shop.db, id)).version).toBe(1);
    await changeHouse(shop.db, id, { version: 1, name: 'Walls', content: next, author });
    await expect(
      changeHouse(shop.db, id, { version: 1, name: 'Walls', content: { ...content, note: 'x' } }),
    ).rejects.toMatchObject({ kind: 'conflict', facts: { version: 2 } });
    expect(
      (await versionsOfHouse(shop.db, id)).map(({ version, content: { note } }) => [version, note]),
    ).toEqual([
      [2, 'finer'],
      [1, content.note],
    ]);
    expect((await houseVersion(shop.db, { id, version: 1 })).content).toEqual(content);
    await expect(
      shop.db('house_versions').where({ recipe_id: id }).update({ name: 'x' }),
    ).rejects.toThrow('never edited');
  });

  it('are applied to many pictures, each in a trial of its own, once', async () => {
    const recipe = await named('Walls');
    const first = await applyHouse(shop.db, recipe, [...pieces.slice(0, 2), 99_999], author);
    expect(first.map(({ outcome }) => outcome)).toEqual(['begun', 'begun', 'failed']);
    expect(first[2]!.words).toContain('not on the board');
    const piece = await readPiece(shop.db, pieces[0]!);
    expect(piece.work.trials.map(({ name }) => name)).toEqual(['Trial A', 'Walls']);
    expect(piece.history.at(-1)).toMatchObject({ label: 'Walls, by house recipe', author });
    const again = await applyHouse(shop.db, recipe, pieces, author);
    expect(again.map(({ outcome }) => outcome)).toEqual(['had it', 'had it', 'begun']);
  });

  it('know what became of the pictures that they treated', async () => {
    const { db } = shop;
    expect((await named('Walls')).evidence).toMatchObject({ pictures: 3, changed: 0, approved: 0 });
    const piece = await readPiece(db, pieces[0]!);
    const { jobId, work } = piece;
    const after = structuredClone(work);
    after.trials[1]!.treatment.push(newStep('grain'));
    const patch = patchBetween(work, after);
    await changePiece(db, piece.id, { revision: piece.revision, label: 'grain', patch });
    const approved = { kind: 'approved', trialId: 'b', trialName: 'Walls' } as const;
    const rest = {
      ...{ recipe: 'r', run: 'run', fileName: 'f.tif', digest: 'd', initials: 'AB' },
      ...{ note: '', unseen: 0, evidence: null },
    };
    await appendEvent(db, { jobId, pieceId: pieces[1]! }, { ...approved, ...rest });
    await appendEvent(db, { jobId, pieceId: pieces[2]! }, { ...approved, ...rest });
    await appendEvent(
      db,
      { jobId, pieceId: pieces[2]! },
      { kind: 'approval withdrawn', initials: 'AB', note: '' },
    );
    expect((await named('Walls')).evidence).toMatchObject({ pictures: 3, changed: 1, approved: 1 });
    // What is undone was not used.
    const now = await readPiece(db, pieces[0]!);
    await movePiece(db, now.id, { revision: now.revision, to: now.history[0]!.id, author: null });
    expect((await named('Walls')).evidence).toMatchObject({ pictures: 2, changed: 0, approved: 1 });
    expect((await named('Line drawing')).evidence).toEqual({
      ...{ pictures: 0, changed: 0, approved: 0, sent: 0, lastUsed: null },
    });
  });
});
