import { ApprovalRequest, Withdrawal } from '@/core/shop/event';
import { approve, withdraw } from '@/server/db/approving';
import { readJob } from '@/server/db/jobs';
import { readPiece } from '@/server/db/pieces';
import { body, numberFrom, route } from '@/server/http/route';

interface Params {
  id: string;
}

/** Signs for a trial's file. */
export const POST = route<Params>(async ({ db, request, params }) => {
  const id = numberFrom(params.id);
  await approve(db, id, await body(request, ApprovalRequest));
  return readJob(db, (await readPiece(db, id)).jobId, id);
});

/** Takes a signature back. */
export const DELETE = route<Params>(async ({ db, request, params }) => {
  const id = numberFrom(params.id);
  await withdraw(db, id, await body(request, Withdrawal));
  return readJob(db, (await readPiece(db, id)).jobId, id);
});
