import { readPace } from '@/server/db/pace';
import { route } from '@/server/http/route';

export const GET = route(({ db }) => readPace(db));
