import { randomUUID } from 'node:crypto';
import type { Knex } from 'knex';
import {
  JobState,
  type JobChange,
  type JobHead,
  type JobView,
  type NewJob,
  type NewPicture,
  type NewPieces,
  type Piece,
} from '@/core/shop/job';
import { UNFRAMED } from '@/core/frame/framing';
import { OPEN_PAPER } from '@/core/measure/paper';
import { originalOf } from '@/core/recipe/original';
import { placedPpi } from '@/core/measure/placed-ppi';
import { planOf } from '@/core/recipe/plan';
import { propose, PROPOSED_PPI } from '@/core/recipe/propose';
import type { Work } from '@/core/recipe/work';
import { inspectedPage } from '../files/take-in';
import { takeOutFor } from '../files/taken-out';
import { begunBy, type Begun } from '@/core/shop/begun';
import type { PictureOfJob } from '@/core/shop/picture-of-job';
import { Problem } from '../problem';
import { jobChanged, staleRow } from './job-changes';
import { appendEvent, eventsOfJob } from './events';
import { listHouse } from './house';
import { readLists } from './lists';
import { PAGE_OF_WORK } from './originals';
import { once } from './once';
import { readPiece } from './pieces';
import { readSettings } from './settings';
import { proofsOfPiece, runsOfPiece } from './tasks';

/** Job numbers begin here, so that the first one doesn't look like a test. */
const FIRST_NUMBER = 401;

/** A job's row in the database, apart from its pictures. */
export const headOf = (row: {
  id: number;
  number: string;
  title: string;
  customer: string;
  due: string | null;
  state: string;
  archived: number;
  note: string;
}): JobHead => ({
  id: row.id,
  number: row.number,
  title: row.title,
  customer: row.customer,
  due: row.due,
  state: JobState.parse(row.state),
  archived: Boolean(row.archived),
  note: row.note,
});

/** Whether there is such a job, and it was not deleted. */
export const isOnBoard = async (db: Knex, id: number): Promise<boolean> =>
  (await db('jobs').where({ id, deleted_at: null }).first('id')) !== undefined;

/** What a job is, apart from its pictures. @throws Problem where it is not on the board */
export async function headOfJob(db: Knex, id: number): Promise<JobHead> {
  const row = await db('jobs').where({ id, deleted_at: null }).first();
  if (!row) throw new Problem('missing', 'There is no such job on the board.');
  return headOf(row);
}

/** @param pieceId the picture that goes on the bench; the first one unless it is named */
export async function readJob(db: Knex, id: number, pieceId?: number): Promise<JobView> {
  const head = await headOfJob(db, id);
  const pieces = await db('pieces')
    .where({ job_id: id })
    .orderBy('pieces.id')
    .select('pieces.id', 'digest', 'file_name', { page: db.raw(PAGE_OF_WORK) });
  const chosen = pieces.find((piece) => piece.id === pieceId) ?? pieces[0];
  return {
    ...head,
    pieces: pieces.map(({ id: piece, digest, page, file_name: fileName }) => ({
      id: piece,
      digest,
      page,
      fileName,
    })),
    piece: await readPiece(db, chosen.id),
    runs: await runsOfPiece(db, chosen.id),
    proofs: await proofsOfPiece(db, chosen.id),
    events: await eventsOfJob(db, id),
  };
}

/** The pictures of some jobs that are on the board, job by job. */
export const picturesOfJobs = (db: Knex, ids: readonly number[]): Promise<PictureOfJob[]> =>
  db('pieces')
    .join('jobs', 'jobs.id', 'pieces.job_id')
    .whereIn('jobs.id', ids)
    .whereNull('jobs.deleted_at')
    .orderBy(['jobs.id', 'pieces.id'])
    .select({
      ...{ piece: 'pieces.id', jobId: 'jobs.id', number: 'jobs.number', digest: 'digest' },
      ...{ fileName: 'file_name', page: db.raw(PAGE_OF_WORK) },
    });

/**
 * Begins a job with its pictures, each with its proposed first trial.
 * @param also what is written with it, so that both are kept or neither
 */
export async function beginJob(
  db: Knex,
  job: NewJob,
  also?: (trx: Knex, id: number) => Promise<void>,
): Promise<number> {
  const came = await once(db, job.once, async (note) => {
    const proposed = await proposals(db, job.pictures, job);
    const pieces = proposed.map(({ digest, fileName, begun }) => ({ digest, fileName, ...begun }));
    const id = await beginJobWith(db, job, pieces, async (trx, made) => {
      await also?.(trx, made);
      await note(trx, { job: made, pieces: [] });
    });
    return { job: id, pieces: [] };
  });
  return came.job;
}

/** What a picture of a new job is begun with. */
export interface NewPiece {
  digest: string;
  fileName: string;
  reasons: Piece['reasons'];
  work: Work;
  /** the first entry of its history */
  label: string;
}

