import { readPace } from '@/server/db/runs';
import { route } from '@/server/http/route';

export const GET = route(({ db }) => readPace(db));
