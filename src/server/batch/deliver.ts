import { copyFile, mkdir, open, readdir, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { Knex } from 'knex';
import { BatchPlan } from '@/core/batch/batch';
import { freeName } from '@/core/output/names';
import { digestOfFile } from '../files/digest';
import { store } from '../files/store';
import { readFolders } from '../folders/folders';
import { errorCode, inWords, isDiskFull, Problem } from '../problem';
import { itemsChanged, touchBatch } from './changes';
import { presentItems, STATE } from './rows';

/** A folder that could not be written to is tried again after so long. */
const REST_MS = 10_000;
const resting = new Map<number, number>();
/** The last change of a batch after which nothing was left to be put anywhere. */
const settled = new Map<number, number>();

interface Row {
  id: number;
  plan: string;
  state: string;
  change: number;
  folder_trouble: string | null;
}

/**
 * Puts finished results of batches into the folders that were chosen for them, each once it is whole.
 * @param now in milliseconds since 1970
 */
export async function deliverResults(db: Knex, now = Date.now()): Promise<void> {
  const batches: Row[] = await db('batches')
    .whereNull('deleted_at')
    .whereRaw("json_extract(plan, '$.folder') is not null")
    .select('id', 'plan', 'state', 'change', 'folder_trouble');
  for (const { id, plan, state, change, folder_trouble: before } of batches) {
    // There are batches of years: nothing new comes of those that are not made any more, until something of them changes.
    if (state === 'done' && settled.get(id) === change) continue;
    if ((resting.get(id) ?? 0) > now) continue;
    const trouble = await deliver(db, id, BatchPlan.parse(JSON.parse(plan)).folder!).then(
      () => null,
      (error: unknown) => {
        if (!(error instanceof Problem)) console.error(error);
        resting.set(id, now + REST_MS);
        return `Results don't reach their folder: ${whyNot(error)}`;
      },
    );
    if (trouble === null) settled.set(id, change);
    if (trouble === before) continue;
    await db.transaction(async (trx) => {
      await touchBatch(trx, id);
      await trx('batches').where({ id }).update({ folder_trouble: trouble });
    });
  }
}

function whyNot(error: unknown): string {
  const code = errorCode(error);
  if (error instanceof Problem || isDiskFull(error) || !code) return inWords(error);
  return `it can't be written to (${code}). They are put there once it can.`;
}

interface Made {
  id: number;
  task_id: string;
  path: string;
  file_name: string;
  digest: string;
  delivered: string | null;
  delivered_task: string | null;
}

async function deliver(db: Knex, batch: number, name: string): Promise<void> {
  const made: Made[] = await presentItems(db, batch)
    .join('artifacts', 'artifacts.task_id', 'tasks.id')
    .where({ 'artifacts.role': 'result', 'artifacts.gone_at': null })
    .whereRaw(`${STATE} = 'done' and batch_items.delivered_task is not batch_items.task_id`)
    .orderBy('tasks.finished_at')
    .select('batch_items.*', 'artifacts.path', 'artifacts.file_name', 'artifacts.digest');
  if (made.length === 0) return;
  const folder = (await readFolders()).results.find((one) => one.name === name);
  if (!folder) {
    throw new Problem(
      'work',
      `the server's configuration names no folder “${name}” any more. Choose another one.`,
    );
  }
  await mkdir(folder.path, { recursive: true });
  for (const one of made) {
    const delivered = await put(db, folder.path, one);
    await db.transaction(async (trx) => {
      await touchBatch(trx, batch);
      await trx('batch_items')
        .where({ id: one.id })
        .update({ delivered, delivered_task: one.task_id });
      await itemsChanged(trx, batch, { items: [one.id] });
    });
  }
}

/**
 * Copies a result into a folder, under a name that nothing else there has. What was put there of the same picture before
 * goes, unless somebody changed it since.
 */
async function put(db: Knex, folder: string, made: Made): Promise<string> {
  const there = new Set(await readdir(folder));
  const before = made.delivered;
  if (
    before &&
    there.has(before) &&
    (await isAsMade(db, join(folder, before), made.delivered_task))
  ) {
    await rm(join(folder, before));
    there.delete(before);
  }
  for (let name = made.file_name; ; name = freeName(made.file_name, there)) {
    if (!there.has(name)) {
      const part = join(folder, `.${name}.part`);
      await copyFile(store.named(made.path), part);
      const file = await open(part, 'r+');
      await file.sync().finally(() => file.close());
      await rename(part, join(folder, name));
      return name;
    }
    // Killed between putting it there and writing that down.
    const others = await db('batch_items').where({ delivered: name }).first('id');
    if (
      !others &&
      name === made.file_name &&
      (await digestOfFile(join(folder, name))) === made.digest
    )
      return name;
  }
}

/** Whether a file is still what a run made. */
async function isAsMade(db: Knex, path: string, task: string | null): Promise<boolean> {
  const made = await db('artifacts').where({ task_id: task, role: 'result' }).first('digest');
  return made !== undefined && (await digestOfFile(path)) === made.digest;
}
