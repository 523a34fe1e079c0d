import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { JpegCost, TRIED_QUALITIES } from '@/core/evidence/jpeg-cost';
import { KnownProfile, SHIPPED } from '@/core/colour/profiles';
import { ShopSettings } from '@/core/shop/settings';
import { Run } from '@/core/shop/task';
import { database } from '@/server/db/connection';
import { openTestShop, testJpeg, testPixels, type TestShop } from '@/server/testing/shop';
import * as profiles from './profiles/route';
import * as profile from './profiles/[digest]/route';
import * as engine from './engine/[file]/route';
import * as own from './originals/[digest]/pages/[page]/profile/route';
import * as jpegCost from './jpeg-cost/route';
import * as changes from './pieces/[id]/changes/route';
import * as runs from './pieces/[id]/runs/route';
import * as settings from './settings/route';
import { at, begin, call, HOST } from './testing';

let shop: TestShop;
beforeAll(async () => {
  shop = await openTestShop();
});
afterAll(() => shop.close());

const add = async (bytes: Uint8Array, name: string) =>
  profiles.POST(
    new Request(`http://${HOST}/`, {
      method: 'POST',
      headers: { host: HOST, 'x-file-name': encodeURIComponent(name) },
      body: new Uint8Array(bytes),
    }),
    at({}),
  );
const list = async () =>
  KnownProfile.array().parse(await (await profiles.GET(call('GET'), at({}))).json());
const shipped = (file: string) => readFile(join(import.meta.dirname, '../../../profiles', file));

/** A profile of another name, so that the shop doesn't have it. */
async function another(): Promise<Buffer> {
  const bytes = await shipped('uncoated.icc');
  const at = bytes.indexOf('Uncoated paper');
  bytes.write('Matt', at, 'latin1');
  return bytes;
}

