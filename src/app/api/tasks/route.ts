import { openTasks } from '@/server/db/tasks';
import { route } from '@/server/http/route';

export const GET = route(({ db }) => openTasks(db));
