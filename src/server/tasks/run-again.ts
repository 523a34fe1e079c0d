import { randomUUID } from 'node:crypto';
import type { Knex } from 'knex';
import { CORE_VERSION } from '@/core/recipe/recipe';
import { artifactOf, Run } from '@/core/shop/task';
import { queueTask, readTask } from '../db/tasks';
import { makeFolderOf, store } from '../files/store';
import { Problem } from '../problem';
import { refuseTooLarge } from '../render/limits';

/**
 * Queues the settled recipe of a run once more, whatever became of its trial since: by the same core it gives the same bytes.
 * @throws Problem where the run made no file, or the disk can't hold it
 */
export async function runAgain(db: Knex, taskId: string): Promise<Run> {
  const run = Run.safeParse(await readTask(db, taskId)).data;
  if (run?.state !== 'done') throw new Problem('usage', 'Only what was finished is made again.');
  const { recipe } = run.payload;
  const id = randomUUID();
  await refuseTooLarge(recipe, await makeFolderOf(store.result(id)));
  const payload = {
    ...run.payload,
    recipe: { ...recipe, core: CORE_VERSION },
    again: { run: run.id, digest: artifactOf(run, 'result')?.digest ?? null },
  };
  return Run.parse(await queueTask(db, { id, kind: 'render', pieceId: run.pieceId, payload }));
}
