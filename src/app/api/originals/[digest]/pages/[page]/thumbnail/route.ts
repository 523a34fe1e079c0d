import { readFile } from 'node:fs/promises';
import { store } from '@/server/files/store';
import { forever, pageFrom, route } from '@/server/http/route';
import { Problem } from '@/server/problem';

export const GET = route<{ digest: string; page: string }>(async ({ params }) => {
  const path = store.thumbnail(params.digest, pageFrom(params.page));
  const bytes = await readFile(path).catch(() => {
    throw new Problem('missing', 'There is no such picture.');
  });
  return new Response(new Uint8Array(bytes), {
    headers: { ...forever, 'Content-Type': 'image/png' },
  });
});
