import { ENGINE_FILES, engineFile } from '@/server/colour/engine';
import { route } from '@/server/http/route';
import { Problem } from '@/server/problem';

const TYPES = { 'lcms.js': 'text/javascript', 'lcms.wasm': 'application/wasm' } as const;

/** The colour engine, for pages to convert by the same as files are. */
export const GET = route<{ file: string }>(async ({ params }) => {
  const file = ENGINE_FILES.find((one) => one === params.file);
  if (!file) throw new Problem('missing', 'There is nothing at this address.');
  return new Response(new Uint8Array(await engineFile(file)), {
    headers: { 'Cache-Control': 'private, max-age=3600', 'Content-Type': TYPES[file] },
  });
});
