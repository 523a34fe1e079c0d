import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Brought, Comparing, Mark } from '@/core/shop/comparing';
import { Stop } from '@/core/stops/stop';
import { DELETED_ROUNDS, deleteJob, purge } from '@/server/db/deleting';
import { openTestShop, testJpeg, type TestShop } from '@/server/testing/shop';
import * as brought from './brought/[id]/route';
import * as mark from './marks/[id]/route';
import * as stops from './originals/[digest]/pages/[page]/stops/route';
import * as bring from './pieces/[id]/brought/route';
import * as comparing from './pieces/[id]/comparing/route';
import * as marks from './pieces/[id]/marks/route';
import * as sweeps from './pieces/[id]/sweeps/route';
import { at, begin, call, HOST, takenIn } from './testing';

let shop: TestShop;
beforeAll(async () => {
  shop = await openTestShop();
});
afterAll(() => shop.close());

const begun = async () => begin(await testJpeg(300, 200));

const read = async (piece: number) =>
  Comparing.parse(await (await comparing.GET(call('GET'), at({ id: String(piece) }))).json());

describe('marks on a picture', () => {
  it('are kept, noted to and taken away, and change nothing of its history', async () => {
    const { piece } = await begun();
    const of = at({ id: String(piece.id) });
    const place = { page: 1, x: 120.5, y: 33, note: '  rim at the screw ' };
    const made = Mark.parse(await (await marks.POST(call('POST', place), of)).json());
    expect(made.note).toBe('rim at the screw');
    const its = at({ id: String(made.id) });
    expect((await mark.PATCH(call('PATCH', { note: 'gone?' }), its)).status).toBe(200);
    expect((await read(piece.id)).marks).toEqual([{ ...made, note: 'gone?' }]);
    expect((await mark.DELETE(call('DELETE'), its)).status).toBe(200);
    expect((await read(piece.id)).marks).toEqual([]);
    const again = await mark.PATCH(call('PATCH', { note: '' }), its);
    expect(again.status).toBe(404);
    expect(((await again.json()) as { message: string }).message).toMatch(/not there any more/);
    expect((await mark.DELETE(call('DELETE'), its)).status).toBe(404);
  });

  it('are refused where they make no sense, and beyond a number', async () => {
    const { piece } = await begun();
    const of = at({ id: String(piece.id) });
    const place = { page: 1, x: 1, y: 1 };
    for (const wrong of [{ x: -1 }, { y: 1e9 }, { page: 0 }, { note: 'n'.repeat(201) }]) {
      expect((await marks.POST(call('POST', { ...place, ...wrong }), of)).status).toBe(400);
    }
    expect((await marks.POST(call('POST', place), at({ id: '99999' }))).status).toBe(404);
    for (let i = 0; i < 200; i++) await marks.POST(call('POST', place), of);
    const more = await marks.POST(call('POST', place), of);
    expect(more.status).toBe(400);
    expect(((await more.json()) as { message: string }).message).toMatch(/200 marks at most/);
  });
});

describe('what was seen', () => {
  it('of the same result comes together from all tabs; another result begins anew', async () => {
    const { piece } = await begun();
    const of = at({ id: String(piece.id) });
    const seen = (byte: number) => Buffer.from([byte]).toString('base64');
    const sweep = { trial: 'a', state: 'one', columns: 4, rows: 2 };
    const put = (more: object) => sweeps.PUT(call('PUT', { ...sweep, ...more }), of);
    expect((await put({ seen: seen(0b0011) })).status).toBe(200);
    await put({ seen: seen(0b1010) });
    expect((await read(piece.id)).sweeps).toEqual([{ ...sweep, seen: seen(0b1011) }]);
    await put({ state: 'other', seen: seen(0b0100) });
    expect((await read(piece.id)).sweeps).toEqual([
      { ...sweep, state: 'other', seen: seen(0b0100) },
    ]);
    expect((await put({ seen: Buffer.alloc(2).toString('base64') })).status).toBe(400);
    expect((await put({ seen: 'not base64!' })).status).toBe(400);
    expect((await put({ columns: 0, seen: seen(1) })).status).toBe(400);
  });
});

