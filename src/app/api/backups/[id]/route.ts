import { backupsOf } from '@/server/backup/works';
import { cancelBackup } from '@/server/db/backups';
import { numberFrom, route } from '@/server/http/route';

/** Ends one that goes on; it leaves nothing. */
export const DELETE = route<{ id: string }>(async ({ db, params }) => {
  await cancelBackup(db, numberFrom(params.id));
  return backupsOf(db);
});
