import type { Knex } from 'knex';
import { Findings } from '@/core/inspect/findings';

/** An original as the database knows it; its bytes lie in the file store under the digest. */
export interface StoredOriginal {
  digest: string;
  name: string;
  findings: Findings;
  /** embedded RGB profile, or null */
  profile: Buffer | null;
}

export async function findOriginal(db: Knex, digest: string): Promise<StoredOriginal | null> {
  const row = await db('originals').where({ digest }).first();
  return row
    ? {
        digest: row.digest,
        name: row.name,
        findings: Findings.parse(JSON.parse(row.findings)),
        profile: row.profile,
      }
    : null;
}

/** Stores an original unless it is there already. */
export async function keepOriginal(db: Knex, original: StoredOriginal): Promise<void> {
  await db('originals')
    .insert({
      digest: original.digest,
      name: original.name,
      findings: JSON.stringify(original.findings),
      profile: original.profile,
      taken_in_at: Date.now(),
    })
    .onConflict('digest')
    .ignore();
}
