import { openRuns } from '@/server/db/runs';
import { route } from '@/server/http/route';

/** Runs that are not over. */
export const GET = route(({ db }) => openRuns(db));
