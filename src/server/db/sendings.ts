import type { Knex } from 'knex';
import type { Happened } from '@/core/shop/event';
import { isOnItsWay, Sending, SendingNews, type SendingState } from '@/core/shop/sending';
import { Problem } from '../problem';
import { appendEvent } from './events';
import { setState } from './jobs';

/** Sendings of a picture that are shown, the newest. */
const SHOWN = 30;

/** A sending as whoever brings it to its end knows it. */
export interface OpenSending extends Sending {
  title: string;
  cancelAsked: boolean;
}

const query = (db: Knex) =>
  db('sendings')
    .join('pieces', 'pieces.id', 'sendings.piece_id')
    .select('sendings.*', 'pieces.job_id');

const toSending = (row: Record<string, unknown>): OpenSending => ({
  ...Sending.parse({
    ...{ key: row.key, jobId: row.job_id, pieceId: row.piece_id, run: row.task_id },
    ...{ fileName: row.file_name, proof: Boolean(row.proof) },
    ...{ device: row.device, deviceId: row.device_id },
    ...{ material: row.material, copies: row.copies, state: row.state, progress: row.progress },
    trouble: row.trouble === null ? null : JSON.parse(row.trouble as string),
    ...{ words: row.words, spoilt: row.spoilt },
    dots: row.dots === null ? null : JSON.parse(row.dots as string),
    at: Number(row.at),
    finishedAt: row.finished_at === null ? null : Number(row.finished_at),
  }),
  title: row.title as string,
  cancelAsked: Boolean(row.cancel_asked),
});

const changedNow = (db: Knex) => ({
  change: db.raw('(select coalesce(max(change), 0) + 1 from sendings)'),
});

/** What of a picture was sent, the newest first. */
export async function sendingsOfPiece(db: Knex, pieceId: number): Promise<Sending[]> {
  const rows = await query(db)
    .where({ 'sendings.piece_id': pieceId })
    .orderBy('sendings.at', 'desc')
    .limit(SHOWN);
  return rows.map((row) => Sending.parse(toSending(row)));
}

/** What is on its way to a device, the oldest first. */
export async function openSendings(db: Knex, deviceId: number): Promise<OpenSending[]> {
  const rows = await query(db)
    .where({ device_id: deviceId, finished_at: null })
    .orderBy('sendings.at');
  return rows.map(toSending);
}

/** @throws Problem where there is none */
export async function readSending(db: Knex, key: string): Promise<OpenSending> {
  const row = await query(db).where({ key }).first();
  if (!row) throw new Problem('missing', 'Nothing was sent under this name.');
  return toSending(row);
}

/** Whether something was sent by this key. */
export const wasSent = async (db: Knex, key: string): Promise<boolean> =>
  (await db('sendings').where({ key }).first('key')) !== undefined;

export async function lastSendingChange(db: Knex): Promise<number> {
  const [row] = await db('sendings').max({ last: 'change' });
  return Number(row?.last ?? 0);
}

/** What is told of sendings that changed after a change. */
export async function sendingsChangedAfter(
  db: Knex,
  after: number,
): Promise<{ news: SendingNews[]; last: number }> {
  const rows = await query(db).where('sendings.change', '>', after).orderBy('sendings.change');
  return {
    news: rows.map((row) => SendingNews.parse({ ...toSending(row), change: row.change })),
    last: rows.at(-1)?.change ?? after,
  };
}

/** What is written down when something is sent. */
export type NewSending = Pick<
  OpenSending,
  | 'key'
  | 'pieceId'
  | 'run'
  | 'deviceId'
  | 'device'
  | 'fileName'
  | 'title'
  | 'material'
  | 'copies'
  | 'proof'
>;

