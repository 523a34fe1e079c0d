import type { Knex } from 'knex';
import type { HouseContent } from '@/core/house/house-recipe';
import type { HouseVersion } from '@/core/house/house-version';
import { itemFacts } from '@/core/batch/item-facts';
import { FINDINGS_VERSION } from '@/core/inspect/findings';
import { houseVersion } from '../db/house';
import { readPiece } from '../db/pieces';
import { usableModels } from '../files/models';
import { itemsChanged, touchBatch } from './changes';

/** Changes with what facts are computed by: kept ones are then computed anew. */
const FACTS_VERSION = `1.${FINDINGS_VERSION}`;

/** Pictures whose facts are written at once. */
const AT_ONCE = 50;

/** Makes anew what the table shows of pictures that were changed since. */
export async function refreshItems(db: Knex, batch: number): Promise<void> {
  const said = new Map<string, HouseContent | null>();
  for (;;) {
    const stale: { id: number; piece: number; trial: string }[] = await db('batch_items')
      .join('pieces', 'pieces.id', 'batch_items.piece_id')
      .where({ batch_id: batch, left_at: null })
      .whereRaw(`facts_of is not pieces.revision || '/' || trial || '/${FACTS_VERSION}'`)
      .limit(AT_ONCE)
      .select('batch_items.id', 'trial', { piece: 'piece_id' });
    if (stale.length === 0) return;
    const models = await usableModels();
    const made: { id: number; facts_of: string; wanted: string; facts: string }[] = [];
    for (const { id, piece, trial } of stale) {
      const read = await readPiece(db, piece);
      for (const { house } of read.work.trials) {
        if (!house || said.has(nameOf(house))) continue;
        said.set(nameOf(house), await contentOf(db, house));
      }
      const facts = itemFacts(read, trial, models, (of) => said.get(nameOf(of)) ?? null);
      const of = `${read.revision}/${trial}/${FACTS_VERSION}`;
      made.push({ id, facts_of: of, wanted: facts.made, facts: JSON.stringify(facts) });
    }
    await db.transaction(async (trx) => {
      await touchBatch(trx, batch);
      for (const { id, ...row } of made) {
        await trx('batch_items').where({ id }).update(row);
      }
      const items = made.map(({ id }) => id);
      await itemsChanged(trx, batch, { items });
    });
  }
}

const contentOf = (db: Knex, house: HouseVersion): Promise<HouseContent | null> =>
  houseVersion(db, house).then(
    ({ content }) => content,
    // What can't be read is not known to be followed.
    () => null,
  );

const nameOf = ({ id, version }: { id: number; version: number }): string => `${id}.${version}`;
