import { askToCancel } from '@/server/db/sendings';
import { route } from '@/server/http/route';

/** Takes back what was not printed yet. */
export const POST = route<{ key: string }>(({ db, params: { key } }) => askToCancel(db, key));
