import { readComparing } from '@/server/db/comparing';
import { numberFrom, route } from '@/server/http/route';

/** What is kept beside a picture's history: marks, what was seen, pictures brought to it. */
export const GET = route<{ id: string }>(({ db, params }) =>
  readComparing(db, numberFrom(params.id)),
);