describe('the shop’s profiles', () => {
  it('are those that ship; one that is added comes by its digest, and can be taken off', async () => {
    expect(await list()).toHaveLength(Object.keys(SHIPPED).length);
    const bytes = await another();
    const made = KnownProfile.parse(await (await add(bytes, 'matt.icc')).json());
    expect(made).toMatchObject({ space: 'cmyk', added: true });
    expect(made.name).toMatch(/^Matt/);
    expect(await list()).toContainEqual(made);
    // Twice is once.
    expect((await add(bytes, 'again.icc')).status).toBe(200);
    expect((await list()).filter(({ added }) => added)).toHaveLength(1);
    const back = await profile.GET(call('GET'), at({ digest: made.digest }));
    expect(Buffer.from(await back.arrayBuffer()).equals(bytes)).toBe(true);

    expect((await profile.DELETE(call('DELETE'), at({ digest: made.digest }))).status).toBe(200);
    expect((await list()).some(({ added }) => added)).toBe(false);
    // What was made with it can be made again.
    expect((await profile.GET(call('GET'), at({ digest: made.digest }))).status).toBe(200);
    const again = await profile.DELETE(call('DELETE'), at({ digest: made.digest }));
    expect(again.status).toBe(404);
  });

  it('take nothing that is none, and nothing for a path', async () => {
    for (const [bytes, words] of [
      [Buffer.from('no profile at all'), /notes\.icc can't be used as a profile/],
      [(await another()).subarray(0, 4000), /can't be used/],
      [Buffer.alloc(0), /can't be used/],
    ] as const) {
      const answer = await add(bytes, 'notes.icc');
      expect(answer.status).toBe(422);
      expect(((await answer.json()) as { message: string }).message).toMatch(words);
    }
    expect((await list()).some(({ added }) => added)).toBe(false);
    const hostile = await profile.GET(call('GET'), at({ digest: '../../lontano.sqlite' }));
    expect(hostile.status).toBe(404);
    const unknown = await profile.GET(call('GET'), at({ digest: '0'.repeat(64) }));
    expect(unknown.status).toBe(404);
  });

  it('come with the engine that converts by them', async () => {
    const of = (file: string) => engine.GET(call('GET'), at({ file }));
    expect((await of('../package.json')).status).toBe(404);
    expect((await of('lcms.js')).headers.get('Content-Type')).toBe('text/javascript');
    const code = Buffer.from(await (await of('lcms.wasm')).arrayBuffer());
    expect(code.toString('latin1', 0, 4)).toBe('\0asm');
    const { piece } = await begin(await testJpeg(40, 30));
    const none = await own.GET(call('GET'), at({ digest: piece.digest, page: '1' }));
    expect((await none.arrayBuffer()).byteLength).toBe(0);
  });
});

describe('what a JPEG costs', () => {
  const size = { width: 64, height: 48 };
  const rgb = async () => testPixels(size.width, size.height).raw().toBuffer();
  const ask = async (query: string, body: Uint8Array) =>
    jpegCost.POST(
      new Request(`http://${HOST}/?${query}`, {
        method: 'POST',
        headers: { host: HOST },
        body: new Uint8Array(body),
      }),
      at({}),
    );

  it('grows with quality, and its changes shrink', async () => {
    const answer = await ask('width=64&height=48&sampling=4:4:4', await rgb());
    const costs = JpegCost.array().parse(await answer.json());
    expect(costs.map(({ quality }) => quality)).toEqual([...TRIED_QUALITIES]);
    const [first, last] = [costs[0]!, costs.at(-1)!];
    expect(last.bytes).toBeGreaterThan(first.bytes);
    expect(last.psnr).toBeGreaterThan(first.psnr + 5);
    expect(last.blocking).toBeLessThan(first.blocking);
    const coarse = await ask('width=64&height=48&sampling=4:2:0', await rgb());
    expect(JpegCost.array().parse(await coarse.json())[0]!.bytes).toBeLessThan(first.bytes);
  });

  it('comes as a picture of one quality', async () => {
    const answer = await ask('width=64&height=48&sampling=4:2:0&quality=50', await rgb());
    const metadata = await sharp(Buffer.from(await answer.arrayBuffer())).metadata();
    expect(metadata).toMatchObject({ ...size, format: 'jpeg', chromaSubsampling: '4:2:0' });
  });

  it('refuses too many pixels, too few, and another quality', async () => {
    const pixels = await rgb();
    expect((await ask('width=64&height=47&sampling=4:4:4', pixels)).status).toBe(400);
    expect((await ask('width=64&height=49&sampling=4:4:4', pixels)).status).toBe(400);
    expect((await ask('width=4096&height=4096&sampling=4:4:4', pixels)).status).toBe(400);
    expect((await ask('width=64&height=48&sampling=4:4:4&quality=0', pixels)).status).toBe(404);
    expect((await ask('width=64&height=48&sampling=all', pixels)).status).toBe(404);
  });
});

describe('names of results', () => {
  const change = (changed: unknown) =>
    settings.PATCH(call('PATCH', { settings: changed, known: 0 }), at({}));

  it('follow the shop’s pattern, and never two of a job', async () => {
    const answer = await change({ fileNames: '{customer}{size}' });
    expect(ShopSettings.parse(await answer.json()).settings.fileNames).toBe('{customer}{size}');
    const { piece } = await begin(await testJpeg(60, 40, 20));
    const second = structuredClone(piece.work.trials[0]!);
    Object.assign(second, { id: 'b', name: 'Trial B' });
    const patch = [{ op: 'add', path: '/trials/1', value: second }];
    const of = at({ id: String(piece.id) });
    await changes.POST(call('POST', { revision: 0, label: 'B', patch }), of);
    const run = async (trialId: string) =>
      Run.parse(await (await runs.POST(call('POST', { revision: 1, trialId }), of)).json()).payload;
    const first = await run('a');
    expect(first).toMatchObject({ fileName: '20cm.tif', facts: { title: 'A job', size: '20 cm' } });
    expect((await run('b')).fileName).toBe('20cm-2.tif');
    // A picture on the way has a name of its own, and says what it is.
    const onTheWay = await runs.POST(call('POST', { revision: 1, trialId: 'a', after: 0 }), of);
    const { payload } = Run.parse(await onTheWay.json());
    expect(payload.fileName).toBe('20cm-3.tif');
    expect(payload.stage).toMatch(/^after /);
    expect(payload.facts!.trial).toBe(`Trial A ${payload.stage}`);
    const none = await runs.POST(call('POST', { revision: 1, trialId: 'a', after: 31 }), of);
    expect(none.status).toBe(400);
    // The same trial again makes the same file.
    expect((await run('a')).fileName).toBe('20cm.tif');
  });

  it('refuse a part that there is none of, and a record that can’t be read is as usual', async () => {
    const answer = await change({ fileNames: '{order}' });
    expect(answer.status).toBe(400);
    expect(((await answer.json()) as { message: string }).message).toMatch(/no part \{order\}/);
    const db = await database();
    await db('settings').where({ name: 'fileNames' }).update({ value: '{broken' });
    const read = ShopSettings.parse(await (await settings.GET(call('GET'), at({}))).json());
    expect(read.settings.fileNames).toMatch(/^\{job\}/);
  });
});
