import { BoardQuery } from '@/core/shop/board';
import { jobsOfBoard } from '@/server/db/board';
import { query, route } from '@/server/http/route';

/** Which jobs a query of the board is for, all pages together. */
export const GET = route(({ db, request }) => jobsOfBoard(db, query(request, BoardQuery)));
