import { settingChanges } from '@/server/db/settings';
import { route } from '@/server/http/route';

/** How the shop's settings came to be what they are. */
export const GET = route(({ db }) => settingChanges(db));
