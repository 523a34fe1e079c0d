import type { Knex } from 'knex';
import { Problem } from '../problem';
import { staleRowsOf } from './job-changes';

/** A picture of a page of shapes: the file that it became, or why it could not be taken out. */
export interface StoredTakenOut {
  picture: number;
  digest: string | null;
  why: string | null;
}

/** What is known of a page's pictures, in their order. */
export const findTakenOut = (db: Knex, parent: string, page: number): Promise<StoredTakenOut[]> =>
  db('taken_out').where({ parent, page }).orderBy('picture').select('picture', 'digest', 'why');

/** Keeps that a picture was taken out, or why it could not be. */
export async function keepTakenOut(
  db: Knex,
  parent: string,
  page: number,
  found: StoredTakenOut,
): Promise<void> {
  await db('taken_out')
    .insert({ parent, page, ...found })
    .onConflict(['parent', 'page', 'picture'])
    .merge();
  await staleRowsOf(db, parent);
}

/** @throws Problem where none of the files was taken out of a page of the document */
export async function expectTakenOut(
  db: Knex,
  parent: string,
  page: number,
  digests: readonly string[],
): Promise<void> {
  const known = await findTakenOut(db, parent, page);
  const all = new Set(known.map(({ digest }) => digest));
  if (digests.some((digest) => !all.has(digest))) {
    throw new Problem('missing', 'One of these pictures was not taken out of this page.');
  }
}
