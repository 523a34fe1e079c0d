import { readFile } from 'node:fs/promises';
import { store } from '@/server/files/store';
import { forever, route } from '@/server/http/route';
import { Problem } from '@/server/problem';

export const GET = route<{ digest: string }>(async ({ params }) => {
  const bytes = await readFile(store.thumbnail(params.digest)).catch(() => {
    throw new Problem('missing', 'There is no such picture.');
  });
  return new Response(new Uint8Array(bytes), {
    headers: { ...forever, 'Content-Type': 'image/png' },
  });
});
