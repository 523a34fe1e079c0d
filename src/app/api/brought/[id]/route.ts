import { putAway } from '@/server/db/comparing';
import { numberFrom, route } from '@/server/http/route';

export const DELETE = route<{ id: string }>(({ db, params }) => putAway(db, numberFrom(params.id)));
