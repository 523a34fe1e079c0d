import { ProofRequest } from '@/core/shop/proof';
import { body, numberFrom, route } from '@/server/http/route';
import { requestProof } from '@/server/tasks/request-proof';

/** Asks for a proof of chosen trials at chosen places. */
export const POST = route<{ id: string }>(async ({ db, request, params }) =>
  requestProof(db, numberFrom(params.id), await body(request, ProofRequest)),
);
