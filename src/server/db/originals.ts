import type { Knex } from 'knex';
import type { z } from 'zod';
import { Findings, Maps } from '@/core/inspect/findings';
import { Problem } from '../problem';
import { staleRowsOf } from './job-changes';

/** An original's file: its bytes lie in the file store under the digest. */
export interface StoredOriginal {
  digest: string;
  name: string;
}

/** A page of an original, and what was found on it. */
export interface StoredPage extends StoredOriginal {
  page: number;
  findings: Findings;
  /** findings part by part; null for shapes, and for what was looked at before there were maps */
  maps: Maps | null;
  /** embedded RGB profile, or null */
  profile: Buffer | null;
}

/** @throws Problem where there is no such original */
export async function findOriginal(db: Knex, digest: string): Promise<StoredOriginal> {
  const row = await db('originals').where({ digest }).first('digest', 'name');
  if (!row) throw new Problem('missing', 'There is no such original.');
  return row;
}

/**
 * What is known of a page, or null where nobody looked at it yet; also where that can't be read any more, so that it
 * is looked at again.
 */
export async function findPage(db: Knex, digest: string, page: number): Promise<StoredPage | null> {
  const row = await db('pages')
    .join('originals', 'originals.digest', 'pages.digest')
    .where({ 'pages.digest': digest, page })
    .first('pages.*', 'originals.name');
  const findings = row && parsed(Findings, row.findings);
  if (!findings) return null;
  const { name, profile } = row;
  return { digest, page, name, findings, maps: parsed(Maps, row.maps), profile };
}

/** JSON of a row in the shape of a schema, or null where it is not. */
function parsed<T>(schema: z.ZodType<T>, json: string | null): T | null {
  try {
    return json === null ? null : (schema.safeParse(JSON.parse(json)).data ?? null);
  } catch {
    return null;
  }
}

/** Stores what was found on a page; of the file only what isn't known yet. */
export async function keepPage(db: Knex, page: StoredPage): Promise<void> {
  await db.transaction(async (trx) => {
    await trx('originals')
      .insert({ digest: page.digest, name: page.name, taken_in_at: Date.now() })
      .onConflict('digest')
      .ignore();
    await trx('pages')
      .insert({
        digest: page.digest,
        page: page.page,
        findings: JSON.stringify(page.findings),
        maps: page.maps && JSON.stringify(page.maps),
        profile: page.profile,
      })
      .onConflict(['digest', 'page'])
      .merge();
    await staleRowsOf(trx, page.digest);
  });
}

/** Says that a known file came again: as long as no job uses it, how long it is kept begins anew. */
export const takenInAgain = (db: Knex, digest: string): Promise<number> =>
  db('originals').where({ digest }).update({ unused_rounds: 0 });

/** The page that a stored work takes, for SQL. */
export const PAGE_OF_WORK = "coalesce(json_extract(pieces.work, '$.framing.page'), 1)";
