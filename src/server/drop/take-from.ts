import { createReadStream } from 'node:fs';
import { mkdir, readdir, rename, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { formatISO } from 'date-fns';
import type { Knex } from 'knex';
import type { BatchPlan } from '@/core/batch/batch';
import { bareName, freeName } from '@/core/output/names';
import { NewJob } from '@/core/shop/job';
import { OPEN_PAPER } from '@/core/measure/paper';
import { addBatch, changeBatch } from '../batch/batches';
import { addItems } from '../batch/items';
import { limitsOf } from '../limits';
import { houseNamed } from '../db/house';
import { beginJob } from '../db/jobs';
import { readLists } from '../db/lists';
import { takeIn } from '../files/take-in';
import { ruleOf, stepsOf, type Drop } from '../folders/folders';
import { inWords, Problem } from '../problem';
import { isOrder, orderFor, paperOrdered, readOrders, type Orders } from './orders';
import type { Found } from './settled';

/** Where files go within a watched folder once they are seen to. */
export const TAKEN = 'taken in';
export const ASIDE = 'put aside';

/**
 * Takes what stands still in a watched folder: pictures become jobs in its batch of the day, and what can't be used is put
 * aside with a note. Killed at any moment, no file is lost and none becomes two jobs.
 */
export async function takeFrom(db: Knex, drop: Drop, found: readonly Found[]): Promise<void> {
  const orders: Orders = new Map();
  const lists: Found[] = [];
  for (const file of found.filter(({ name }) => isOrder(name))) {
    try {
      if (!file.regular) throw new Problem('input', LINK);
      for (const [name, order] of await readOrders(drop.path, file.name)) orders.set(name, order);
      lists.push(file);
    } catch (error) {
      await putAside(db, drop, file, error);
    }
  }
  const pictures = found.filter(({ name }) => !isOrder(name));
  // What is wrong with the folder's own rule or recipe is no fault of files that are put there.
  const batch = pictures.length > 0 ? await batchOfDay(db, drop) : null;
  let trouble: unknown = null;
  for (const file of pictures) {
    try {
      await takePicture(db, drop, batch!, file, orders);
    } catch (error) {
      // The machine's trouble is not the file's: it is tried again, and the others go on.
      const own = error instanceof Problem && error.kind !== 'full' && error.kind !== 'work';
      if (own) await putAside(db, drop, file, error);
      else trouble ??= error;
    }
  }
  for (const list of lists)
    if (await isServed(db, drop, list)) await moveInto(drop.path, TAKEN, list.name);
  if (trouble !== null) throw trouble;
}

const LINK = 'It is a link, and links are not followed.';

async function takePicture(
  db: Knex,
  drop: Drop,
  batch: number,
  file: Found,
  orders: Orders,
): Promise<void> {
  const { name, bytes, changedAt, regular } = file;
  if (!regular) throw new Problem('input', LINK);
  const most = (await limitsOf(db)).uploadBytes;
  if (bytes > most) {
    throw new Problem('input', `It has ${Math.round(bytes / 1e6)} MB; ${most / 1e6} are taken.`);
  }
  const order = orderFor(orders, name);
  const { sheets } = await readLists(db);
  const body = Readable.toWeb(createReadStream(join(drop.path, name)));
  const { digest, fileName, findings } = await takeIn(db, body as ReadableStream<Uint8Array>, name);
  if (findings.damaged > 0) {
    const share = Math.max(1, Math.round(findings.damaged * 100));
    throw new Problem('input', `About ${share} % of the picture is missing. Ask for it again.`);
  }
  const paper = paperOrdered(order, findings, sheets);
  const known = { drop: drop.name, name, bytes, changed_at: changedAt, digest, moved: false };
  const before: { job_id: number } | undefined = await db('drop_files').where(known).first();
  const job =
    before?.job_id ??
    (await beginJob(
      db,
      NewJob.parse({
        title: order.title || bareName(fileName) || fileName,
        ...{ customer: order.customer ?? drop.customer, due: order.due || null, note: order.note },
        pictures: [{ digest, fileName }],
        ...{ paper: paper ?? OPEN_PAPER, distance: drop.distance },
        ...{ device: order.device || drop.device, material: order.material || drop.material },
      }),
      async (trx, id) => {
        await trx('drop_files').insert({ ...known, job_id: id, at: Date.now() });
      },
    ));
  const own: number[] = await db('pieces').where({ job_id: job }).pluck('id');
  // Ended after it had joined one, it stays in that: since then the day may have changed, and with it the batch.
  const joined: number[] = await db('batch_items').whereIn('piece_id', own).pluck('piece_id');
  const pieces = own.filter((piece) => !joined.includes(piece));
  // What the customer wrote comes before the folder's rule.
  await addItems(db, batch, { pieces }, paper ? { size: { by: 'ordered' } } : {});
  if (drop.make) await changeBatch(db, batch, { state: 'running' });
  await moveInto(drop.path, TAKEN, name);
  await db('drop_files').where(known).update({ moved: true });
  await db('drops').where({ name: drop.name }).increment('taken_in');
}

/** The batch that a folder's pictures join today. */
async function batchOfDay(db: Knex, drop: Drop): Promise<number> {
  const day = formatISO(new Date(), { representation: 'date' });
  const row = await db('drops').where({ name: drop.name }).first();
  const there =
    row?.day === day &&
    (await db('batches').where({ id: row.batch_id, deleted_at: null }).first('id'));
  if (there) return there.id;
  const { sheets } = await readLists(db);
  const plan: BatchPlan = {
    ...{ size: ruleOf(drop, sheets), ppi: drop.ppi, file: drop.file, names: drop.names },
    steps: await stepsOf(drop, (name) => houseNamed(db, name)),
    folder: drop.results,
  };
  const { id } = await addBatch(db, { name: `${drop.name}, ${day}`, plan });
  await db('drops').where({ name: drop.name }).update({ batch_id: id, day });
  return id;
}

/** Whether all files that a list names were seen to since it came; until then it waits for them. */
async function isServed(db: Knex, drop: Drop, { name, changedAt }: Found): Promise<boolean> {
  const seen: string[] = await db('drop_files')
    .where({ drop: drop.name, moved: true })
    .where('at', '>', changedAt)
    .pluck('name');
  return [...(await readOrders(drop.path, name)).keys()].every((file) =>
    seen.some((one) => one === file || bareName(one) === file),
  );
}

/** Moves a file where it is nobody's task any more, with a note that says why. */
async function putAside(db: Knex, drop: Drop, file: Found, error: unknown): Promise<void> {
  const { name, bytes, changedAt } = file;
  // The note first: a file that lies there is never without one.
  const words = `${name} was put aside.\n${inWords(error)}\n`;
  await moveInto(drop.path, ASIDE, name, (free) => writeFile(`${free}.txt`, words));
  await db('drop_files').insert({
    ...{ drop: drop.name, name, bytes, changed_at: changedAt, at: Date.now(), moved: true },
  });
  await db('drops').where({ name: drop.name }).increment('put_aside');
}

/** Moves a file to a name that is free there: none is written over. @param before is done with its path before it is there */
async function moveInto(
  folder: string,
  within: string,
  name: string,
  before = async (_: string): Promise<void> => {},
): Promise<void> {
  const to = join(folder, within);
  await mkdir(to, { recursive: true });
  const free = join(to, freeName(name, new Set(await readdir(to))));
  await before(free);
  await rename(join(folder, name), free);
}
