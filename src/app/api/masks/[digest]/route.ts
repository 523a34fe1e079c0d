import { z } from 'zod';
import { maskBytes } from '@/core/zone/mask';
import { Painted } from '@/core/zone/zone';
import { keepMask, readMask } from '@/server/files/masks';
import { store } from '@/server/files/store';
import { bytes, forever, query, route } from '@/server/http/route';
import { Problem } from '@/server/problem';

const Side = z.coerce.number().pipe(Painted.shape.width);
const Query = z.object({ width: Side, height: Side });

/** The largest mask as gzip: incompressible, and a little about it. */
const LIMIT = 36 << 20;

function paintedOf(digest: string, request: Request): Painted {
  const painted = Painted.safeParse({ digest, ...query(request, Query) });
  if (!painted.success) throw new Problem('missing', 'There is nothing at this address.');
  return painted.data;
}

/** Keeps what was painted; its body is gzip of its bytes, which its digest names. */
export const PUT = route<{ digest: string }>(async ({ request, params }) => {
  await keepMask(store.masks(), paintedOf(params.digest, request), await bytes(request, LIMIT));
});

export const GET = route<{ digest: string }>(async ({ request, params }) => {
  const mask = await readMask(store.masks(), paintedOf(params.digest, request));
  return new Response(maskBytes(mask), {
    headers: { ...forever, 'Content-Type': 'application/octet-stream' },
  });
});
