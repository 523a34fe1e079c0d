import type { Knex } from 'knex';
import {
  AGAIN,
  BATCH_MOST,
  NewItems,
  type ItemChange,
  type ItemsAct,
  type BatchState,
  type ItemsOutcome,
  type Judgement,
} from '@/core/batch/batch';
import { planItem, type Planned } from '@/core/batch/plan-item';
import type { ListedHouse } from '@/core/house/house-recipe';
import type { Author } from '@/core/shop/author';
import { patchBetween } from '@/core/shop/change';
import { listHouse } from '../db/house';
import { changePiece, movePiece, readPiece } from '../db/pieces';
import { inWords, Problem } from '../problem';
import { noteRefused, planOfBatch } from './batches';
import { itemsChanged, touchBatch } from './changes';
import { presentItems, STATE } from './rows';

/** A picture of a batch as its row has it. */
interface Row {
  id: number;
  piece_id: number;
  trial: string;
  own: number;
  position: number;
  judgement: Judgement | null;
}

/** A picture that somebody changes at the same moment is tried so often. */
const TRIES = 3;

/**
 * Puts pictures into a batch, each planned as it says. One that is in it already stays as it is; what can't be planned is in
 * it as failed, with why.
 * @param own what is decided for these otherwise
 * @returns how many pictures joined
 */
export async function addItems(
  db: Knex,
  batch: number,
  added: NewItems,
  own: ItemChange = {},
): Promise<number> {
  const { pieces, refused, author } = NewItems.parse(added);
  const plan = { ...(await planOfBatch(db, batch)), ...own };
  const recipes = await recipesFor(db, plan);
  const label = await labelOf(db, batch);
  let joined = 0;
  for (const piece of new Set(pieces)) {
    joined += Number(await join(db, batch, piece, { plan, recipes, label, author }));
  }
  await db.transaction(async (trx) => {
    await touchBatch(trx, batch);
    await noteRefused(trx, batch, refused);
  });
  return joined;
}

/** What pictures are planned by. */
interface By {
  plan: ItemChange;
  recipes: readonly ListedHouse[];
  label: string;
  author: Author | null;
}

const recipesFor = async (db: Knex, { steps }: ItemChange): Promise<readonly ListedHouse[]> =>
  steps?.by === 'suiting' || steps?.by === 'house' ? listHouse(db) : [];

const labelOf = async (db: Knex, batch: number): Promise<string> =>
  `Batch “${(await db('batches').where({ id: batch }).first('name')).name}”`.slice(0, 120);

async function join(db: Knex, batch: number, piece: number, by: By): Promise<boolean> {
  const { work, revision } = await readPiece(db, piece);
  return db.transaction(async (trx) => {
    const change = await touchBatch(trx, batch);
    const [there] = await trx('batch_items')
      .where({ batch_id: batch })
      .count({ count: '*' })
      .max({ last: 'position' });
    if (Number(there!.count) >= BATCH_MOST) {
      throw new Problem('usage', `A batch has at most ${BATCH_MOST} pictures. Begin another one.`);
    }
    // Nobody has worked on a picture that just came: its trial is the batch's.
    const own = revision === 0 && work.trials.length === 1;
    const [row] = await trx('batch_items')
      .insert({
        ...{ batch_id: batch, piece_id: piece, position: Number(there!.last ?? 0) + 1, change },
        ...{ trial: work.trials[0]!.id, own },
      })
      .onConflict()
      .ignore()
      .returning('*');
    if (!row) return false;
    await planRow(trx, row, by).catch(async (error: unknown) => {
      if (!(error instanceof Problem)) throw error;
      await trx('batch_items').where({ id: row.id }).update({ error: error.message });
    });
    return true;
  });
}

/** Where a picture was before it was planned anew. */
type Back = { item: number; revision: number; to: number } & Pick<Planned, 'trial' | 'own'>;

/**
 * Plans a picture: its work changes with the row, or neither does.
 * @param trx which has written before
 * @returns what takes it back; null where nothing changed
 */
async function planRow(
  trx: Knex,
  row: Row,
  { plan, recipes, label, author }: By,
): Promise<Back | null> {
  const piece = await readPiece(trx, row.piece_id);
  const before = { work: piece.work, trial: row.trial, own: Boolean(row.own) };
  const planned = planItem(piece, before, plan, recipes);
  if (!planned.ok) throw new Problem('usage', planned.reason);
  const { work, trial, own } = planned;
  await trx('batch_items').where({ id: row.id }).update({ trial, own, error: null });
  const patch = patchBetween(piece.work, work);
  if (patch.length === 0) return null;
  const { revision } = await changePiece(trx, piece.id, {
    ...{ revision: piece.revision, label, patch },
    author,
  });
  return { item: row.id, revision, to: piece.current, trial: before.trial, own: before.own };
}

/** One act on some pictures of a batch. What goes wrong with one is said, and the others go on. */
export async function actOnItems(db: Knex, batch: number, act: ItemsAct): Promise<ItemsOutcome> {
  switch (act.act) {
    case 'change':
      return change(db, batch, act);
    case 'undo':
      return undo(db, batch, act);
    case 'judge':
      return judge(db, batch, act);
    case 'retry':
      return retry(db, batch, act);
    case 'move':
      return move(db, batch, act);
    case 'place':
      return place(db, batch, act);
    case 'leave':
      return alike(db, batch, act.items, { left_at: Date.now() }, [back(act.items, 'return')]);
    case 'return':
      return alike(db, batch, act.items, { left_at: null }, [back(act.items, 'leave')]);
  }
}

