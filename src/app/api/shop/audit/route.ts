import { beginAudit, shopState } from '@/server/housekeeping/shop-state';
import { route } from '@/server/http/route';

/** Begins to compare database, files and digests. */
export const POST = route(async ({ db }) => {
  beginAudit();
  return shopState(db);
});
