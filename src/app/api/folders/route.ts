import { namedFolders } from '@/server/folders/named';
import { route } from '@/server/http/route';

/** Folders that results can be put into, and folders that are watched. */
export const GET = route(({ db }) => namedFolders(db));