const asItem = (item: number) => ({ item });

type Of<Kind extends ItemsAct['act']> = Extract<ItemsAct, { act: Kind }>;

/** Does something to each of some rows, and says to which it could not. */
async function each<T extends { item: number }>(
  db: Knex,
  batch: number,
  wanted: readonly T[],
  act: (trx: Knex, row: Row, one: T) => Promise<void>,
): Promise<Omit<ItemsOutcome, 'undo'>> {
  const outcome: Omit<ItemsOutcome, 'undo'> = { done: 0, failed: [] };
  for (const one of wanted) {
    const { item } = one;
    for (let tries = 1; ; tries++) {
      try {
        await db.transaction(async (trx) => {
          await touchBatch(trx, batch);
          const row: Row | undefined = await trx('batch_items')
            .where({ id: item, batch_id: batch })
            .first();
          if (!row) throw new Problem('missing', 'This picture is not in the batch any more.');
          await act(trx, row, one);
          await itemsChanged(trx, batch, { items: [item] });
        });
        outcome.done++;
        break;
      } catch (error) {
        if (!(error instanceof Problem)) throw error;
        if (error.kind === 'conflict' && tries < TRIES) continue;
        outcome.failed.push({ item, words: inWords(error) });
        break;
      }
    }
  }
  return outcome;
}

async function change(
  db: Knex,
  batch: number,
  { items, change: plan, author }: Of<'change'>,
): Promise<ItemsOutcome> {
  const by = { plan, author, recipes: await recipesFor(db, plan), label: await labelOf(db, batch) };
  const moves: Back[] = [];
  const outcome = await each(db, batch, items.map(asItem), async (trx, row) => {
    const back = await planRow(trx, row, by);
    if (back) moves.push(back);
  });
  return { ...outcome, undo: moves.length > 0 ? [{ act: 'undo', moves, author }] : [] };
}

async function undo(db: Knex, batch: number, { moves, author }: Of<'undo'>): Promise<ItemsOutcome> {
  const forth: Back[] = [];
  const outcome = await each(db, batch, moves, async (trx, row, { revision, to, trial, own }) => {
    await trx('batch_items').where({ id: row.id }).update({ trial, own });
    const { current } = await readPiece(trx, row.piece_id);
    const piece = await movePiece(trx, row.piece_id, { revision, to, author });
    forth.push({
      ...{ item: row.id, revision: piece.revision, to: current },
      ...{ trial: row.trial, own: Boolean(row.own) },
    });
  });
  return { ...outcome, undo: forth.length > 0 ? [{ act: 'undo', moves: forth, author }] : [] };
}

async function judge(
  db: Knex,
  batch: number,
  { items, judgement }: Of<'judge'>,
): Promise<ItemsOutcome> {
  const before = new Map<Judgement | null, number[]>();
  const outcome = await each(db, batch, items.map(asItem), async (trx, row) => {
    before.set(row.judgement, [...(before.get(row.judgement) ?? []), row.id]);
    await trx('batch_items').where({ id: row.id }).update({ judgement });
  });
  const undo = [...before].map(([was, those]): ItemsAct => ({
    act: 'judge',
    items: those,
    judgement: was,
  }));
  return { ...outcome, undo };
}

const back = (items: number[], act: 'leave' | 'return'): ItemsAct => ({ act, items });

async function retry(db: Knex, batch: number, { items }: Of<'retry'>): Promise<ItemsOutcome> {
  const outcome = await each(db, batch, items.map(asItem), async (trx, { id }) => {
    // What is made, or on its way, is not made twice.
    const touched = await trx('batch_items')
      .where({ id })
      .whereIn(
        'id',
        presentItems(trx, batch)
          .whereRaw(`${STATE} in (${AGAIN.map(() => '?').join()})`, [...AGAIN])
          .select('batch_items.id'),
      )
      .update({ task_id: null, error: null, made: null });
    if (touched === 0) throw new Problem('usage', 'It is made, or waits to be made.');
  });
  // Where all else is made they are made at once.
  await db('batches')
    .where({ id: batch, state: 'done' satisfies BatchState })
    .update({ state: 'running' satisfies BatchState, trouble: null });
  return { ...outcome, undo: [] };
}

/** Gives rows the same values. */
async function alike(
  db: Knex,
  batch: number,
  items: number[],
  values: object,
  undo: ItemsAct[],
): Promise<ItemsOutcome> {
  const outcome = await each(db, batch, items.map(asItem), async (trx, row) => {
    await trx('batch_items').where({ id: row.id }).update(values);
  });
  return { ...outcome, undo };
}

async function move(db: Knex, batch: number, { items, to }: Of<'move'>): Promise<ItemsOutcome> {
  const [ends] = await db('batch_items')
    .where({ batch_id: batch })
    .min({ first: 'position' })
    .max({ last: 'position' });
  const begin = to === 'first' ? Number(ends!.first) - items.length : Number(ends!.last) + 1;
  const places = items.map((item, i) => ({ item, position: begin + i }));
  return place(db, batch, { act: 'place', places });
}

async function place(db: Knex, batch: number, { places }: Of<'place'>): Promise<ItemsOutcome> {
  const before: Of<'place'>['places'] = [];
  const outcome = await each(db, batch, places, async (trx, row, { position }) => {
    before.push({ item: row.id, position: row.position });
    await trx('batch_items').where({ id: row.id }).update({ position });
  });
  return { ...outcome, undo: before.length > 0 ? [{ act: 'place', places: before }] : [] };
}
