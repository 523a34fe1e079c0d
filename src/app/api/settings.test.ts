import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { z } from 'zod';
import { Lists, USUAL_MATERIALS, USUAL_SHEETS } from '@/core/shop/lists';
import { PastChange, ShopSettings, USUAL } from '@/core/shop/settings';
import { deleteHouse, listHouse, restoreHouse } from '@/server/db/house';
import { limitsOf } from '@/server/limits';
import { openTestShop, testJpeg, type TestShop } from '@/server/testing/shop';
import * as lists from './lists/route';
import * as settings from './settings/route';
import * as changes from './settings/changes/route';
import { at, begin, call, takenIn, upload } from './testing';

let shop: TestShop;
beforeAll(async () => {
  shop = await openTestShop();
});
afterAll(() => shop.close());

const read = async () => ShopSettings.parse(await (await settings.GET(call('GET'), at({}))).json());
const ask = (body: unknown) => settings.PATCH(call('PATCH', body), at({}));
/** Changes settings as whoever knows them as they are. */
const change = async (changed: unknown, author: unknown = null) => {
  const { change: known } = await read();
  const answer = await ask({ settings: changed, known, author });
  expect(answer.status).toBe(200);
  return ShopSettings.parse(await answer.json());
};
const words = async (answer: Response) => ((await answer.json()) as { message: string }).message;
const past = async () =>
  z.array(PastChange).parse(await (await changes.GET(call('GET'), at({}))).json());

describe('a shop’s settings', () => {
  it('are as usual until somebody decides otherwise, and its lists are among them', async () => {
    expect(await read()).toMatchObject({ settings: USUAL, change: 0 });
    expect(await past()).toEqual([]);
    const materials = [...USUAL_MATERIALS, { name: 'Cotton', distance: 1.5 }];
    const sheets = USUAL_SHEETS.slice(0, 2);
    expect((await change({ materials, sheets, unit: 'in' })).settings).toMatchObject({
      ...{ materials, sheets, unit: 'in', fileNames: USUAL.fileNames },
    });
    const known = Lists.parse(await (await lists.GET(call('GET'), at({}))).json());
    expect(known).toMatchObject({ materials, sheets, unit: 'in' });
    expect(known.devices.length).toBeGreaterThan(0);
  });

  it('keep every change with what was before, and who made it', async () => {
    const author = { browser: 'browser-1', initials: 'AB' };
    const people = [{ initials: 'ab', name: 'Ada' }];
    await change({ people }, author);
    const [last] = await past();
    // Initials are written large.
    const after = [{ initials: 'AB', name: 'Ada' }];
    expect(last).toMatchObject({ name: 'people', before: [], after, author });
    await change({ people: last!.before });
    expect((await read()).settings.people).toEqual([]);
    expect((await past())[0]).toMatchObject({ name: 'people', before: after, author: null });
  });

  it('are not written over by whoever did not see the last change', async () => {
    const { change: known } = await read();
    const early = ask({ settings: { unit: 'mm' }, known });
    expect((await early).status).toBe(200);
    const late = await ask({ settings: { unit: 'ft' }, known });
    expect(late.status).toBe(409);
    expect(await words(late)).toMatch(/Somebody else changed this meanwhile/);
    expect((await read()).settings.unit).toBe('mm');
    // What nobody else touched goes through, and what clashes takes nothing with it.
    expect((await ask({ settings: { batchNames: '{file}' }, known })).status).toBe(200);
    const both = await ask({ settings: { batchNames: '{size}', people: [] }, known });
    expect(both.status).toBe(409);
    expect((await read()).settings.batchNames).toBe('{file}');
    expect((await past())[0]!.name).toBe('batchNames');
  });

  it.each([
    [{ materials: [USUAL_MATERIALS[0], { name: 'PHOTO PAPER, SATIN', distance: 1 }] }, /already/],
    [{ materials: [{ name: ' ', distance: 1 }] }, /materials\.0\.name/],
    [{ sheets: [{ name: 'Endless', width: 0, height: null }] }, /sheets\.0\.width/],
    [{ sheets: [{ name: 'Endless', width: 1e9, height: null }] }, /sheets\.0\.width/],
    [{ people: [{ initials: '', name: '' }] }, /initials/],
    [{ limits: { ...USUAL.limits, keepGb: -1 } }, /keepGb/],
    [{ begin: { ...USUAL.begin, job: { by: 'kept' } } }, /begin\.job/],
    [{ colour: 'red' }, /colour/],
  ])('refuse %j at the field', async (changed, why) => {
    const before = await read();
    const answer = await ask({ settings: changed, known: before.change });
    expect(answer.status).toBe(400);
    expect(await words(answer)).toMatch(why);
    expect(await read()).toEqual(before);
  });

  it('that can’t be read are as usual, each by itself, and their history still stands', async () => {
    await change({ unit: 'm' });
    await shop.db('settings').where({ name: 'unit' }).update({ value: '"cubit"' });
    await shop.db('setting_changes').where({ name: 'unit' }).update({ after: '{broken' });
    const { settings: now } = await read();
    expect(now.unit).toBe('cm');
    expect(now.batchNames).toBe('{file}');
    expect((await past()).find(({ name }) => name === 'unit')).toMatchObject({ after: null });
    await change({ unit: 'cm' });
  });
});

