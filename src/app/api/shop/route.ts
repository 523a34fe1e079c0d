import { shopState } from '@/server/housekeeping/shop-state';
import { route } from '@/server/http/route';

/** How the shop is. */
export const GET = route(({ db }) => shopState(db));
