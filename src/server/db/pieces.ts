import type { Knex } from 'knex';
import { Author } from '@/core/shop/author';
import { patchBetween, patched, type Patch } from '@/core/shop/change';
import type { HistoryEntry, Piece, PieceChange, PieceMove } from '@/core/shop/job';
import { Work } from '@/core/recipe/work';
import { inspectedPage } from '../files/take-in';
import { placedOn, takenOutOf } from '../files/taken-out';
import { Problem } from '../problem';
import { staleRow } from './job-changes';

interface PieceRow {
  id: number;
  job_id: number;
  digest: string;
  file_name: string;
  reasons: string;
  revision: number;
  /** where it stands, and the newest change on its line */
  current: number;
  tip: number;
  work: string;
  author: string | null;
}

async function rowOf(db: Knex, id: number): Promise<PieceRow> {
  const row = await db('pieces').where({ id }).first();
  if (!row) throw new Problem('missing', 'This picture is not on the board any more.');
  return row;
}

/** The way from the first change to the tip, oldest first. */
const lineTo = async (db: Knex, tip: number): Promise<HistoryEntry[]> => {
  const columns = ['id', 'parent', 'label', 'at', 'author'];
  const way: (Omit<HistoryEntry, 'author'> & { author: string | null })[] = await db
    .withRecursive('line', columns, (line) =>
      line
        .select(columns)
        .from('changes')
        .where({ id: tip })
        .unionAll((before) =>
          before
            .select(columns.map((name) => `changes.${name}`))
            .from('changes')
            .join('line', 'line.parent', 'changes.id'),
        ),
    )
    .select('id', 'label', 'at', 'author')
    .from('line')
    .orderBy('id');
  return way.map(({ author, ...entry }) => ({ ...entry, author: authorIn(author) }));
};

/** Who is named in a row; null where nobody is, or an earlier version wrote it. */
function authorIn(text: string | null): Author | null {
  try {
    return Author.nullable().parse(JSON.parse(text ?? 'null'));
  } catch {
    return null;
  }
}

export async function readPiece(db: Knex, id: number): Promise<Piece> {
  const row = await rowOf(db, id);
  const work = Work.parse(JSON.parse(row.work));
  const page = await inspectedPage(db, row.digest, work.framing.page);
  const { vector } = page.findings;
  return {
    id,
    jobId: row.job_id,
    digest: row.digest,
    fileName: row.file_name,
    findings: vector
      ? { ...page.findings, vector: { ...vector, pictures: await placedOn(db, page) } }
      : page.findings,
    takenOut: vector ? await takenOutOf(db, page.digest, page.page) : [],
    reasons: JSON.parse(row.reasons),
    revision: row.revision,
    author: authorIn(row.author),
    work,
    history: await lineTo(db, row.tip),
    current: row.current,
  };
}

/**
 * Appends a change. Nothing is ever overwritten: a change made after undoing begins a new line
 * from where the piece stood.
 * @throws Problem where it makes no work, or its page can't be read; 'conflict', with the piece as it
 *   is, where somebody else changed it meanwhile
 */
export async function changePiece(db: Knex, id: number, change: PieceChange): Promise<Piece> {
  const { revision, label, patch } = change;
  const author = change.author && JSON.stringify(change.author);
  const row = await rowOf(db, id);
  await expectRevision(db, row, revision);
  const before = Work.parse(JSON.parse(row.work));
  const work = workAfter(before, patch);
  await inspectedPage(db, row.digest, work.framing.page);
  const done = await db.transaction(async (trx) => {
    // The first statement writes: a transaction that reads first may find its writing refused, since the
    // renderer commits meanwhile.
    const touched = await trx('pieces')
      .where({ id, revision })
      .update({ revision: revision + 1, work: JSON.stringify(work), author });
    if (touched === 0) return false;
    const [added] = await trx('changes')
      .insert({
        ...{ piece_id: id, parent: row.current, label, at: Date.now(), author },
        // What it led to follows from what was changed.
        work: 'null',
        patch: JSON.stringify(patch),
        inverse: JSON.stringify(patchBetween(work, before)),
      })
      .returning('id');
    await trx('pieces').where({ id }).update({ current: added.id, tip: added.id });
    await staleRow(trx, row.job_id);
    return true;
  });
  const piece = await readPiece(db, id);
  if (!done) throw conflict(piece);
  return piece;
}