describe('new work', () => {
  it('begins as the shop decided: by a house recipe, and in its format', async () => {
    const [recipe] = await listHouse(shop.db);
    const file = { format: 'jpeg', quality: 81 };
    await change({ begin: { ...USUAL.begin, job: { by: 'house', id: recipe!.id }, file } });
    const { piece } = await begin(await testJpeg(80, 60));
    const [trial] = piece.work.trials;
    expect(trial!.house).toMatchObject({ id: recipe!.id, version: recipe!.version });
    expect(trial!.treatment.map(({ kind }) => kind)).toEqual(
      recipe!.content.treatment.map(({ kind }) => kind),
    );
    expect(trial!.output).toMatchObject(file);
    expect(piece.history[0]!.label).toMatch(new RegExp(`house recipe ${recipe!.name}`));
    expect(piece.reasons).toEqual([]);

    // One that was deleted begins nothing, and that is said.
    await deleteHouse(shop.db, recipe!.id);
    const { piece: next } = await begin(await testJpeg(81, 60));
    expect(next.work.trials[0]!.house).toBeNull();
    expect(next.work.trials[0]!.output).toMatchObject(file);
    expect(next.reasons.length).toBeGreaterThan(0);
    expect(next.history[0]!.label).toMatch(/^Proposed first trial\. .* deleted/);
    await restoreHouse(shop.db, recipe!.id);
    await change({ begin: USUAL.begin });
    const { piece: usual } = await begin(await testJpeg(82, 60));
    expect(usual.work.trials[0]!.output.format).toBe('tiff');
    expect(usual.history[0]!.label).toBe('Proposed first trial');
  });
});

describe('limits', () => {
  it('of the shop lie below those of the server, and never above', async () => {
    const { bounds } = await read();
    await change({ limits: { uploadMb: bounds.uploadMb * 9, pictureMp: 0.004, keepGb: 0.5 } });
    expect(await limitsOf(shop.db)).toEqual({
      ...{ uploadBytes: bounds.uploadMb * 1e6, picturePixels: 4000, keptBytes: 5e8 },
    });
    const large = await upload(await testJpeg(90, 60), 'large.jpg');
    expect(large.status).toBe(422);
    expect(await words(large)).toMatch(
      /large\.jpg says it is 90 x 60 pixels, more than is taken in/,
    );
    expect((await takenIn(await testJpeg(70, 50))).findings.width).toBe(70);
    await change({ limits: { ...USUAL.limits, uploadMb: 0.001 } });
    const heavy = await upload(await testJpeg(200, 150, 95), 'heavy.jpg');
    expect(heavy.status).toBe(422);
    expect(await words(heavy)).toMatch(/heavy\.jpg is larger than 1\.0 kB/);
    await change({ limits: USUAL.limits });
    expect((await upload(await testJpeg(200, 150, 95), 'heavy.jpg')).status).toBe(200);
  });
});
