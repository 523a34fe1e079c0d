import type { Knex } from 'knex';
import {
  BOARD_PAGE,
  BOARD_VERSION,
  BoardFacts,
  boardFacts,
  searchWords,
  type BoardOrder,
  type BoardPage,
  type BoardQuery,
} from '@/core/shop/board';
import { Findings } from '@/core/inspect/findings';
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
      ({ id, number, title, customer, digest, findings, work, pieces, ...row }) => {
        const facts = factsOf(digest, findings, work);
        return {
          job_id: id,
          version: BOARD_VERSION,
          // What changes while this is computed is not known to it.
          known: row.changes ?? 0,
          words: `${number} ${title} ${customer}`.toLowerCase(),
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
      verdict: { tone: 'trouble', short: 'its record is damaged' },
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

/** A page of the board: its rows, how many there are, and how many in each state. */
export async function readBoard(db: Knex, query: BoardQuery): Promise<BoardPage> {
  await refreshBoard(db);
  const { archived, state, search, order, down, page } = query;
  const shown = () => {
    const found = db('jobs')
      .join('board', 'board.job_id', 'jobs.id')
      .where({ archived, deleted_at: null });
    if (state) found.where({ state });
    for (const word of searchWords(search)) found.whereRaw('instr(board.words, ?)', [word]);
    return found;
  };
  const [counted] = await shown().count({ total: '*' });
  const rows = await shown()
    .orderByRaw(`${SORTED_BY[order]} ${down ? 'desc' : 'asc'} nulls last, jobs.due desc, jobs.id`)
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
    rows: rows.map((row) => ({
      ...headOf(row),
      pieces: row.pieces,
      facts: BoardFacts.parse(JSON.parse(row.facts)),
    })),
    total: Number(counted!.total),
    states: Object.fromEntries(here.map((one) => [one.state, one.count])),
    jobs: sum(here),
    archive: sum(counts.filter((one) => one.archived)),
    shop: sum(counts),
  };
}