/** @throws Problem that says what does not fit */
function workAfter(before: Work, patch: Patch): Work {
  let value: unknown;
  try {
    value = patched(before, patch);
  } catch {
    throw new Problem('usage', 'This change does not fit the picture as it is.');
  }
  const parsed = Work.safeParse(value);
  if (parsed.success) return parsed.data;
  const [issue] = parsed.error.issues;
  throw new Problem('usage', `${issue!.path.join('.') || 'The change'}: ${issue!.message}`);
}

/** Undoes, redoes or jumps: moves to an entry of the piece's present line. */
export async function movePiece(db: Knex, id: number, move: PieceMove): Promise<Piece> {
  const { revision, to } = move;
  const author = move.author && JSON.stringify(move.author);
  const row = await rowOf(db, id);
  await expectRevision(db, row, revision);
  const line = await lineTo(db, row.tip);
  if (!line.some((entry) => entry.id === to)) {
    throw new Problem('usage', 'This change is not on the present line of changes.');
  }
  const work = await workAt(db, row, to, line);
  const touched = await db.transaction(async (trx) => {
    const moved = await trx('pieces')
      .where({ id, revision })
      .update({ current: to, revision: revision + 1, work: JSON.stringify(work), author });
    await staleRow(trx, row.job_id);
    return moved;
  });
  const piece = await readPiece(db, id);
  if (touched === 0) throw conflict(piece);
  return piece;
}

/** Changes that are read in one statement. */
const AT_ONCE = 500;

/** The work at another change of a piece's line, by what was changed between there and where it stands. */
async function workAt(
  db: Knex,
  { current, work }: PieceRow,
  to: number,
  line: readonly HistoryEntry[],
): Promise<Work> {
  const [first, last] = [Math.min(current, to), Math.max(current, to)];
  const ids = line.map((entry) => entry.id).filter((id) => id >= first && id <= last);
  const rows: { id: number; work: string; patch: string | null; inverse: string | null }[] = [];
  for (let i = 0; i < ids.length; i += AT_ONCE) {
    rows.push(
      ...(await db('changes')
        .whereIn('id', ids.slice(i, i + AT_ONCE))
        .orderBy('id')
        .select('id', 'work', 'patch', 'inverse')),
    );
  }
  const follow = (from: string, steps: readonly (string | null)[]): Work =>
    steps.reduce<Work>(
      (at, step) => Work.parse(patched(at, JSON.parse(step!))),
      Work.parse(JSON.parse(from)),
    );
  // A line begins with a whole work, and so do changes of an earlier form.
  const whole = rows.findLastIndex((one) => one.id <= to && one.patch === null);
  if (whole >= 0 && (to > current || rows[whole]!.id === to)) {
    const after = rows.slice(whole + 1).filter((one) => one.id <= to);
    return follow(
      rows[whole]!.work,
      after.map(({ patch }) => patch),
    );
  }
  const between = rows.filter((one) => one.id > first);
  return to > current
    ? follow(
        work,
        between.map(({ patch }) => patch),
      )
    : follow(
        work,
        between.reverse().map(({ inverse }) => inverse),
      );
}

async function expectRevision(db: Knex, row: PieceRow, revision: number): Promise<void> {
  if (row.revision !== revision) throw conflict(await readPiece(db, row.id));
}

const conflict = (piece: Piece): Problem =>
  new Problem('conflict', 'This picture was changed meanwhile.', piece);
