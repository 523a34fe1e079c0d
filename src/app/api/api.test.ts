import { createHash } from 'node:crypto';
import { gzipSync } from 'node:zlib';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Maps } from '@/core/inspect/findings';
import { Lists } from '@/core/shop/lists';
import { ALL_MODELS } from '@/core/learned/models';
import { ShopState } from '@/core/shop/audit';
import { BoardPage } from '@/core/shop/board';
import { JobView, Piece } from '@/core/shop/job';
import { Run, Task, TaskEvent } from '@/core/shop/task';
import { testPaper } from '@/core/testing';
import { route } from '@/server/http/route';
import { openTestShop, testJpeg, testPixels, type TestShop } from '@/server/testing/shop';
import * as events from './events/route';
import * as jobs from './jobs/route';
import * as job from './jobs/[id]/route';
import * as pieces from './jobs/[id]/pieces/route';
import * as restore from './jobs/[id]/restore/route';
import * as shopRoute from './shop/route';
import * as audits from './shop/audit/route';
import * as lists from './lists/route';
import * as masks from './masks/[digest]/route';
import * as models from './models/route';
import * as model from './models/[digest]/route';
import { throughputOf } from '@/core/render/throughput';
import * as pace from './throughput/route';
import * as drawn from './originals/[digest]/pages/[page]/drawn/route';
import * as maps from './originals/[digest]/pages/[page]/maps/route';
import * as screen from './originals/[digest]/pages/[page]/screen/route';
import * as thumbnail from './originals/[digest]/pages/[page]/thumbnail/route';
import * as tiles from './originals/[digest]/pages/[page]/tiles/[level]/[x]/[y]/route';
import * as changes from './pieces/[id]/changes/route';
import * as moves from './pieces/[id]/moves/route';
import * as runs from './pieces/[id]/runs/route';
import * as cancel from './tasks/[id]/cancel/route';
import * as taskById from './tasks/[id]/route';
import * as openTasks from './tasks/route';
import * as file from './tasks/[id]/artifacts/[role]/route';
import { at, begin, call, HOST, takenIn, upload } from './testing';

let shop: TestShop;
beforeAll(async () => {
  shop = await openTestShop();
});
afterAll(() => shop.close());

