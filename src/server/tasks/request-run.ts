import slugify from '@sindresorhus/slugify';
import { randomUUID } from 'node:crypto';
import type { Knex } from 'knex';
import { formatNumber } from '@/core/measure/format';
import { formatOf } from '@/core/output/formats';
import { formatLength, type Length } from '@/core/measure/units';
import type { RunRequest } from '@/core/shop/job';
import { Run } from '@/core/shop/task';
import type { Trial, Work } from '@/core/recipe/work';
import { resolveRecipe } from '@/core/recipe/resolve';
import { originalOf } from '@/core/recipe/original';
import { readJob, changeJob } from '../db/jobs';
import { readPiece } from '../db/pieces';
import { queueTask } from '../db/tasks';
import { usableModels } from '../files/models';
import { makeFolderOf, store } from '../files/store';
import { Problem } from '../problem';
import { refuseTooLarge } from '../render/limits';

/**
 * Resolves a trial as it stands and queues its full-size rendering.
 * @throws Problem where the piece was changed meanwhile or the print can't be made
 */
export async function requestRun(db: Knex, pieceId: number, request: RunRequest): Promise<Run> {
  const piece = await readPiece(db, pieceId);
  if (piece.revision !== request.revision) {
    throw new Problem(
      'conflict',
      'This picture was changed meanwhile. Look at it and start the run again.',
      piece,
    );
  }
  const trial = piece.work.trials.find((one) => one.id === request.trialId);
  if (!trial) throw new Problem('missing', 'There is no such trial.');
  const original = originalOf(piece.digest, piece.findings, piece.takenOut);
  const resolved = resolveRecipe(original, piece.work, trial, await usableModels());
  if (!resolved.ok) throw new Problem('usage', resolved.reason);
  const id = randomUUID();
  const out = await makeFolderOf(store.result(id));
  await refuseTooLarge(resolved.recipe, out);
  const job = await readJob(db, piece.jobId);
  if (job.state === 'received') await changeJob(db, job.id, { state: 'on the bench' });
  const payload = {
    trialId: trial.id,
    trialName: trial.name,
    recipe: resolved.recipe,
    fileName: resultName(job.number, job.title, piece.work, trial),
  };
  return Run.parse(await queueTask(db, { id, kind: 'render', pieceId, payload }));
}

/** A result's name: job, title, paper and ppi, in letters that every file system takes. */
export function resultName(number: string, title: string, work: Work, trial: Trial): string {
  const parts = [number, slugify(title).slice(0, 40), paperName(work), `${trial.ppi}ppi`];
  return `${parts.filter(Boolean).join('-')}.${formatOf(trial.output.format).endings[0]}`;
}

/** The ordered paper in a file name: 120x80cm, 120cm where the height follows, or nothing. */
function paperName({ paper: { width, height } }: Work): string {
  const words = (side: Length) => formatLength(side).replace(' ', '').replace('%', 'pc');
  if (width && height && width.unit === height.unit) {
    return `${formatNumber(width.value)}x${words(height)}`;
  }
  return [width, height].flatMap((side) => (side ? [words(side)] : [])).join('x');
}
