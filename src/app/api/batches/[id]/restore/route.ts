import { restoreBatch } from '@/server/batch/batches';
import { numberFrom, route } from '@/server/http/route';

/** Brings one back that was deleted. */
export const POST = route<{ id: string }>(({ db, params }) =>
  restoreBatch(db, numberFrom(params.id)),
);