/** Writes a sending and its event; it is brought to its device by the process of devices. */
export async function beginSending(
  db: Knex,
  { key, pieceId, run, deviceId, device, fileName, title, material, copies, proof }: NewSending,
  jobId: number,
  event: Happened,
): Promise<void> {
  await db.transaction(async (trx) => {
    await trx('sendings').insert({
      ...{ key, piece_id: pieceId, task_id: run, device_id: deviceId, device },
      ...{ file_name: fileName, title, material, copies, proof },
      ...{ state: 'waiting' satisfies SendingState, at: Date.now(), ...changedNow(trx) },
    });
    // Pressing twice prints once.
    const same = { task_id: run, device_id: deviceId, material, finished_at: null };
    if ((await trx('sendings').where(same).pluck('key')).length > 1) {
      throw new Problem('conflict', `${fileName} is on its way to ${device} already.`);
    }
    await appendEvent(trx, { jobId, pieceId }, event);
  });
}

/** What changes of a sending while it is followed. */
export type SendingChange = Partial<
  Pick<Sending, 'state' | 'progress' | 'trouble' | 'words' | 'spoilt' | 'dots'>
>;

/**
 * Keeps how a sending stands, with what that means for its job: once a device has its file it is sent, once all its pictures
 * are printed it is. Nothing is written where nothing changed.
 */
export async function keepSending(
  db: Knex,
  before: Sending,
  change: SendingChange,
): Promise<Sending> {
  const now = { ...before, ...change };
  const same = (Object.keys(change) as (keyof SendingChange)[]).every(
    (name) => JSON.stringify(before[name]) === JSON.stringify(change[name]),
  );
  if (same) return before;
  const { key, jobId, pieceId, fileName, device } = now;
  const ended = isOnItsWay(before) && !isOnItsWay(now);
  await db.transaction(async (trx) => {
    const touched = await trx('sendings')
      .where({ key, finished_at: null })
      .update({
        ...{ state: now.state, progress: now.progress, words: now.words, spoilt: now.spoilt },
        trouble: now.trouble && JSON.stringify(now.trouble),
        dots: now.dots && JSON.stringify(now.dots),
        ...(ended && { finished_at: Date.now() }),
        ...changedNow(trx),
      });
    if (touched === 0) return;
    const sent = { key, fileName, device };
    const tell = (event: Happened) => appendEvent(trx, { jobId, pieceId }, event);
    if (now.trouble && now.trouble.words !== before.trouble?.words) {
      await tell({ kind: 'device stopped', ...sent, words: now.trouble.words });
    }
    if (arrived(now) && !arrived(before) && !now.proof) await forward(trx, jobId, 'sent');
    if (!ended) return;
    if (now.state === 'printed') {
      await tell({ kind: 'printed', ...sent, spoilt: now.spoilt });
      if (!now.proof && (await allPrinted(trx, jobId))) await forward(trx, jobId, 'printed');
    } else {
      const words = now.words ?? 'It was taken back before it was printed.';
      await tell({ kind: 'not printed', ...sent, words });
    }
  });
  return now;
}

const arrived = ({ state }: Sending): boolean => ['queued', 'printing', 'printed'].includes(state);

/** Moves a job on, never back. */
async function forward(trx: Knex, jobId: number, to: 'sent' | 'printed'): Promise<void> {
  const { state } = await trx('jobs').where({ id: jobId }).first('state');
  if (state !== 'printed') await setState(trx, jobId, to);
}

async function allPrinted(trx: Knex, jobId: number): Promise<boolean> {
  const [left] = await trx('pieces')
    .where({ job_id: jobId })
    .whereNotIn(
      'id',
      trx('sendings')
        .where({ state: 'printed' satisfies SendingState, proof: false })
        .select('piece_id'),
    )
    .count({ count: '*' });
  return Number(left?.count) === 0;
}

/** Asks for a sending to be taken back. @throws Problem where it is over */
export async function askToCancel(db: Knex, key: string): Promise<Sending> {
  const touched = await db('sendings')
    .where({ key, finished_at: null })
    .update({ cancel_asked: true, ...changedNow(db) });
  if (touched === 0) throw new Problem('conflict', 'It is over, and can’t be taken back.');
  return Sending.parse(await readSending(db, key));
}

/** The device would not give it back. */
export const cancelRefused = (db: Knex, key: string): Promise<number> =>
  db('sendings')
    .where({ key })
    .update({ cancel_asked: false, ...changedNow(db) });