describe('pictures brought from outside', () => {
  it('stand beside a picture once, are kept as long as it is, and can be put away', async () => {
    const { id, piece } = await begun();
    const of = at({ id: String(piece.id) });
    const outside = await takenIn(await testJpeg(600, 400), 'their attempt.jpg');
    const body = { digest: outside.digest, fileName: outside.fileName };
    const first = Brought.parse(await (await bring.POST(call('POST', body), of)).json());
    const second = Brought.parse(await (await bring.POST(call('POST', body), of)).json());
    expect(second.id).toBe(first.id);
    expect(first.findings).toMatchObject({ width: 600, height: 400 });
    // However long: what is compared with is in use.
    await purge(shop.db, 10 * 7 * 144);
    expect((await read(piece.id)).brought).toEqual([first]);
    expect((await brought.DELETE(call('DELETE'), at({ id: String(first.id) }))).status).toBe(200);
    expect((await read(piece.id)).brought).toEqual([]);
    expect((await brought.DELETE(call('DELETE'), at({ id: String(first.id) }))).status).toBe(404);

    // What goes with its job leaves nothing behind.
    await bring.POST(call('POST', body), of);
    await marks.POST(call('POST', { page: 1, x: 1, y: 1 }), of);
    await deleteJob(shop.db, id);
    const { originals: gone } = await purge(shop.db, DELETED_ROUNDS + 1);
    expect(gone).toContain(outside.digest);
    for (const table of ['marks', 'brought', 'sweeps']) {
      expect(await shop.db(table).where({ piece_id: piece.id })).toEqual([]);
    }
  });

  it('are refused where nobody took them in, or they have no pixels', async () => {
    const { piece } = await begun();
    const of = at({ id: String(piece.id) });
    const unknown = { digest: 'f'.repeat(64), fileName: 'x.jpg' };
    expect((await bring.POST(call('POST', unknown), of)).status).toBe(404);
    const svg =
      '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><rect width="9" height="9"/></svg>';
    const shapes = await takenIn(Buffer.from(svg), 'logo.svg');
    const body = { digest: shapes.digest, fileName: shapes.fileName };
    const refused = await bring.POST(call('POST', body), of);
    expect(refused.status).toBe(422);
    expect(((await refused.json()) as { message: string }).message).toMatch(/no pixels to compare/);
  });
});

describe('places of a picture that are worth a look', () => {
  const placesOf = (digest: string, part: object, page = '1') => {
    const asked = new URLSearchParams(
      Object.entries(part).map(([key, value]) => [key, String(value)]),
    );
    const request = new Request(`http://${HOST}/?${asked}`, { headers: { host: HOST } });
    return stops.GET(request, at({ digest, page }));
  };

  it('are found where its pixels lie, within what is asked for', async () => {
    const { digest } = await takenIn(await testJpeg(300, 200));
    const all = Stop.array().parse(
      await (await placesOf(digest, { x: 0, y: 0, width: 300, height: 200 })).json(),
    );
    expect(all.length).toBeGreaterThan(0);
    const within = { x: 150, y: 60, width: 130, height: 130 };
    const some = Stop.array().parse(await (await placesOf(digest, within)).json());
    for (const { x, y } of some) {
      expect(x >= 150 && x < 280 && y >= 60 && y < 190).toBe(true);
    }
  });

  it('are refused beside it, and of shapes', async () => {
    const { digest } = await takenIn(await testJpeg(300, 200));
    for (const wrong of [{ x: 300 }, { x: -1 }, { width: 0 }, { width: 'wide' }]) {
      const part = { x: 0, y: 0, width: 10, height: 10, ...wrong };
      expect((await placesOf(digest, part)).status).toBe(404);
    }
    const part = { x: 0, y: 0, width: 10, height: 10 };
    expect((await placesOf('0'.repeat(64), part)).status).toBe(404);
    expect((await placesOf(digest, part, '2')).status).toBe(422);
    const svg =
      '<svg xmlns="http://www.w3.org/2000/svg" width="40" height="40"><rect width="9" height="9"/></svg>';
    const drawn = await takenIn(Buffer.from(svg), 'a.svg');
    const answer = await placesOf(drawn.digest, part);
    expect(answer.status).toBe(404);
    expect(((await answer.json()) as { message: string }).message).toMatch(/no pixels/);
  });
});
