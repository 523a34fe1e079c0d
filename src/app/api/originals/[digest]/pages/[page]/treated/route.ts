import { z } from 'zod';
import { Drawn } from '@/core/recipe/recipe';
import { expectTakenOut } from '@/server/db/taken-out';
import { noteTreated, readyFiles } from '@/server/files/treated-on-page';
import { body, pageFrom, route } from '@/server/http/route';

const Asked = z.object({ placed: Drawn.shape.placed });

/** Treats pictures on a page; answers with what they are called together, once all of them are there. */
export const POST = route<{ digest: string; page: string }>(async ({ db, params, request }) => {
  const { placed } = await body(request, Asked);
  const page = pageFrom(params.page);
  const digests = placed.map(({ recipe }) => recipe.original.digest);
  await expectTakenOut(db, params.digest, page, digests);
  const name = noteTreated(placed);
  await readyFiles(db, name, request.signal);
  return { name };
});
