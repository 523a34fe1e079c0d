import { readRun } from '@/server/db/runs';
import { route } from '@/server/http/route';

export const GET = route<{ id: string }>(({ db, params }) => readRun(db, params.id));