describe('the way of a job over HTTP', () => {
  it('goes from an upload to a job, its changes, and a queued run', async () => {
    const begun = await begin(await testJpeg(300, 200), 'Käse "1" <b>.jpg');
    expect(begun.piece.fileName).toBe('Käse "1" <b>.jpg');
    const { rows } = BoardPage.parse(await (await jobs.GET(call('GET'), at({}))).json());
    expect(rows.map((one) => one.id)).toContain(begun.id);

    const patch = [{ op: 'replace', path: '/trials/0/ppi', value: 90 }];
    const pieceAt = at({ id: String(begun.piece.id) });
    const changed = await changes.POST(
      call('POST', { revision: 0, label: '90 ppi', patch }),
      pieceAt,
    );
    expect(Piece.parse(await changed.json())).toMatchObject({ revision: 1 });
    const stale = await changes.POST(call('POST', { revision: 0, label: 'late', patch }), pieceAt);
    expect(stale.status).toBe(409);
    expect(await stale.json()).toMatchObject({ facts: { revision: 1 } });
    const undone = await moves.POST(
      call('POST', { revision: 1, to: begun.piece.current }),
      pieceAt,
    );
    expect(Piece.parse(await undone.json()).work.trials[0]!.ppi).toBe(160);

    const queued = Run.parse(
      await (await runs.POST(call('POST', { revision: 2, trialId: 'a' }), pieceAt)).json(),
    );
    expect(queued.state).toBe('queued');
    const noFile = await file.GET(call('GET'), at({ id: queued.id, role: 'result' }));
    expect(noFile.status).toBe(404);
    const stopped = await cancel.POST(call('POST'), at({ id: queued.id }));
    expect(Run.parse(await stopped.json()).state).toBe('cancelled');
    const now = await job.GET(call('GET'), at({ id: String(begun.id) }));
    expect(JobView.parse(await now.json())).toMatchObject({
      state: 'on the bench',
      runs: [{ state: 'cancelled' }],
    });
  });

  it('hands the preview the very samples of the original, in tiles', async () => {
    const bytes = await testPixels(300, 200).png().toBuffer();
    const { piece } = await begin(bytes, 'exact.png');
    const tile = async (x: string, y: string, level = '0') =>
      tiles.GET(call('GET'), at({ digest: piece.digest, page: '1', level, x, y }));
    const expected = await sharp(bytes)
      .extract({ left: 256, top: 0, width: 44, height: 200 })
      .raw()
      .toBuffer();
    expect(Buffer.from(await (await tile('1', '0')).arrayBuffer()).equals(expected)).toBe(true);
    for (const [x, y] of [
      ['2', '0'],
      ['0', '9'],
      ['-1', '0'],
      ['1e9', '0'],
    ] as const) {
      expect((await tile(x, y)).status).toBe(404);
    }
    const halved = Buffer.from(await (await tile('0', '0', '1')).arrayBuffer());
    expect(halved.length).toBe(150 * 100 * 3);
    expect((await tile('0', '0', '7')).status).toBe(404);
    const small = await thumbnail.GET(call('GET'), at({ digest: piece.digest, page: '1' }));
    expect(small.headers.get('content-type')).toBe('image/png');
  });

  it('draws tiles of shapes at the size that is asked for, and nothing else', async () => {
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="100" height="50"><rect width="50" height="50" fill="#f00"/><rect x="50" width="50" height="50" fill="#00f"/></svg>`;
    const { piece } = await begin(Buffer.from(svg), 'flag.svg');
    expect(piece.findings.vector).not.toBeNull();
    const { width: w, height: h } = piece.findings;
    const drawnTile = (change: object = {}) => {
      const asked = { width: 2000, height: 1000, x: 0, y: 0, w, h, turn: 0, channels: 3 };
      const words = Object.entries({ ...asked, column: 4, row: 0, ...change });
      const address = words.map(([key, value]) => `${key}=${value}`).join('&');
      const request = new Request(`http://${HOST}/?${address}`, { headers: { host: HOST } });
      return drawn.GET(request, at({ digest: piece.digest, page: '1' }));
    };
    const tile = Buffer.from(await (await drawnTile()).arrayBuffer());
    expect(tile.length).toBe(256 * 256 * 3);
    expect([...tile.subarray(0, 3)]).toEqual([0, 0, 255]);
    expect(Buffer.from(await (await drawnTile({ column: 3 })).arrayBuffer())[0]).toBe(255);
    // It has no pixels of its own.
    const level = at({ digest: piece.digest, page: '1', level: '0', x: '0', y: '0' });
    expect((await tiles.GET(call('GET'), level)).status).toBe(404);
    for (const wrong of [{ column: 8 }, { width: 0 }, { w: -1 }, { turn: 45 }, { width: 1e9 }]) {
      expect((await drawnTile(wrong)).status).toBe(404);
    }
  });

  it('tells how colours look on a screen, and where the picture is sharp', async () => {
    const wide = await testPixels(300, 200).withIccProfile('p3').png().toBuffer();
    const { piece } = await begin(wide, 'wide.png');
    const page = at({ digest: piece.digest, page: '1' });
    const table = await (await screen.GET(call('GET'), page)).arrayBuffer();
    expect(table.byteLength).toBe(65 ** 3 * 3);
    const found = Maps.parse(await (await maps.GET(call('GET'), page)).json());
    expect(found).toMatchObject({ columns: 4, rows: 3 });
    expect(found.blocks).toHaveLength(12);
    const plain = await begin(await testJpeg(80, 60));
    const none = await screen.GET(call('GET'), at({ digest: plain.piece.digest, page: '1' }));
    expect((await none.arrayBuffer()).byteLength).toBe(0);
  });

  it('holds several pictures in a job, adds more, and leaves for the archive', async () => {
    const first = await begin(await testJpeg(90, 60));
    const more = await takenIn(await testJpeg(70, 50), 'b.jpg');
    const jobAt = at({ id: String(first.id) });
    const added = await pieces.POST(
      call('POST', { pictures: [{ digest: more.digest, fileName: 'b.jpg' }] }),
      jobAt,
    );
    const both = JobView.parse(await added.json());
    expect(both.pieces.map((piece) => piece.fileName)).toEqual(['picture.jpg', 'b.jpg']);
    expect(both.piece).toMatchObject({ fileName: 'b.jpg', jobId: first.id });
    expect(both.piece.work.paper.width).toEqual({ value: 20, unit: 'cm' });
    const again = JobView.parse(await (await job.GET(call('GET'), jobAt)).json());
    expect(again.piece.id).toBe(first.piece.id);
    await job.PATCH(call('PATCH', { archived: true, title: 'Kept' }), jobAt);
    const archive = new Request(`http://${HOST}/?archived=1`, { headers: { host: HOST } });
    const { rows } = BoardPage.parse(await (await jobs.GET(archive, at({}))).json());
    expect(rows.find((one) => one.id === first.id)).toMatchObject({
      archived: true,
      pieces: 2,
      title: 'Kept',
    });
  });

  it('knows the shop’s lists, and a device sets the resolution', async () => {
    const known = Lists.parse(await (await lists.GET(call('GET'), at({}))).json());
    const device = known.devices[0]!;
    const taken = await takenIn(await testJpeg(60, 44), 'c.jpg');
    const answer = await jobs.POST(
      call('POST', {
        title: 'With a device',
        customer: '',
        due: null,
        pictures: [{ digest: taken.digest, fileName: 'c.jpg' }],
        paper: testPaper(),
        distance: 2,
        device: device.name,
      }),
      at({}),
    );
    const { work } = JobView.parse(await answer.json()).piece;
    expect(work).toMatchObject({ device: device.name, trials: [{ ppi: device.ppi }] });
    expect(await (await pace.GET(call('GET'), at({}))).json()).toEqual(throughputOf([]));
  });

  /** Follows what the shop tells, until it is stopped. */
  const listen = async () => {
    const stop = new AbortController();
    const answer = await events.GET(
      new Request(`http://${HOST}/`, { signal: stop.signal }),
      at({}),
    );
    return { stop, reader: answer.body!.pipeThrough(new TextDecoderStream()).getReader() };
  };

  it('tells of runs as they change', async () => {
    const { piece, id } = await begin(await testJpeg(64, 48));
    const { stop, reader } = await listen();
    const heard = async () => {
      for (let text = ''; ;) {
        const { value } = await reader.read();
        text += value;
        const data = /event: task\ndata: (.*)\n\n/.exec(text);
        if (!data) continue;
        // Which, its place, its state and share: nothing that grows with the recipe.
        const told = TaskEvent.strict().parse(JSON.parse(data[1]!));
        if (told.jobId === id) return told;
        text = '';
      }
    };
    await runs.POST(call('POST', { revision: 0, trialId: 'a' }), at({ id: String(piece.id) }));
    const run = await heard();
    expect(run).toMatchObject({ pieceId: piece.id, state: 'queued' });
    const asked = await taskById.GET(call('GET'), at({ id: run.id }));
    expect(Run.parse(await asked.json())).toMatchObject({ payload: { trialName: 'Trial A' } });
    const open = Task.array().parse(await (await openTasks.GET(call('GET'), at({}))).json());
    expect(open.map((one) => one.id)).toContain(run.id);
    await cancel.POST(call('POST'), at({ id: run.id }));
    expect((await heard()).state).toBe('cancelled');
    stop.abort();
  });

  it('tells which jobs changed, and by whom when that is asked', async () => {
    const { piece, id } = await begin(await testJpeg(64, 48));
    const { stop, reader } = await listen();
    const heard = async () => {
      for (let text = ''; ;) {
        text += (await reader.read()).value;
        const told = [...text.matchAll(/event: job\ndata: (\d+)\n\n/g)];
        if (told.some(([, which]) => Number(which) === id)) return;
      }
    };
    const author = { browser: 'press-room-1', initials: 'mk' };
    const patch = [{ op: 'replace', path: '/distance', value: 7 }];
    await changes.POST(
      call('POST', { revision: 0, label: '7 m', patch, author }),
      at({ id: String(piece.id) }),
    );
    await heard();
    const { piece: now } = JobView.parse(
      await (await job.GET(call('GET'), at({ id: `${id}` }))).json(),
    );
    expect(now.author).toEqual({ ...author, initials: 'MK' });
    expect(now.history.map((one) => one.author?.initials)).toEqual([undefined, 'MK']);
    await job.PATCH(call('PATCH', { customer: 'A neighbour' }), at({ id: `${id}` }));
    await heard();
    const wrong = { browser: 'x', initials: 'mk' };
    const refused = await changes.POST(
      call('POST', { revision: 1, label: '8 m', patch, author: wrong }),
      at({ id: String(piece.id) }),
    );
    expect(refused.status).toBe(400);
    stop.abort();
  });
});

