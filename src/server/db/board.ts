import type { Knex } from 'knex';
import {
  BOARD_PAGE,
  BOARD_VERSION,
  FILTER_MOST,
  BoardFacts,
  boardFacts,
  searchWords,
  type BoardOrder,
  type BoardPage,
  type BoardQuery,
  type DueFilter,
} from '@/core/shop/board';
import { Findings } from '@/core/inspect/findings';
import { ACT_MOST } from '@/core/shop/jobs-act';
import { Work } from '@/core/recipe/work';
import { headOf } from './jobs';
import { PAGE_OF_WORK } from './originals';

/** Jobs whose rows are made anew in one transaction. */
const BATCH = 200;

/** Makes the rows anew that are missing or of another version. */
export async function refreshBoard(db: Knex): Promise<void> {
  for (;;) {
    const rows = await db('jobs')
      .leftJoin('board', 'board.job_id', 'jobs.id')
      .join('pieces', 'pieces.job_id', 'jobs.id')
      .join('pages', (on) =>
        on.on('pages.digest', 'pieces.digest').andOn('pages.page', db.raw(PAGE_OF_WORK)),
      )
      // A job is shown by its first picture.
      .where('pieces.id', db('pieces').min('id').where('job_id', db.ref('jobs.id')))
      .where((or) =>
        or
          .whereNull('board.version')
          .orWhereNot('board.version', BOARD_VERSION)
          .orWhereRaw('known <> changes'),
      )
      .limit(BATCH)
      .select(
        'jobs.id',
        'number',
        'title',
        'customer',
        'note',
        'pieces.digest',
        'findings',
        'pieces.work',
        'changes',
        {
          pieces: db('pieces').count().where('job_id', db.ref('jobs.id')),
        },
      );
    if (rows.length === 0) return;
    const made = rows.map(
      ({ id, number, title, customer, note, digest, findings, work, pieces, ...row }) => {
        const facts = factsOf(digest, findings, work);
        return {
          job_id: id,
          version: BOARD_VERSION,
          // What changes while this is computed is not known to it.
          known: row.changes ?? 0,
          words: `${number} ${title} ${customer} ${note}`.toLowerCase(),
          material: facts.material,
          area: facts.inches && facts.inches.width * facts.inches.height,
          carries: facts.ppi,
          verdict: facts.verdict?.short ?? null,
          pieces,
          facts: JSON.stringify(facts),
        };
      },
    );
    await db.transaction(async (trx) => {
      for (const row of made) await trx('board').insert(row).onConflict('job_id').merge();
    });
  }
}

/** What a job's row shows; that it can't be read, where what is stored of it is damaged. */
function factsOf(digest: string, findings: string, work: string): BoardFacts {
  try {
    return boardFacts(digest, Findings.parse(JSON.parse(findings)), Work.parse(JSON.parse(work)));
  } catch {
    return {
      ...{ digest, page: 1, print: 'not readable', inches: null, ppi: null },
      ...{ verdict: { tone: 'trouble', short: 'its record is damaged' }, material: null },
    };
  }
}

/** What rows are sorted by; shapes carry more than any pixels, and what is on its way is urgent no more. */
const SORTED_BY: Record<BoardOrder, string> = {
  number: 'jobs.number',
  title: 'jobs.title collate nocase',
  print: 'board.area',
  ppi: 'coalesce(board.carries, 1e9)',
  verdict: 'board.verdict',
  due: "iif(jobs.state in ('sent', 'printed'), null, jobs.due)",
  state: 'jobs.state',
};

/** What is on its way or printed is late no more. */
const OPEN = "jobs.state not in ('sent', 'printed')";
const TODAY = "date('now', 'localtime')";
const DUE: Record<DueFilter, string> = {
  late: `jobs.due < ${TODAY} and ${OPEN}`,
  today: `jobs.due = ${TODAY}`,
  week: `jobs.due between ${TODAY} and date(${TODAY}, '+6 days')`,
  never: 'jobs.due is null',
};

/** What jobs on the board, or in the archive, have of a column, by name. */
async function allOf(db: Knex, column: string, archived: boolean): Promise<string[]> {
  const rows: { name: string }[] = await db('jobs')
    .join('board', 'board.job_id', 'jobs.id')
    .where({ archived, deleted_at: null })
    .whereNotNull(column)
    .whereNot(column, '')
    .distinct({ name: column })
    .orderByRaw(`${column} collate nocase`)
    .limit(FILTER_MOST);
  return rows.map(({ name }) => name);
}

/** A job with what the board keeps ready of it. */
type BoardRecord = Parameters<typeof headOf>[0] & { facts: string; pieces: number };

/** The jobs that a query is for, whichever page it asks for. */
function found(db: Knex, query: BoardQuery): Knex.QueryBuilder {
  const { archived, state, search, customer, material, due } = query;
  const jobs = db('jobs')
    .join('board', 'board.job_id', 'jobs.id')
    .where({ archived, deleted_at: null });
  if (state) jobs.where({ state });
  if (customer) jobs.where({ customer });
  if (material) jobs.where('board.material', material);
  if (due) jobs.whereRaw(DUE[due]);
  for (const word of searchWords(search)) jobs.whereRaw('instr(board.words, ?)', [word]);
  return jobs;
}

const inOrder = (jobs: Knex.QueryBuilder, { order, down }: BoardQuery): Knex.QueryBuilder =>
  jobs.orderByRaw(
    `${SORTED_BY[order]} ${down ? 'desc' : 'asc'} nulls last, jobs.due desc, jobs.id`,
  );

/** The numbers in the database of all jobs that a query is for, as far as one act may go. */
export async function jobsOfBoard(db: Knex, query: BoardQuery): Promise<number[]> {
  await refreshBoard(db);
  return inOrder(found(db, query), query).limit(ACT_MOST).pluck('jobs.id');
}

/** A page of the board: its rows, how many there are, and how many in each state. */
export async function readBoard(db: Knex, query: BoardQuery): Promise<BoardPage> {
  await refreshBoard(db);
  const { archived, page } = query;
  const [counted] = await found(db, query).count({ total: '*' });
  const rows = await inOrder(found(db, query), query)
    .limit(BOARD_PAGE)
    .offset(page * BOARD_PAGE)
    .select('jobs.*', 'board.facts', 'board.pieces');
  const counts: { state: string; archived: number; count: number }[] = await db('jobs')
    .whereNull('deleted_at')
    .groupBy('archived', 'state')
    .select('state', 'archived')
    .count({ count: '*' });
  const here = counts.filter((one) => Boolean(one.archived) === archived);
  const sum = (of: typeof counts) => of.reduce((all, { count }) => all + count, 0);
  return {
    rows: rows.map((row: BoardRecord) => ({
      ...headOf(row),
      pieces: row.pieces,
      facts: BoardFacts.parse(JSON.parse(row.facts)),
    })),
    customers: await allOf(db, 'jobs.customer', archived),
    materials: await allOf(db, 'board.material', archived),
    total: Number(counted!.total),
    states: Object.fromEntries(here.map((one) => [one.state, one.count])),
    jobs: sum(here),
    archive: sum(counts.filter((one) => one.archived)),
    shop: sum(counts),
  };
}
