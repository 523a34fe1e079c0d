import { statfs } from 'node:fs/promises';
import type { Knex } from 'knex';
import type { ShopState } from '@/core/shop/audit';
import { config } from '../config';
import { lastAudit } from '../db/audits';
import { lastMeasured } from '../db/measured';
import { limitsOf } from '../limits';
import { lastNews } from '../supervisor/news';
import { startChore } from './start';

// Next loads route handlers in separate bundles; they share what goes on through this process.
const shared = globalThis as { lontanoAudit?: Promise<boolean> };

/** Begins an audit, unless one goes on. */
export function beginAudit(): void {
  shared.lontanoAudit ??= startChore('audit').finally(() => (shared.lontanoAudit = undefined));
}

async function diskOf(db: Knex): Promise<ShopState['disk']> {
  const { bavail, bsize } = await statfs(config().data);
  const { keptBytes } = await limitsOf(db);
  const { originals = null, again = null } = (await lastMeasured(db)) ?? {};
  return { originals, again, againLimit: keptBytes, free: bavail * bsize };
}

/** How the shop is: its processes, its room, and what the last audit found. */
export const shopState = async (db: Knex): Promise<ShopState> => ({
  news: lastNews(),
  disk: await diskOf(db),
  audit: await lastAudit(db),
  auditing: shared.lontanoAudit !== undefined,
});