describe('bad calls', () => {
  it('are answered with a sentence and the right status', async () => {
    const answers: [Promise<Response>, number, RegExp][] = [
      [upload(Buffer.from('nothing of a picture'), 'a.jpg'), 422, /not a picture/],
      [jobs.POST(call('POST', { title: '' }), at({})), 400, /paper|title/],
      [
        jobs.POST(new Request(`http://${HOST}/`, { method: 'POST', body: '{' }), at({})),
        400,
        /not JSON/,
      ],
      [job.GET(call('GET'), at({ id: '77777' })), 404, /no such job/],
      [job.GET(call('GET'), at({ id: '../1' })), 404, /nothing at this address/],
      [
        thumbnail.GET(call('GET'), at({ digest: '../../lontano.sqlite', page: '1' })),
        404,
        /no such/,
      ],
      [file.GET(call('GET'), at({ id: '../lontano.sqlite', role: 'result' })), 404, /no such run/],
      [
        changes.POST(
          call('POST', { revision: 0, label: 'x', patch: [{ op: 'move', path: '/a' }] }),
          at({ id: '1' }),
        ),
        400,
        /patch/,
      ],
      [
        jobs.POST(call('POST', {}, { origin: 'http://elsewhere.example' }), at({})),
        400,
        /another site/,
      ],
    ];
    for (const [answer, status, words] of answers) {
      const response = await answer;
      expect(response.status).toBe(status);
      expect((await response.json()).message).toMatch(words);
    }
  });

  it('of settings out of range are refused at the field', async () => {
    const { piece } = await begin(await testJpeg(80, 60));
    const patch = [{ op: 'replace', path: '/trials/0/treatment/0/strength', value: 400 }];
    const answer = await changes.POST(
      call('POST', { revision: 0, label: 'x', patch }),
      at({ id: String(piece.id) }),
    );
    expect(answer.status).toBe(400);
    expect((await answer.json()).message).toMatch(/strength/);
  });
});

