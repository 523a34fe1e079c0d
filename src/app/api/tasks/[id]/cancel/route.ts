import { cancelTask } from '@/server/db/tasks';
import { route } from '@/server/http/route';

export const POST = route<{ id: string }>(({ db, params }) => cancelTask(db, params.id));
