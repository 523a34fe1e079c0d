import { formatISO } from 'date-fns';
import { randomUUID } from 'node:crypto';
import type { Knex } from 'knex';
import { freeName, type NamePattern } from '@/core/output/names';
import type { RunRequest } from '@/core/shop/job';
import { factsOf, resultName } from '@/core/shop/result-name';
import { Run } from '@/core/shop/task';
import { resolveRecipe } from '@/core/recipe/resolve';
import { asFarAs, stagesOf } from '@/core/recipe/stages';
import type { Trial, Work } from '@/core/recipe/work';
import { originalOf } from '@/core/recipe/original';
import { changeJob, headOfJob } from '../db/jobs';
import { readPiece } from '../db/pieces';
import { readSettings } from '../db/settings';
import { queueTask, resultNamesTaken } from '../db/tasks';
import { usableModels } from '../files/models';
import { makeFolderOf, store } from '../files/store';
import { Problem } from '../problem';
import { refuseTooLarge } from '../render/limits';

/** A run that a batch asks for. */
export interface ForBatch {
  batch: number;
  /** the run's, known to the batch before it is queued */
  id: string;
  /** what results are called */
  names: NamePattern;
}

/**
 * Resolves a trial as it stands and queues its full-size rendering.
 * @throws Problem where the piece was changed meanwhile or the print can't be made
 */
export async function requestRun(
  db: Knex,
  pieceId: number,
  request: RunRequest,
  forBatch?: ForBatch,
): Promise<Run> {
  const piece = await readPiece(db, pieceId);
  if (piece.revision !== request.revision) {
    throw new Problem(
      'conflict',
      'This picture was changed meanwhile. Look at it and start the run again.',
      piece,
    );
  }
  const { trial, stage } = asked(piece.work, request);
  const original = originalOf(piece.digest, piece.findings, piece.takenOut);
  const resolved = resolveRecipe(original, piece.work, trial, await usableModels());
  if (!resolved.ok) throw new Problem('usage', resolved.reason);
  const id = forBatch?.id ?? randomUUID();
  const out = await makeFolderOf(store.result(id));
  await refuseTooLarge(resolved.recipe, out);
  const job = await headOfJob(db, piece.jobId);
  if (job.state === 'received') await changeJob(db, job.id, { state: 'on the bench' });
  const date = formatISO(new Date(), { representation: 'date' });
  const named = { job, file: piece.fileName, work: piece.work, trial, date };
  const naming = forBatch ? { fileNames: forBatch.names } : await readSettings(db);
  const taken = await resultNamesTaken(db, job.id, { pieceId, trialId: trial.id, stage });
  const payload = {
    trialId: trial.id,
    trialName: trial.name,
    stage,
    recipe: resolved.recipe,
    again: null,
    fileName: freeName(resultName(named, naming), taken),
    facts: factsOf(
      stage ? { ...named, trial: { ...trial, name: `${trial.name} ${stage}` } } : named,
    ),
    batch: forBatch?.batch ?? null,
  };
  return Run.parse(await queueTask(db, { id, kind: 'render', pieceId, payload }));
}

/** The trial of a request, as far as the step after which it is wanted. */
function asked(
  work: Work,
  { trialId, after = null }: RunRequest,
): { trial: Trial; stage: string | null } {
  const trial = work.trials.find((one) => one.id === trialId);
  if (!trial) throw new Problem('missing', 'There is no such trial.');
  if (after === null) return { trial, stage: null };
  const stage = stagesOf(trial.treatment).find(({ index }) => index === after);
  if (!stage) throw new Problem('usage', 'The trial has no such step to be written after.');
  return { trial: { ...trial, treatment: asFarAs(trial.treatment, after) }, stage: stage.name };
}
