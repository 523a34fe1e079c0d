import type { Knex } from 'knex';
import { originalOf } from '@/core/recipe/original';
import { resolveRecipe } from '@/core/recipe/resolve';
import { ApprovalRequest, signedAs, standingApproval, Withdrawal } from '@/core/shop/event';
import { artifactOf } from '@/core/shop/task';
import { usableModels } from '../files/models';
import { Problem } from '../problem';
import { appendEvent, eventsOfJob } from './events';
import { setState } from './jobs';
import { readPiece } from './pieces';
import { runsOfPiece } from './tasks';

/**
 * Signs for a trial's file. Where all pictures of a job are signed for, the job is approved.
 * @throws Problem where the picture was changed meanwhile, or there is no file of the trial as it stands
 */
export async function approve(db: Knex, pieceId: number, request: ApprovalRequest): Promise<void> {
  const { revision, trialId, ...signed } = ApprovalRequest.parse(request);
  const piece = await readPiece(db, pieceId);
  if (piece.revision !== revision) {
    throw new Problem('conflict', 'This picture was changed meanwhile. Look at it and sign again.');
  }
  const trial = piece.work.trials.find(({ id }) => id === trialId);
  if (!trial) throw new Problem('missing', 'There is no such trial.');
  const original = originalOf(piece.digest, piece.findings, piece.takenOut);
  const resolved = resolveRecipe(original, piece.work, trial, await usableModels());
  if (!resolved.ok) throw new Problem('usage', resolved.reason);
  const recipe = signedAs(resolved.recipe);
  const made = (await runsOfPiece(db, pieceId)).find(
    (run) => run.state === 'done' && signedAs(run.payload.recipe) === recipe,
  );
  const file = made && artifactOf(made, 'result');
  if (!made || !file?.digest) {
    throw new Problem('usage', `Run ${trial.name} first: what is signed for is its file.`);
  }
  const { jobId } = piece;
  await db.transaction(async (trx) => {
    await appendEvent(
      trx,
      { jobId, pieceId },
      {
        ...{ kind: 'approved', trialId, trialName: trial.name, recipe, run: made.id },
        ...{ fileName: file.fileName, digest: file.digest!, ...signed },
      },
    );
    const events = await eventsOfJob(trx, jobId);
    const pieces: number[] = await trx('pieces').where({ job_id: jobId }).pluck('id');
    if (pieces.every((id) => standingApproval(events, id))) await setState(trx, jobId, 'approved');
  });
}

/** Takes a signature back; the job is on the bench again. @throws Problem where nobody signed */
export async function withdraw(db: Knex, pieceId: number, withdrawal: Withdrawal): Promise<void> {
  const { initials, note } = Withdrawal.parse(withdrawal);
  const { jobId } = await readPiece(db, pieceId);
  await db.transaction(async (trx) => {
    // Written first: a transaction that reads first may find its writing refused.
    await appendEvent(trx, { jobId, pieceId }, { kind: 'approval withdrawn', initials, note });
    const [, ...before] = await eventsOfJob(trx, jobId);
    if (!standingApproval(before, pieceId)) {
      throw new Problem('usage', 'Nobody has signed for this picture.');
    }
    const { state } = await trx('jobs').where({ id: jobId }).first('state');
    if (state === 'approved') await setState(trx, jobId, 'on the bench');
  });
}
