import { readLists } from '@/server/db/lists';
import { route } from '@/server/http/route';

export const GET = route(({ db }) => readLists(db));
