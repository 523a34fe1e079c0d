import { formatISO } from 'date-fns';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { BOARD_PAGE, BoardQuery } from '@/core/shop/board';
import type { NewJob } from '@/core/shop/job';
import { testPaper } from '@/core/testing';
import { takeIn } from '../files/take-in';
import { openTestShop, streamOf, testJpeg, type TestShop } from '../testing/shop';
import { jobsOfBoard, readBoard } from './board';
import { addPieces, beginJob, changeJob, readJob } from './jobs';
import { changePiece, movePiece } from './pieces';

let shop: TestShop;
let newJob: NewJob;
const COUNT = BOARD_PAGE + 15;

beforeAll(async () => {
  shop = await openTestShop();
  const { digest, fileName } = await takeIn(shop.db, streamOf(await testJpeg()), 'p.jpg');
  newJob = {
    ...{ title: '', customer: '', due: null, distance: 2, device: null, material: null },
    pictures: [{ digest, fileName, page: 1 }],
    paper: testPaper({ width: { value: 30, unit: 'cm' } }),
  };
  for (let i = 1; i <= COUNT; i++) {
    await beginJob(shop.db, {
      ...newJob,
      title: `Panel ${i % 2 ? 'Süd' : 'north'} ${i}`,
      customer: i % 3 ? 'Colle Vespra Observatory' : 'Vespra 100 % market',
      due: i % 5 ? `2026-12-${String(1 + (i % 28)).padStart(2, '0')}` : null,
      paper: testPaper({ width: { value: 10 + i, unit: 'cm' } }),
    });
  }
});
afterAll(() => shop.close());

const board = (query: object = {}) => readBoard(shop.db, BoardQuery.parse(query));

describe('the board', () => {
  it('comes a page at a time, each job once, the next due first and undated ones last', async () => {
    const [first, second] = [await board(), await board({ page: '1' })];
    expect([first.rows.length, second.rows.length]).toEqual([BOARD_PAGE, 15]);
    expect(first).toMatchObject({ total: COUNT, jobs: COUNT, archive: 0 });
    const rows = [...first.rows, ...second.rows];
    expect(new Set(rows.map(({ id }) => id)).size).toBe(COUNT);
    const due = rows.map((row) => row.due ?? '9');
    expect(due).toEqual([...due].sort());
    expect((await board({ page: '2' })).rows).toEqual([]);
  });

  it('is sorted by what follows from the orders, both ways', async () => {
    const widths = async (down: string) =>
      (await board({ order: 'print', down })).rows.map((row) => row.facts.inches!.width);
    const [up, down] = [await widths('0'), await widths('1')];
    expect(up).toEqual([...up].sort((a, b) => a - b));
    expect(down[0]).toBeCloseTo((10 + COUNT) / 2.54, 6);
    expect(down).toEqual([...down].sort((a, b) => b - a));
  });

  it('finds every word of a search, in any letter and with any sign', async () => {
    expect((await board({ search: 'SÜD vespra' })).total).toBe(Math.ceil(COUNT / 2));
    expect((await board({ search: '100 %' })).total).toBe(Math.floor(COUNT / 3));
    expect((await board({ search: '0407' })).rows).toMatchObject([{ number: '0407' }]);
    expect((await board({ search: "north' or 1=1" })).total).toBe(0);
  });

  it('is filtered by customer, material and when jobs are due', async () => {
    const { db } = shop;
    const observatory = await board({ customer: 'Colle Vespra Observatory' });
    expect(observatory.total).toBe(COUNT - Math.floor(COUNT / 3));
    expect(observatory.customers).toEqual(['Colle Vespra Observatory', 'Vespra 100 % market']);
    expect(observatory.materials).toEqual([]);
    expect((await board({ due: 'never' })).total).toBe(Math.floor(COUNT / 5));
    const day = (offset: number) => {
      const date = new Date();
      date.setDate(date.getDate() + offset);
      return formatISO(date, { representation: 'date' });
    };
    const [one, two, three, four] = (await board({ order: 'number' })).rows;
    await changeJob(db, one!.id, { due: day(-1), note: 'Call before printing' });
    await changeJob(db, two!.id, { due: day(0) });
    await changeJob(db, three!.id, { due: day(6) });
    await changeJob(db, four!.id, { due: day(-2), state: 'printed' });
    const ids = async (asked: object) => (await board(asked)).rows.map(({ id }) => id);
    const before = await ids({ due: 'late' });
    expect(before).toContain(one!.id);
    // What is printed is late no more.
    expect(before).not.toContain(four!.id);
    expect(await ids({ due: 'today' })).toContain(two!.id);
    const week = await ids({ due: 'week' });
    expect(week).toContain(two!.id);
    expect(week).toContain(three!.id);
    expect(week).not.toContain(one!.id);
    // A note is found like a name.
    expect(await ids({ search: 'before printing' })).toEqual([one!.id]);
    expect(await jobsOfBoard(db, BoardQuery.parse({ search: 'before' }))).toEqual([one!.id]);
    expect(await jobsOfBoard(db, BoardQuery.parse({}))).toHaveLength(COUNT);
    for (const { id, due } of [one!, two!, three!, four!]) {
      await changeJob(db, id, { due, note: '', state: 'received' });
    }
  });

  it('follows every change of a job and of its first picture', async () => {
    const [row] = (await board({ search: '0403' })).rows;
    const { db } = shop;
    await changeJob(db, row!.id, { title: 'Another name', state: 'printed' });
    expect((await board({ search: 'another' })).rows).toMatchObject([{ state: 'printed' }]);
    // What is printed is urgent no more: behind all that are due, before those that never are.
    const dated = (await board()).rows.filter(({ due }) => due !== null);
    expect(dated.length).toBeGreaterThan(1);
    expect(dated.at(-1)).toMatchObject({ title: 'Another name' });
    expect(await board({ state: 'printed' })).toMatchObject({ total: 1, states: { printed: 1 } });
    await addPieces(db, row!.id, { pictures: newJob.pictures });
    const { piece } = await readJob(db, row!.id);
    const patch = [{ op: 'replace' as const, path: '/paper/width/value', value: 77 }];
    await changePiece(db, piece.id, { revision: 0, label: '77 cm', patch });
    expect((await board({ search: 'another' })).rows).toMatchObject([
      { pieces: 2, facts: { print: '77 × 51.3 cm' } },
    ]);
    await movePiece(db, piece.id, { revision: 1, to: piece.current });
    expect((await board({ search: 'another' })).rows[0]!.facts.print).toBe('13 × 8.7 cm');
    await changeJob(db, row!.id, { archived: true });
    expect(await board()).toMatchObject({ total: COUNT - 1, archive: 1 });
    expect((await board({ archived: '1' })).rows).toMatchObject([{ title: 'Another name' }]);
  });
});
