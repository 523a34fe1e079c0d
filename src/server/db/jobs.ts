import type { Knex } from 'knex';
import { Findings } from '@/core/inspect/findings';
import {
  JobState,
  type JobChange,
  type JobSummary,
  type JobView,
  type NewJob,
} from '@/core/shop/job';
import type { Proposal } from '@/core/treatment/propose';
import { Work } from '@/core/treatment/recipe';
import { Problem } from '../problem';
import { readPiece } from './pieces';
import { runsOfPiece } from './runs';

/** Job numbers begin here, so that the first one doesn't look like a test. */
const FIRST_NUMBER = 401;

export async function listJobs(db: Knex): Promise<JobSummary[]> {
  const rows = await db('jobs')
    .join('pieces', 'pieces.job_id', 'jobs.id')
    .join('originals', 'originals.digest', 'pieces.digest')
    .join('changes', 'changes.id', 'pieces.current')
    .orderBy([{ column: 'jobs.due', nulls: 'last' }, 'jobs.id'])
    .select('jobs.*', 'pieces.digest', 'originals.findings', 'changes.work');
  return rows.map((row) => ({
    ...head(row),
    digest: row.digest,
    findings: Findings.parse(JSON.parse(row.findings)),
    work: Work.parse(JSON.parse(row.work)),
  }));
}

const head = (row: {
  id: number;
  number: string;
  title: string;
  customer: string;
  due: string | null;
  state: string;
}) => ({
  id: row.id,
  number: row.number,
  title: row.title,
  customer: row.customer,
  due: row.due,
  state: JobState.parse(row.state),
});

export async function readJob(db: Knex, id: number): Promise<JobView> {
  const row = await db('jobs').where({ id }).first();
  if (!row) throw new Problem('missing', 'There is no such job on the board.');
  const piece = await db('pieces').where({ job_id: id }).first('id');
  return {
    ...head(row),
    piece: await readPiece(db, piece.id),
    runs: await runsOfPiece(db, piece.id),
  };
}

/** Begins a job with one picture and its proposed first trial. */
export async function beginJob(db: Knex, job: NewJob, proposal: Proposal): Promise<number> {
  return db.transaction(async (trx) => {
    const last = await trx('jobs').max({ id: 'id' }).first();
    const number = String(FIRST_NUMBER + Number(last?.id ?? 0)).padStart(4, '0');
    const [{ id }] = await trx('jobs')
      .insert({
        number,
        title: job.title,
        customer: job.customer,
        due: job.due,
        state: 'received' satisfies JobState,
        created_at: Date.now(),
      })
      .returning('id');
    const [piece] = await trx('pieces')
      .insert({
        job_id: id,
        digest: job.digest,
        file_name: job.fileName,
        reasons: JSON.stringify(proposal.reasons),
        revision: 0,
      })
      .returning('id');
    const [change] = await trx('changes')
      .insert({
        piece_id: piece.id,
        parent: null,
        label: 'Proposed first trial',
        work: JSON.stringify(proposal.work),
        at: Date.now(),
      })
      .returning('id');
    await trx('pieces').where({ id: piece.id }).update({ current: change.id, tip: change.id });
    return id;
  });
}

export async function changeJob(db: Knex, id: number, change: JobChange): Promise<void> {
  const touched = await db('jobs').where({ id }).update(change);
  if (touched === 0) throw new Problem('missing', 'There is no such job on the board.');
}
