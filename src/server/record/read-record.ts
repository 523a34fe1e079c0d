import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { format } from 'date-fns';
import type { Knex } from 'knex';
import { recordOf, type JobRecord, type RecordedPiece } from '@/core/shop/record';
import { eventsOfJob } from '../db/events';
import { readJob } from '../db/jobs';
import { readPiece } from '../db/pieces';
import { runsOfPiece, sheetsOfPiece } from '../db/tasks';
import { root } from '../root';

/** How a record writes a time. */
export const dayOf = (at: number): string => format(at, 'd MMM yyyy HH:mm');

/** All that is known of a job. @throws Problem where there is none */
export async function readRecord(db: Knex, jobId: number): Promise<JobRecord> {
  const job = await readJob(db, jobId);
  const pieces: RecordedPiece[] = [];
  for (const { id } of job.pieces) {
    pieces.push({
      piece: await readPiece(db, id),
      runs: await runsOfPiece(db, id),
      sheets: await sheetsOfPiece(db, id),
    });
  }
  const { version } = JSON.parse(await readFile(join(root(), 'package.json'), 'utf8')) as {
    version: string;
  };
  return recordOf(job, pieces, await eventsOfJob(db, jobId), { version, day: dayOf });
}
