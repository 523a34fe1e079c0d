import { NewBatch } from '@/core/batch/batch';
import { addBatch, listBatches } from '@/server/batch/batches';
import { body, route } from '@/server/http/route';

/** All batches, the newest first. */
export const GET = route(({ db }) => listBatches(db));

/** Begins one that has no pictures yet. */
export const POST = route(async ({ db, request }) => addBatch(db, await body(request, NewBatch)));
