import type { Knex } from 'knex';
import { formatLength } from '@/core/measure/units';
import { OrderAgain, workAtWidth } from '@/core/shop/order-again';
import { Problem } from '../problem';
import { beginJobWith, readJob } from './jobs';
import { readPiece } from './pieces';

/**
 * Begins a job as an earlier one was left: the same originals, zones and trials, at the same size or another.
 * @returns its number in the database
 * @throws Problem where the job is gone, or nothing follows from the width
 */
export async function orderAgain(db: Knex, jobId: number, order: OrderAgain): Promise<number> {
  const { width } = OrderAgain.parse(order);
  const job = await readJob(db, jobId);
  const label = `As job ${job.number}${width ? `, at ${formatLength(width)}` : ''}`;
  const pieces = await Promise.all(
    job.pieces.map(async ({ id }) => {
      const piece = await readPiece(db, id);
      const work = width ? workAtWidth(piece, width) : piece.work;
      if (!work) {
        throw new Problem(
          'usage',
          `${piece.fileName} has no paper yet: nothing follows from a width.`,
        );
      }
      return {
        digest: piece.digest,
        fileName: piece.fileName,
        reasons: piece.reasons,
        work,
        label,
      };
    }),
  );
  return beginJobWith(db, { ...job, due: null }, pieces);
}
