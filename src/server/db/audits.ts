import type { Knex } from 'knex';
import { Audit } from '@/core/shop/audit';

/** Audits that are kept, the newest ones. */
const KEPT = 50;

export async function keepAudit(db: Knex, audit: Audit): Promise<void> {
  await db.transaction(async (trx) => {
    await trx('audits').insert({ at: audit.at, audit: JSON.stringify(audit) });
    const kept = trx('audits').orderBy('id', 'desc').limit(KEPT).select('id');
    await trx('audits').whereNotIn('id', kept).delete();
  });
}

export async function lastAudit(db: Knex): Promise<Audit | null> {
  const row = await db('audits').orderBy('id', 'desc').first('audit');
  return row ? Audit.parse(JSON.parse(row.audit)) : null;
}
