import { route } from '@/server/http/route';
import { runAgain } from '@/server/tasks/run-again';

/** Does the settled recipe of a finished run once more. */
export const POST = route<{ id: string }>(({ db, params: { id } }) => runAgain(db, id));
