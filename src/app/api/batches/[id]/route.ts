import { BatchChange } from '@/core/batch/batch';
import { changeBatch, deleteBatch, readBatch } from '@/server/batch/batches';
import { body, numberFrom, route } from '@/server/http/route';

type Params = { id: string };

export const GET = route<Params>(({ db, params }) => readBatch(db, numberFrom(params.id)));

/** Runs or pauses it, renames it, or decides where its results go. */
export const PATCH = route<Params>(async ({ db, request, params }) =>
  changeBatch(db, numberFrom(params.id), await body(request, BatchChange)),
);

/** Takes it off the list; its jobs stay. */
export const DELETE = route<Params>(({ db, params }) => deleteBatch(db, numberFrom(params.id)));