/** Begins a job with pictures whose work is known. */
export async function beginJobWith(
  db: Knex,
  { title, customer, due, note = '' }: Pick<NewJob, 'title' | 'customer' | 'due' | 'note'>,
  pieces: readonly NewPiece[],
  also?: (trx: Knex, id: number) => Promise<void>,
): Promise<number> {
  return db.transaction(async (trx) => {
    // Written first and numbered then: a transaction that reads first may find its writing refused.
    const [{ id }] = await trx('jobs')
      .insert({
        ...{ number: randomUUID(), title, customer, due, note },
        ...{ state: 'received' satisfies JobState, created_at: Date.now() },
      })
      .returning('id');
    const number = String(FIRST_NUMBER - 1 + Number(id)).padStart(4, '0');
    await trx('jobs').where({ id }).update({ number });
    for (const one of pieces) await putPiece(trx, id, one);
    await also?.(trx, id);
    await jobChanged(trx, id);
    return id;
  });
}

/** Adds pictures to a job, ordered as its first one; returns their numbers. */
export async function addPieces(
  db: Knex,
  id: number,
  { pictures, once: name }: NewPieces,
): Promise<number[]> {
  const came = await once(db, name, async (note) => {
    const pieces = await addPiecesOf(db, id, pictures, (trx, added) =>
      note(trx, { job: id, pieces: added }),
    );
    return { job: id, pieces };
  });
  return came.pieces;
}

async function addPiecesOf(
  db: Knex,
  id: number,
  pictures: NewPicture[],
  also: (trx: Knex, added: number[]) => Promise<void>,
): Promise<number[]> {
  const { piece } = await readJob(db, id);
  const { paper, distance, device, material } = piece.work;
  const place = { ...paper, place: OPEN_PAPER.place };
  const proposed = await proposals(db, pictures, { paper: place, distance, device, material });
  return db.transaction(async (trx) => {
    const added: number[] = [];
    for (const { digest, fileName, begun } of proposed) {
      added.push(await putPiece(trx, id, { digest, fileName, ...begun }));
    }
    await also(trx, added);
    await staleRow(trx, id);
    return added;
  });
}

type Proposed = NewPicture & { begun: Begun };

/** Looks at every picture before anything is written. */
async function proposals(
  db: Knex,
  pictures: NewPicture[],
  ordered: Pick<NewJob, 'paper' | 'distance' | 'device' | 'material'>,
): Promise<Proposed[]> {
  const { devices } = await readLists(db);
  const { begin } = await readSettings(db);
  const recipes = begin.job.by === 'proposed' ? [] : await listHouse(db);
  const device = devices.find((one) => one.name === ordered.device);
  const proposed: Proposed[] = [];
  for (const picture of pictures) {
    const page = await inspectedPage(db, picture.digest, picture.page);
    const { findings } = page;
    const ppi = device?.ppi ?? PROPOSED_PPI;
    const planned = planOf(
      originalOf('', findings),
      { framing: UNFRAMED, paper: ordered.paper },
      ppi,
    );
    const taken = planned.ok
      ? await takeOutFor(db, page, ppi, (one) => placedPpi(one, planned.plan))
      : [];
    const order = { ...ordered, page: picture.page, ppi };
    const known = { findings, takenOut: taken };
    const begun = begunBy(begin, known, propose(findings, order, taken), recipes);
    proposed.push({ ...picture, begun });
  }
  return proposed;
}

async function putPiece(
  trx: Knex,
  jobId: number,
  { digest, fileName, reasons, work, label }: NewPiece,
): Promise<number> {
  const text = JSON.stringify(work);
  const [piece] = await trx('pieces')
    .insert({
      ...{ job_id: jobId, digest, file_name: fileName, revision: 0, work: text },
      reasons: JSON.stringify(reasons),
    })
    .returning('id');
  const [change] = await trx('changes')
    .insert({ piece_id: piece.id, parent: null, label, work: text, at: Date.now() })
    .returning('id');
  await trx('pieces').where({ id: piece.id }).update({ current: change.id, tip: change.id });
  return piece.id;
}

export async function changeJob(db: Knex, id: number, change: JobChange): Promise<void> {
  const { state, ...rest } = change;
  await db.transaction(async (trx) => {
    // Written first: a transaction that reads first may find its writing refused.
    const touched = await trx('jobs')
      .where({ id, deleted_at: null })
      .update({ ...rest, id });
    if (touched === 0) throw new Problem('missing', 'There is no such job on the board.');
    if (state) await setState(trx, id, state);
    await staleRow(trx, id);
  });
}

/** A proof of a job is there. What is farther on its way stays where it is. @param trx which has written before */
export async function proofed(trx: Knex, id: number): Promise<void> {
  const { state } = await trx('jobs').where({ id }).first('state');
  if (state === 'received' || state === 'on the bench') await setState(trx, id, 'proofed');
}

/** Moves a job on its way, or back, and writes that down. */
export async function setState(trx: Knex, id: number, to: JobState): Promise<void> {
  const from = JobState.parse((await trx('jobs').where({ id }).first('state')).state);
  if (from === to) return;
  await trx('jobs').where({ id }).update({ state: to });
  await appendEvent(trx, { jobId: id }, { kind: 'state', from, to });
  await staleRow(trx, id);
}
