import { readTask } from '@/server/db/tasks';
import { route } from '@/server/http/route';

export const GET = route<{ id: string }>(({ db, params }) => readTask(db, params.id));
