import { readdir } from 'node:fs/promises';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Piece } from '@/core/shop/job';
import type { SheetRequest } from '@/core/shop/sheet';
import { artifactOf, SheetTask } from '@/core/shop/task';
import { decodePicture, endPictureProcesses } from '../codecs/pictures';
import { readComparing } from '../db/comparing';
import { artifactPath, cancelTask, claimTask, readTask } from '../db/tasks';
import { store } from '../files/store';
import { orderedPiece } from '../testing/ordered';
import { openTestShop, testJpeg, type TestShop } from '../testing/shop';
import { requestSheet } from './request-sheet';
import { doTask } from './task-process';

const SVG = `<svg xmlns="http://www.w3.org/2000/svg" width="200" height="120">
  <rect width="200" height="120" fill="#fff"/><circle cx="90" cy="60" r="40" fill="#1e4d3f"/></svg>`;

let shop: TestShop;
beforeAll(async () => {
  shop = await openTestShop();
});
afterAll(async () => {
  await endPictureProcesses();
  await shop.close();
});

const begun = (bytes: Uint8Array, name: string) => orderedPiece(shop, bytes, name, 40);

const asked = (piece: Piece, more: Partial<SheetRequest> = {}): SheetRequest => ({
  ...{ revision: piece.revision, paper: 'A4', original: null },
  stops: [
    { title: 'edges', words: '', x: 0.5, y: 0.5 },
    { title: 'mark', words: 'the lower rim', x: 1, y: 1 },
  ],
  trials: [{ id: 'a', evidence: null }],
  ...more,
});

/** Asks for a sheet and makes it. @returns the task when it is over */
async function made(piece: Piece): Promise<SheetTask> {
  const { id } = await requestSheet(shop.db, piece.id, asked(piece));
  const task = await claimTask(shop.db, 'me');
  expect(task?.id).toBe(id);
  await doTask(shop.db, task!, 'me');
  return SheetTask.parse(await readTask(shop.db, id));
}

describe('a comparison sheet', () => {
  it.each([
    ['of pixels', () => testJpeg(160, 100), 'dome.jpg'],
    ['of shapes', () => Promise.resolve(Buffer.from(SVG)), 'badge.svg'],
  ])('is made %s as a task, and kept with its picture', async (_, bytes, name) => {
    const piece = await begun(await bytes(), name);
    const task = await made(piece);
    expect(task.error).toBeNull();
    expect(task).toMatchObject({ state: 'done', progress: 1 });
    const file = artifactOf(task, 'result')!;
    expect(file.fileName).toMatch(/^\d+-grosse-kuppel-comparison\.pdf$/);
    const path = store.named((await artifactPath(shop.db, task.id, 'result'))!);
    const { findings } = await decodePicture({
      ...{ file: path, name: 'sheet.pdf', page: 1, raw: `${path}.none`, thumbnail: null },
    });
    expect(findings).toMatchObject({ format: 'pdf', pages: 1 });
    expect((await readComparing(shop.db, piece.id)).sheets.map(({ id }) => id)).toEqual([task.id]);
  });

  it('is refused where the picture was changed, or a trial is gone', async () => {
    const piece = await begun(await testJpeg(90, 60), 'a.jpg');
    await expect(
      requestSheet(shop.db, piece.id, asked(piece, { revision: piece.revision + 1 })),
    ).rejects.toMatchObject({ kind: 'conflict' });
    const gone = asked(piece, { trials: [{ id: 'gone', evidence: null }] });
    await expect(requestSheet(shop.db, piece.id, gone)).rejects.toThrow(/not there any more/);
    expect((await readComparing(shop.db, piece.id)).sheets).toEqual([]);
  });

  it('that is cancelled leaves nothing', async () => {
    const piece = await begun(await testJpeg(90, 60), 'b.jpg');
    const { id } = await requestSheet(shop.db, piece.id, asked(piece));
    const task = await claimTask(shop.db, 'me');
    await cancelTask(shop.db, id);
    await doTask(shop.db, task!, 'me');
    expect((await readTask(shop.db, id)).state).not.toBe('running');
    const left = await readdir(store.named('results')).catch(() => []);
    expect(left.filter((name) => name.includes('.part'))).toEqual([]);
  });
});