describe('calls that nobody at a page would make', () => {
  const pageOf = (piece: Piece, page: string) => at({ digest: piece.digest, page });

  it('are answered in words, and change nothing', async () => {
    const begun = await begin(await testJpeg(81, 60));
    const { piece } = begun;
    const jobAt = at({ id: String(begun.id) });
    const twice = [{ op: 'add', path: '/trials/-', value: piece.work.trials[0] }];
    const answers: [Promise<Response>, number, RegExp][] = [
      [job.PATCH(call('PATCH', {}), jobAt), 400, /nothing that is to be changed/],
      [maps.GET(call('GET'), pageOf(piece, '0')), 404, /counted from 1/],
      [
        changes.POST(
          call('POST', { revision: 0, label: 'twice', patch: twice }),
          at({ id: String(piece.id) }),
        ),
        400,
        /two trials have the same letter/,
      ],
      [restore.POST(call('POST'), at({ id: '99999' })), 404, /gone for good/],
      [job.DELETE(call('DELETE'), at({ id: '99999' })), 404, /no such job/],
    ];
    for (const [answer, status, words] of answers) {
      const response = await answer;
      expect((await response.json()).message).toMatch(words);
      expect(response.status).toBe(status);
    }
    const now = JobView.parse(await (await job.GET(call('GET'), jobAt)).json());
    expect(now.piece).toEqual(piece);
  });

  it('for a file’s head leave nothing open that nobody reads', async () => {
    let given = 0;
    let open = true;
    const large = route(() =>
      Promise.resolve(
        new Response(
          new ReadableStream<Uint8Array>({
            pull: (controller) => controller.enqueue(new Uint8Array(++given)),
            cancel: () => void (open = false),
          }),
          { headers: { 'Content-Type': 'image/tiff' } },
        ),
      ),
    );
    const head = await large(call('HEAD'), at({}));
    expect(head.headers.get('content-type')).toBe('image/tiff');
    expect(head.body).toBeNull();
    expect(open).toBe(false);
    expect(given).toBeLessThan(3);
    const whole = await large(call('GET'), at({}));
    expect((await whole.body!.getReader().read()).done).toBe(false);
  });

  it('of any length are read no farther than their bound', async () => {
    let sent = 0;
    const endless = new ReadableStream<Uint8Array>({
      pull: (controller) => {
        sent++;
        controller.enqueue(new Uint8Array(64 * 1024).fill(32));
      },
    });
    const request = new Request(`http://${HOST}/`, {
      ...{ method: 'POST', headers: { host: HOST }, body: endless, duplex: 'half' },
    } as RequestInit);
    const answer = await jobs.POST(request, at({}));
    expect(answer.status).toBe(400);
    expect((await answer.json()).message).toMatch(/too large/);
    expect(sent).toBeLessThan(40);
  });

  it('with a drawing of nothing are refused, and leave nothing that can not be read', async () => {
    for (const box of ['0 0 0 50', '0 0 -20 50', '5 5 10 0']) {
      const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="${box}" width="90" height="50"/>`;
      const answer = await upload(Buffer.from(svg), 'nothing.svg');
      expect(answer.status).toBe(422);
      expect((await answer.json()).message).toMatch(/in which there is nothing/);
    }
  });
});

describe('a job that is deleted', () => {
  it('is off the board, and comes back with all it had', async () => {
    const begun = await begin(await testJpeg(82, 60));
    const jobAt = at({ id: String(begun.id) });
    const onBoard = async () =>
      BoardPage.parse(await (await jobs.GET(call('GET'), at({}))).json()).rows.some(
        ({ id }) => id === begun.id,
      );
    expect(await onBoard()).toBe(true);
    expect((await job.DELETE(call('DELETE'), jobAt)).status).toBe(200);
    expect(await onBoard()).toBe(false);
    expect((await job.GET(call('GET'), jobAt)).status).toBe(404);
    const back = JobView.parse(await (await restore.POST(call('POST'), jobAt)).json());
    expect(back).toEqual(begun);
    expect(await onBoard()).toBe(true);
  });
});

describe('the shop', () => {
  it('says how much room there is, and what the last audit found', async () => {
    await begin(await testJpeg(84, 60));
    const before = ShopState.parse(await (await shopRoute.GET(call('GET'), at({}))).json());
    expect(before).toMatchObject({ news: null, audit: null, auditing: false });
    const asked = await audits.POST(call('POST'), at({}));
    expect(ShopState.parse(await asked.json()).auditing).toBe(true);
    await expect
      .poll(
        async () => ShopState.parse(await (await shopRoute.GET(call('GET'), at({}))).json()).audit,
        { timeout: 30_000 },
      )
      .toMatchObject({ found: [] });
    const measured = async () =>
      ShopState.parse(await (await shopRoute.GET(call('GET'), at({}))).json()).disk;
    await expect
      .poll(async () => (await measured()).originals, { timeout: 30_000 })
      .toBeGreaterThan(500);
    expect((await measured()).again).toBeGreaterThan(1000);
  });

  it('says that its disk is full, where the database finds no room', async () => {
    const full = route(() => {
      throw Object.assign(new Error('database or disk is full'), { code: 'SQLITE_FULL' });
    });
    const answer = await full(call('GET'), at({}));
    expect(answer.status).toBe(507);
    expect((await answer.json()).message).toMatch(/disk is full/);
  });

  it('shows a job whose record is damaged as such, and all others as ever', async () => {
    const other = await begin(await testJpeg(85, 60));
    const begun = await begin(await testJpeg(83, 60));
    await shop.db('pieces').where({ id: begun.piece.id }).update({ work: '{"version":4}' });
    await shop.db('board').where({ job_id: begun.id }).increment('changes');
    const { rows } = BoardPage.parse(await (await jobs.GET(call('GET'), at({}))).json());
    expect(rows.find(({ id }) => id === begun.id)?.facts.verdict?.short).toMatch(/damaged/);
    expect(rows.find(({ id }) => id === other.id)?.facts.ppi).toBeGreaterThan(1);
    await shop
      .db('pieces')
      .where({ id: begun.piece.id })
      .update({ work: JSON.stringify(begun.piece.work) });
  });
});

describe('what is painted', () => {
  const bytes = new Uint8Array(2 * 20 * 10).map((_, i) => i % 251);
  const digest = createHash('sha256').update(bytes).digest('hex');
  const address = (sides: string) => `http://${HOST}/api/masks/${digest}?${sides}`;
  const put = (body: Uint8Array, sides = 'width=20&height=10', name = digest) =>
    masks.PUT(
      new Request(address(sides), {
        method: 'PUT',
        headers: { host: HOST },
        body: new Uint8Array(body),
      }),
      at({ digest: name }),
    );
  const get = (sides: string, name = digest) =>
    masks.GET(new Request(address(sides), { headers: { host: HOST } }), at({ digest: name }));

  it('is kept by its digest and comes back as it went', async () => {
    expect((await put(gzipSync(bytes))).status).toBe(200);
    const answer = await get('width=20&height=10');
    expect(answer.status).toBe(200);
    expect(answer.headers.get('cache-control')).toMatch(/immutable/);
    expect(new Uint8Array(await answer.arrayBuffer())).toEqual(bytes);
  });

  it.each<[string, () => Promise<Response>, number, RegExp]>([
    ['of the wrong size', () => put(gzipSync(bytes), 'width=21&height=10'), 422, /21 x 10/],
    ['larger than any mask', () => put(gzipSync(bytes), 'width=9000&height=9'), 404, /nothing/],
    ['without a size', () => get(''), 404, /nothing/],
    [
      'under another name',
      () => put(gzipSync(bytes), 'width=20&height=10', 'f'.repeat(64)),
      422,
      /whole/,
    ],
    ['that nobody kept', () => get('width=20&height=10', 'e'.repeat(64)), 404, /not here/],
    ['by a path', () => get('width=20&height=10', '../../etc/passwd'), 404, /nothing/],
    ['beyond what a mask can be', () => put(new Uint8Array(37 << 20)), 400, /too large/],
  ])('%s is answered in words', async (_, call_, status, words) => {
    const answer = await call_();
    expect(answer.status).toBe(status);
    expect((await answer.json()).message).toMatch(words);
  });
});

describe('models over HTTP', () => {
  const get = (name: string) => model.GET(call('GET'), at({ digest: name }));

  it('say which can be used, and come by their digest', async () => {
    expect(await (await models.GET(call('GET'), at({}))).json()).toEqual(ALL_MODELS);
    const answer = await get(ALL_MODELS.noise!);
    const bytes = new Uint8Array(await answer.arrayBuffer());
    expect(createHash('sha256').update(bytes).digest('hex')).toBe(ALL_MODELS.noise);
  });

  it.each(['0'.repeat(64), '../package.json', 'README.md'])('%s is not here', async (name) => {
    const answer = await get(name);
    expect(answer.status).toBe(404);
    expect((await answer.json()).message).toMatch(/not here/);
  });
});
