import { SettingsChange, type ShopSettings } from '@/core/shop/settings';
import { changeSettings, lastSettingChange, readSettings } from '@/server/db/settings';
import { body, route } from '@/server/http/route';
import { bounds } from '@/server/limits';
import type { Knex } from 'knex';

const asTheyAre = async (db: Knex): Promise<ShopSettings> => ({
  // Read first: whoever knows an older change is told of a clash, and writes over nothing.
  change: await lastSettingChange(db),
  settings: await readSettings(db),
  bounds: bounds(),
});

/** What the shop decides once for all jobs. */
export const GET = route(({ db }) => asTheyAre(db));

export const PATCH = route(async ({ db, request }) => {
  await changeSettings(db, await body(request, SettingsChange));
  return asTheyAre(db);
});
