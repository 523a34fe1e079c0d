import type { Knex } from 'knex';
import type { HistoryEntry, Piece, PieceChange, PieceMove } from '@/core/shop/job';
import { Work } from '@/core/recipe/work';
import { inspectedPage } from '../files/take-in';
import { Problem } from '../problem';

interface ChangeRow {
  id: number;
  parent: number | null;
  label: string;
  work: string;
  at: number;
}

/** The way from the first change to the tip, oldest first. */
async function line(db: Knex, pieceId: number, tip: number): Promise<ChangeRow[]> {
  const rows: ChangeRow[] = await db('changes').where({ piece_id: pieceId });
  const byId = new Map(rows.map((row) => [row.id, row]));
  const way: ChangeRow[] = [];
  for (let at = byId.get(tip); at; at = at.parent === null ? undefined : byId.get(at.parent)) {
    way.unshift(at);
  }
  return way;
}

export async function readPiece(db: Knex, id: number): Promise<Piece> {
  const row = await db('pieces').where({ id }).first();
  if (!row) throw new Problem('missing', 'This picture is not on the board any more.');
  const way = await line(db, id, row.tip);
  const current = way.find((change) => change.id === row.current)!;
  const work = Work.parse(JSON.parse(current.work));
  const { findings } = await inspectedPage(db, row.digest, work.framing.page);
  return {
    id,
    jobId: row.job_id,
    digest: row.digest,
    fileName: row.file_name,
    findings,
    reasons: JSON.parse(row.reasons),
    revision: row.revision,
    work,
    history: way.map(({ id: change, label, at }): HistoryEntry => ({ id: change, label, at })),
    current: row.current,
  };
}

/**
 * Appends a change. Nothing is ever overwritten: a change made after undoing begins a new line
 * from where the piece stood.
 * @throws Problem where its page can't be read; 'conflict', with the piece as it is, where somebody
 *   else changed it meanwhile
 */
export async function changePiece(db: Knex, id: number, change: PieceChange): Promise<Piece> {
  const { digest } = (await db('pieces').where({ id }).first('digest')) ?? {};
  if (digest) await inspectedPage(db, digest, change.work.framing.page);
  await db.transaction(async (trx) => {
    const piece = await expectRevision(trx, id, change.revision);
    const [row] = await trx('changes')
      .insert({
        piece_id: id,
        parent: piece.current,
        label: change.label,
        work: JSON.stringify(change.work),
        at: Date.now(),
      })
      .returning('id');
    await trx('pieces')
      .where({ id })
      .update({ current: row.id, tip: row.id, revision: change.revision + 1 });
  });
  return readPiece(db, id);
}

/** Undoes, redoes or jumps: moves to an entry of the piece's present line. */
export async function movePiece(db: Knex, id: number, move: PieceMove): Promise<Piece> {
  await db.transaction(async (trx) => {
    const piece = await expectRevision(trx, id, move.revision);
    const way = await line(trx, id, piece.tip);
    if (!way.some((change) => change.id === move.to)) {
      throw new Problem('usage', 'This change is not on the present line of changes.');
    }
    await trx('pieces')
      .where({ id })
      .update({ current: move.to, revision: move.revision + 1 });
  });
  return readPiece(db, id);
}

async function expectRevision(
  trx: Knex,
  id: number,
  revision: number,
): Promise<{ current: number; tip: number }> {
  const piece = await trx('pieces').where({ id }).first('revision', 'current', 'tip');
  if (!piece) throw new Problem('missing', 'This picture is not on the board any more.');
  if (piece.revision !== revision) {
    throw new Problem(
      'conflict',
      'Somebody else changed this picture meanwhile. Their change is shown now; yours was not applied.',
      await readPiece(trx, id),
    );
  }
  return piece;
}
