import { stat, statfs } from 'node:fs/promises';
import type { Knex } from 'knex';
import type { ShopState } from '@/core/shop/audit';
import { config } from '../config';
import { lastAudit } from '../db/audits';
import { spareBytes } from '../files/room';
import { store } from '../files/store';
import { filesIn } from '../files/sweep';
import { lastNews } from '../supervisor/news';
import { startChore } from './start';

// Next loads route handlers in separate bundles; they share what goes on through this process.
const shared = globalThis as { lontanoAudit?: Promise<boolean> };

/** Begins an audit, unless one goes on. */
export function beginAudit(): void {
  shared.lontanoAudit ??= startChore('audit').finally(() => (shared.lontanoAudit = undefined));
}

/** Thousands of files are not measured anew for everybody who looks. */
const MEASURED_MS = 5000;
let measured: { at: number; disk: Promise<ShopState['disk']> } | undefined;

function diskOf(db: Knex): Promise<ShopState['disk']> {
  const now = performance.now();
  if (!measured || now - measured.at > MEASURED_MS) measured = { at: now, disk: measure(db) };
  measured.disk.catch(() => (measured = undefined));
  return measured.disk;
}

async function measure(db: Knex): Promise<ShopState['disk']> {
  const { data, keptBytes } = config();
  const originals = await Promise.all(
    (await filesIn('originals')).map((path) => stat(store.named(path)).catch(() => null)),
  );
  const { bavail, bsize } = await statfs(data);
  return {
    originals: originals.reduce((sum, file) => sum + (file?.size ?? 0), 0),
    again: await spareBytes(db),
    againLimit: keptBytes,
    free: bavail * bsize,
  };
}

/** How the shop is: its processes, its room, and what the last audit found. */
export const shopState = async (db: Knex): Promise<ShopState> => ({
  news: lastNews(),
  disk: await diskOf(db),
  audit: await lastAudit(db),
  auditing: shared.lontanoAudit !== undefined,
});
