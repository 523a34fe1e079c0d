import { storageOf } from '@/server/housekeeping/storage';
import { route } from '@/server/http/route';

/** What takes how much of the shop's disk. */
export const GET = route(({ db }) => storageOf(db));
