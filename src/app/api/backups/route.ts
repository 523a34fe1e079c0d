import { BackupRequest } from '@/core/shop/backups';
import { backupsOf, beginBackup } from '@/server/backup/works';
import { body, route } from '@/server/http/route';

/** Archives of the whole shop, and what goes on with them. */
export const GET = route(({ db }) => backupsOf(db));

/** Begins to write one, or to compare one with its own list. */
export const POST = route(async ({ db, request }) => {
  await beginBackup(db, await body(request, BackupRequest));
  return backupsOf(db);
});
