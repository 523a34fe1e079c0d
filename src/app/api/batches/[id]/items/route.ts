import { ItemsKnown, NewItems } from '@/core/batch/batch';
import { planOfBatch } from '@/server/batch/batches';
import { addItems } from '@/server/batch/items';
import { itemsNews } from '@/server/batch/rows';
import { body, numberFrom, query, route } from '@/server/http/route';

type Params = { id: string };

/** Its rows that changed after what is known already. */
export const GET = route<Params>(async ({ db, request, params }) => {
  const id = numberFrom(params.id);
  // One that was deleted has no rows.
  await planOfBatch(db, id);
  return itemsNews(db, id, query(request, ItemsKnown));
});

/** Puts pictures of jobs into it, each planned as it says. Answers how many joined. */
export const POST = route<Params>(async ({ db, request, params }) =>
  addItems(db, numberFrom(params.id), await body(request, NewItems)),
);
