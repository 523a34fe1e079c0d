import { cancelRun } from '@/server/db/runs';
import { route } from '@/server/http/route';

export const POST = route<{ id: string }>(({ db, params }) => cancelRun(db, params.id));
