import { fork } from 'node:child_process';
import { appendFile, mkdir, readdir, readFile, rm, symlink, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { readBatch } from '../batch/batches';
import { itemsNews } from '../batch/rows';
import { config } from '../config';
import { headOfJob } from '../db/jobs';
import { readPiece } from '../db/pieces';
import { entryOf } from '../entry';
import { readFolders, type Drop } from '../folders/folders';
import { openTestShop, testJpeg, type TestShop } from '../testing/shop';
import { lookAt } from './drop-process';
import { Settled } from './settled';
import { ASIDE, TAKEN } from './take-from';

let shop: TestShop;
let folder: string;
let drop: Drop;
let settled: Settled;
let now = 0;
let pictures = 0;
let drops = 0;

const written = (more: object = {}) => ({
  ...{ name: `Hot folder ${drops}`, path: `hot ${drops}`, recipe: 'proposed', make: false },
  ...{ size: { by: 'longest', text: '8 cm' }, customer: 'Walk-in', ...more },
});

const configure = async (more: object = {}, results: object[] = []) => {
  const drop = written(more);
  await writeFile(config().folders, JSON.stringify({ results, drops: [drop] }));
  return (await readFolders()).drops[0]!;
};

beforeAll(async () => {
  shop = await openTestShop();
});
afterAll(() => shop.close());
beforeEach(async () => {
  drops++;
  drop = await configure();
  folder = drop.path;
  await mkdir(folder, { recursive: true });
  settled = new Settled(folder, 1000);
});

const put = async (name: string, bytes?: Buffer | string) =>
  writeFile(join(folder, name), bytes ?? (await testJpeg(60 + ++pictures, 40, 70)));
/** Looks twice, as long apart as files have to stand still. */
async function look(): Promise<void> {
  await lookAt(shop.db, drop, settled, (now += 10));
  await lookAt(shop.db, drop, settled, (now += 1500));
}
const within = async (name: string) =>
  (await readdir(join(folder, name)).catch(() => [] as string[])).sort();
const state = () => shop.db('drops').where({ name: drop.name }).first();
const itemsOf = async () => {
  const { batch_id: batch } = await state();
  return (await itemsNews(shop.db, batch, { items: 0, tasks: 0 })).rows;
};

describe('a watched folder', () => {
  it('takes files once they stop growing: each a job, planned by the folder’s rule', async () => {
    await put('dome.jpg');
    await lookAt(shop.db, drop, settled, (now += 10));
    expect(await within(TAKEN)).toEqual([]);
    await appendFile(join(folder, 'dome.jpg'), '');
    await writeFile(join(folder, 'growing.jpg'), (await testJpeg(300, 200)).subarray(0, 500));
    await lookAt(shop.db, drop, settled, (now += 600));
    await appendFile(join(folder, 'growing.jpg'), 'more');
    await lookAt(shop.db, drop, settled, (now += 600));
    expect(await within(TAKEN)).toEqual(['dome.jpg']);
    expect(await within('.')).toContain('growing.jpg');
    const [item] = await itemsOf();
    expect(item).toMatchObject({ fileName: 'dome.jpg', state: 'not yet' });
    expect(item!.facts.pixels!.width).toBe(504);
    expect(await headOfJob(shop.db, item!.jobId)).toMatchObject({
      ...{ title: 'dome', customer: 'Walk-in' },
    });
    expect(await state()).toMatchObject({ taken_in: 1, put_aside: 0, trouble: null });
  });

  it('does as lists beside the files say; what these say wrong puts their files aside', async () => {
    await put('one.jpg');
    await put('two.jpg');
    await put('three.jpg');
    await put('four.jpg');
    await put(
      'orders.csv',
      '\ufefffile;customer;size;material;due\none.jpg;Observatory;"6,5 x 4 cm";Canvas;2027-01-15\ntwo;;wide;;\nthree.jpg;;;;soon\nlate.jpg;;;;\n',
    );
    await put('four.jpg.json', JSON.stringify({ title: 'Gate', note: 'By hand', size: '5 cm' }));
    await look();
    const items = await itemsOf();
    expect(items.map(({ fileName }) => fileName)).toEqual(['four.jpg', 'one.jpg']);
    const [four, one] = items;
    expect(one!.facts.print).toBe('6.5 × 4 cm');
    expect(await headOfJob(shop.db, one!.jobId)).toMatchObject({
      ...{ customer: 'Observatory', due: '2027-01-15' },
    });
    expect((await readPiece(shop.db, one!.piece)).work.material).toBe('Canvas');
    expect(four!.facts.print).toMatch(/^5 ×/);
    expect(await headOfJob(shop.db, four!.jobId)).toMatchObject({ title: 'Gate', note: 'By hand' });
    expect(await within(ASIDE)).toEqual(['three.jpg', 'three.jpg.txt', 'two.jpg', 'two.jpg.txt']);
    expect(await readFile(join(folder, ASIDE, 'two.jpg.txt'), 'utf8')).toMatch(
      /“wide” can't be used/,
    );
    expect(await readFile(join(folder, ASIDE, 'three.jpg.txt'), 'utf8')).toMatch(
      /orders\.csv: due/,
    );
    // The list waits for the file that has not come yet.
    expect(await within('.')).toContain('orders.csv');
    expect(await within(TAKEN)).toEqual(['four.jpg', 'four.jpg.json', 'one.jpg']);
    await put('late.jpg');
    await look();
    expect(await within(TAKEN)).toContain('orders.csv');
  });

  it.each([
    ['letter.txt', 'Dear printers', /not a picture/],
    ['cut.jpg', 'CUT', /Ask for the file again/],
    ['half.jpg', 'HALF', /% of the picture is missing/],
    ['orders.csv', 'name\n"x', /no CSV|no column/],
    ['order.json', '{', /no JSON/],
    ['list.json', '[1]', /says nothing/],
  ])('puts %s aside with a note that says why', async (name, content, why) => {
    const jpeg = await testJpeg(200, 200);
    const bytes =
      content === 'CUT' || content === 'HALF'
        ? jpeg.subarray(0, content === 'CUT' ? 200 : jpeg.length / 2)
        : content;
    await put(name, bytes);
    await look();
    expect(await within(ASIDE)).toEqual([name, `${name}.txt`]);
    expect(await readFile(join(folder, ASIDE, `${name}.txt`), 'utf8')).toMatch(why);
    expect(await state()).toMatchObject({ taken_in: 0, put_aside: 1 });
  });

  it('follows no links, and leaves alone what is hidden, half copied, or a folder', async () => {
    await writeFile(join(shop.folder, 'secret.jpg'), await testJpeg(50, 50));
    await symlink(join(shop.folder, 'secret.jpg'), join(folder, 'link.jpg'));
    await put('.hidden.jpg');
    await put('copy.jpg.part');
    await mkdir(join(folder, 'more'));
    await look();
    expect(await within(ASIDE)).toEqual(['link.jpg', 'link.jpg.txt']);
    expect(await within('.')).toEqual(
      expect.arrayContaining(['.hidden.jpg', 'copy.jpg.part', 'more']),
    );
    expect(await readdir(shop.folder)).toContain('secret.jpg');
  });

  it('makes one job of a file, though it was killed before the file was moved', async () => {
    await put('once.jpg');
    await look();
    const [item] = await itemsOf();
    // As if the move had not happened.
    const bytes = await readFile(join(folder, TAKEN, 'once.jpg'));
    await writeFile(join(folder, 'once.jpg'), bytes);
    const [row] = await shop.db('drop_files').where({ drop: drop.name });
    await shop.db('drop_files').where({ id: row.id }).update({ moved: false });
    const settledAgain = new Settled(folder, 1000);
    const [found] = await (async () => {
      await settledAgain.look(0);
      return settledAgain.look(2000);
    })();
    await shop.db('drop_files').where({ id: row.id }).update({ changed_at: found!.changedAt });
    // Meanwhile it is another day, with a batch of its own.
    const { batch_id: first, day } = await state();
    await shop.db('drops').where({ name: drop.name }).update({ day: '2001-01-01' });
    await look();
    expect((await state()).batch_id).not.toBe(first);
    expect(await itemsOf()).toEqual([]);
    expect(await within('.')).not.toContain('once.jpg');
    await shop.db('drops').where({ name: drop.name }).update({ batch_id: first, day });
    expect((await itemsOf()).map(({ jobId }) => jobId)).toEqual([item!.jobId]);
    // The same file brought again later is another order.
    await put('once.jpg', bytes);
    await look();
    expect(await itemsOf()).toHaveLength(2);
  });

  it('says what is wrong with the folder, or with what the server says of it', async () => {
    drop = { ...drop, size: { by: 'longest', text: 'wide', fit: 'crop' } };
    await put('dome.jpg');
    await look();
    expect((await state()).trouble).toMatch(/“Hot folder \d+” can't be used\. “wide” is neither/);
    expect(await within('.')).toContain('dome.jpg');
    await lookAt(
      shop.db,
      { ...drop, size: { by: 'width', text: '8', fit: 'crop' } },
      settled,
      (now += 10),
    );
    expect(await within(TAKEN)).toEqual(['dome.jpg']);
    expect((await state()).trouble).toBeNull();
    await rm(folder, { recursive: true });
    await writeFile(folder, 'a file, no folder');
    await lookAt(shop.db, drop, new Settled(folder, 1000), (now += 10));
    expect((await state()).trouble).toMatch(/can't be read or written \((EEXIST|ENOTDIR)\)/);
    await rm(folder);
    await configure({ results: 'Nowhere' }).catch((error: Error) =>
      expect(error.message).toMatch(/“Nowhere”, which is no folder of results/),
    );
    await writeFile(config().folders, '{"drops": [{"name": "x"}]}');
    await expect(readFolders()).rejects.toThrow(/not as it should be at drops\.0/);
    await writeFile(config().folders, '{');
    await expect(readFolders()).rejects.toThrow(/not as it should be/);
  });

  it('is watched by a process of its own, which runs what it takes', async () => {
    const results = [{ name: 'Made', path: 'made' }];
    drop = await configure({ make: true, results: 'Made' }, results);
    await put('dome.jpg');
    const child = fork(entryOf('server/drop/drop-process'), {
      env: { ...process.env, LONTANO_DATA: config().data },
      stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    });
    await expect.poll(() => within(TAKEN), { timeout: 40_000 }).toEqual(['dome.jpg']);
    child.kill('SIGTERM');
    const { batch_id: batch } = await state();
    expect(await readBatch(shop.db, batch)).toMatchObject({
      ...{ state: 'running', plan: { folder: 'Made' }, pictures: 1 },
    });
  });
});
