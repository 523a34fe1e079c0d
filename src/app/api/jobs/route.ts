import { BoardQuery } from '@/core/shop/board';
import { NewJob } from '@/core/shop/job';
import { readBoard } from '@/server/db/board';
import { beginJob, readJob } from '@/server/db/jobs';
import { body, query, route } from '@/server/http/route';

/** A page of the board. */
export const GET = route(({ db, request }) => readBoard(db, query(request, BoardQuery)));

export const POST = route(async ({ db, request }) =>
  readJob(db, await beginJob(db, await body(request, NewJob))),
);
