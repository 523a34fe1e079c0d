import { ModelProblem } from '@/core/learned/network';
import { modelBytes, runtimeBytes } from '@/server/files/models';
import { forever, route } from '@/server/http/route';
import { Problem } from '@/server/problem';

/** A model by its digest, or a part of the runtime that computes them. */
export const GET = route<{ file: string }>(async ({ params: { file } }) => {
  const part = file === 'runtime.wasm' ? 'wasm' : file === 'runtime.mjs' ? 'mjs' : null;
  if (part) {
    const type = part === 'wasm' ? 'application/wasm' : 'text/javascript';
    return new Response(await runtimeBytes(part), {
      headers: { 'Cache-Control': 'private, max-age=3600', 'Content-Type': type },
    });
  }
  try {
    const bytes = await modelBytes(file);
    return new Response(new Uint8Array(bytes), {
      headers: { ...forever, 'Content-Type': 'application/octet-stream' },
    });
  } catch (error) {
    throw error instanceof ModelProblem ? new Problem('missing', error.message) : error;
  }
});
