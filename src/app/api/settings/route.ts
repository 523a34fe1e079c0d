import { SettingsChange } from '@/core/shop/settings';
import { changeSettings, readSettings } from '@/server/db/settings';
import { body, route } from '@/server/http/route';

/** What the shop decides once for all jobs. */
export const GET = route(({ db }) => readSettings(db));

export const PATCH = route(async ({ db, request }) =>
  changeSettings(db, await body(request, SettingsChange)),
);
