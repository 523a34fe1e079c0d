import type { Knex } from 'knex';
import type {
  Brought,
  Comparing,
  Mark,
  MarkChange,
  NewBrought,
  NewMark,
  Sweep,
} from '@/core/shop/comparing';
import type { z } from 'zod';
import { inspectedPage } from '../files/take-in';
import { Problem } from '../problem';
import { jobOfPieceChanged } from './job-changes';
import { sheetsOfPiece } from './tasks';

/** The most marks of a picture, and pictures brought to it. */
const MARKS = 200;
const BROUGHT = 20;

/** What is kept beside a picture's history. @throws Problem where there is no such picture */
export async function readComparing(db: Knex, piece: number): Promise<Comparing> {
  await refuseUnknown(db, piece);
  const marks: Mark[] = await db('marks')
    .where({ piece_id: piece })
    .orderBy('id')
    .select('id', 'page', 'x', 'y', 'note');
  const sweeps = await db('sweeps').where({ piece_id: piece });
  const brought: Omit<Brought, 'findings'>[] = await db('brought')
    .where({ piece_id: piece })
    .orderBy('id')
    .select('id', 'digest', 'page', { fileName: 'file_name' });
  return {
    marks,
    sweeps: sweeps.map(({ trial, state, columns, rows, seen }): Sweep => ({
      ...{ trial, state, columns, rows },
      seen: (seen as Buffer).toString('base64'),
    })),
    brought: (await Promise.all(brought.map((one) => withFindings(db, one)))).flat(),
    sheets: await sheetsOfPiece(db, piece),
  };
}

/** One that was brought; nothing where its file can't be read any more, so that all else is still there. */
async function withFindings(db: Knex, one: Omit<Brought, 'findings'>): Promise<Brought[]> {
  try {
    const { findings } = await inspectedPage(db, one.digest, one.page);
    return [{ ...one, findings }];
  } catch (error) {
    if (!(error instanceof Problem)) throw error;
    return [];
  }
}

export async function addMark(db: Knex, piece: number, mark: NewMark): Promise<Mark> {
  await refuseUnknown(db, piece);
  await refuseMore(db, 'marks', piece, MARKS, 'marks');
  const [row] = await db('marks')
    .insert({ ...mark, piece_id: piece, at: Date.now() })
    .returning('id');
  await jobOfPieceChanged(db, piece);
  return { ...mark, id: row.id };
}

/** @throws Problem where somebody took it away meanwhile */
export async function changeMark(db: Knex, id: number, change: MarkChange): Promise<void> {
  const row = await db('marks').where({ id }).first('piece_id');
  if (!row || (await db('marks').where({ id }).update(change)) === 0) throw goneMark();
  await jobOfPieceChanged(db, row.piece_id);
}

export async function removeMark(db: Knex, id: number): Promise<void> {
  const row = await db('marks').where({ id }).first('piece_id');
  if (!row || (await db('marks').where({ id }).delete()) === 0) throw goneMark();
  await jobOfPieceChanged(db, row.piece_id);
}

const goneMark = (): Problem => new Problem('missing', 'This mark is not there any more.');

/** Keeps what was seen of a trial's result; what another tab saw of the same stays. @returns both */
export async function keepSweep(db: Knex, piece: number, sweep: Sweep): Promise<Sweep> {
  const { trial, state, columns, rows } = sweep;
  const seen = Buffer.from(sweep.seen, 'base64');
  if (seen.length !== Math.ceil((columns * rows) / 8)) {
    throw new Problem('usage', 'What was seen does not fit its own size.');
  }
  await refuseUnknown(db, piece);
  return db.transaction(async (trx) => {
    // Written first, as every transaction here: one that reads first may find its writing refused.
    await trx('sweeps')
      .insert({ piece_id: piece, trial, state, columns, rows, seen })
      .onConflict(['piece_id', 'trial'])
      .ignore();
    const known = await trx('sweeps').where({ piece_id: piece, trial }).first();
    const same = known.state === state && known.columns === columns && known.rows === rows;
    const both = Buffer.from(same ? seen.map((byte, i) => byte | known.seen[i]) : seen);
    await trx('sweeps')
      .where({ piece_id: piece, trial })
      .update({ state, columns, rows, seen: both });
    await jobOfPieceChanged(trx, piece);
    return { ...sweep, seen: both.toString('base64') };
  });
}

/** Puts a picture that was taken in beside another one, for comparing; the same one twice is there once. */
export async function bring(
  db: Knex,
  piece: number,
  { digest, page, fileName }: z.output<typeof NewBrought>,
): Promise<Brought> {
  await refuseUnknown(db, piece);
  const { findings } = await inspectedPage(db, digest, page);
  if (findings.vector) {
    throw new Problem(
      'input',
      `${fileName} is drawn from shapes and has no pixels to compare. Save it as a picture at the print’s size, then bring that.`,
    );
  }
  const known = await db('brought').where({ piece_id: piece, digest, page }).first('id');
  if (known) return { id: known.id, digest, page, fileName, findings };
  await refuseMore(db, 'brought', piece, BROUGHT, 'pictures beside it');
  const [row] = await db('brought')
    .insert({ piece_id: piece, digest, page, file_name: fileName, at: Date.now() })
    .returning('id');
  await jobOfPieceChanged(db, piece);
  return { id: row.id, digest, page, fileName, findings };
}

export async function putAway(db: Knex, id: number): Promise<void> {
  const row = await db('brought').where({ id }).first('piece_id');
  if (!row || (await db('brought').where({ id }).delete()) === 0) {
    throw new Problem('missing', 'This picture is not there any more.');
  }
  await jobOfPieceChanged(db, row.piece_id);
}

async function refuseUnknown(db: Knex, piece: number): Promise<void> {
  if (await db('pieces').where({ id: piece }).first('id')) return;
  throw new Problem('missing', 'This picture is not on the board any more.');
}

async function refuseMore(
  db: Knex,
  table: 'marks' | 'brought',
  piece: number,
  most: number,
  what: string,
): Promise<void> {
  const [{ n }] = (await db(table).where({ piece_id: piece }).count({ n: '*' })) as [{ n: number }];
  if (n >= most) {
    throw new Problem('usage', `A picture has ${most} ${what} at most. Take one away first.`);
  }
}
