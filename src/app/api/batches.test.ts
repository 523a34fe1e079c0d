import { writeFile } from 'node:fs/promises';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { BatchHead, ItemsNews, ItemsOutcome } from '@/core/batch/batch';
import { BATCH_PATTERN } from '@/core/output/names';
import { NamedFolders } from '@/core/shop/folders';
import { config } from '@/server/config';
import { openTestShop, testJpeg, type TestShop } from '@/server/testing/shop';
import * as batches from './batches/route';
import * as batch from './batches/[id]/route';
import * as acts from './batches/[id]/acts/route';
import * as items from './batches/[id]/items/route';
import * as restore from './batches/[id]/restore/route';
import * as results from './batches/[id]/results/route';
import * as folders from './folders/route';
import * as piece from './pieces/[id]/route';
import { at, begin, call } from './testing';

let shop: TestShop;
beforeAll(async () => {
  shop = await openTestShop();
});
afterAll(() => shop.close());

const PLAN = {
  size: { by: 'longest', length: { value: 9, unit: 'cm' } },
  ...{ steps: { by: 'proposed' }, ppi: 90, file: null, names: BATCH_PATTERN, folder: null },
};
const post = async (body: unknown) => batches.POST(call('POST', body), at({}));
const begun = async () => BatchHead.parse(await (await post({ name: 'Forty', plan: PLAN })).json());
const of = (id: number | string) => at({ id: String(id) });
const words = async (response: Response) =>
  ((await response.json()) as { message: string }).message;

describe('batches', () => {
  it('are begun, joined, changed and judged, and told row by row', async () => {
    const { id } = await begun();
    const job = await begin(await testJpeg(80, 50));
    const added = await items.POST(call('POST', { pieces: [job.piece.id] }), of(id));
    expect(await added.json()).toBe(1);
    const news = ItemsNews.parse(await (await items.GET(call('GET'), of(id))).json());
    const [row] = news.rows;
    expect(row).toMatchObject({ piece: job.piece.id, state: 'not yet', facts: { ppi: 90 } });
    const act = { act: 'judge', items: [row!.id], judgement: 'good' };
    const outcome = await acts.POST(call('POST', act), of(id));
    expect(ItemsOutcome.parse(await outcome.json())).toMatchObject({ done: 1, failed: [] });
    const known = new Request(`http://127.0.0.1:4310/?items=${news.known.items}&tasks=0`);
    const later = ItemsNews.parse(await (await items.GET(known, of(id))).json());
    expect(later.rows.map(({ judgement }) => judgement)).toEqual(['good']);
    const its = await piece.GET(call('GET'), of(job.piece.id));
    expect(await its.json()).toMatchObject({ id: job.piece.id, revision: 1 });
    const renamed = await batch.PATCH(call('PATCH', { name: 'Monday' }), of(id));
    expect(await renamed.json()).toMatchObject({ name: 'Monday', pictures: 1 });
    expect(await (await batches.GET(call('GET'), at({}))).json()).toHaveLength(1);
    await batch.DELETE(call('DELETE'), of(id));
    expect((await batch.GET(call('GET'), of(id))).status).toBe(404);
    expect((await items.GET(call('GET'), of(id))).status).toBe(404);
    expect((await restore.POST(call('POST'), of(id))).status).toBe(200);
  });

  it.each([
    ['no name', { name: ' ', plan: PLAN }, /name/],
    ['a size that is none', { name: 'x', plan: { ...PLAN, size: { by: 'width' } } }, /length/],
    [
      'pixels for paper',
      { name: 'x', plan: { ...PLAN, size: { by: 'width', length: { value: 9, unit: 'px' } } } },
      /A length on paper/,
    ],
    ['names without a part', { name: 'x', plan: { ...PLAN, names: '{frame}' } }, /no part/],
    ['a path for a folder', { name: 'x', plan: { ...PLAN, folder: 'x'.repeat(90) } }, /folder/],
  ])('with %s are refused in words', async (_, body, why) => {
    const answer = await post(body);
    expect(answer.status).toBe(400);
    expect(await words(answer)).toMatch(why);
  });

  it('answer what they can’t do', async () => {
    const { id } = await begun();
    const many = { act: 'leave', items: Array.from({ length: 101 }, (__, i) => i) };
    expect((await acts.POST(call('POST', many), of(id))).status).toBe(400);
    expect((await acts.POST(call('POST', { act: 'burn', items: [1] }), of(id))).status).toBe(400);
    const nobody = await acts.POST(call('POST', { act: 'leave', items: [999] }), of(id));
    expect(await nobody.json()).toMatchObject({ done: 0, failed: [{ item: 999 }] });
    expect((await items.POST(call('POST', { pieces: [999] }), of(id))).status).toBe(404);
    expect((await results.GET(call('GET'), of(id))).status).toBe(404);
    expect((await batch.GET(call('GET'), of('../1'))).status).toBe(404);
    expect((await batch.PATCH(call('PATCH', { state: 'done' }), of(id))).status).toBe(400);
    expect((await restore.POST(call('POST'), of(4321))).status).toBe(404);
  });
});

describe('folders that the server names', () => {
  it('are told by their names alone; a wrong configuration is said', async () => {
    const get = async () => folders.GET(call('GET'), at({}));
    expect(await (await get()).json()).toEqual({ results: [], watched: [] });
    await writeFile(
      config().folders,
      JSON.stringify({
        results: [{ name: 'Print files', path: '/srv/secret' }],
        drops: [{ name: 'Hot', path: 'hot', size: { by: 'longest', text: '60 cm' } }],
      }),
    );
    const text = await (await get()).text();
    expect(text).not.toContain('secret');
    const { results: named, watched } = NamedFolders.parse(JSON.parse(text));
    expect(named).toEqual(['Print files']);
    expect(watched).toMatchObject([{ name: 'Hot', takenIn: 0, lookedAt: null }]);
    await writeFile(config().folders, '{"results": 3}');
    const wrong = await get();
    expect(wrong.status).toBe(500);
    expect(await words(wrong)).toMatch(/not as it should be at results/);
  });
});
