import { ModelProblem } from '@/core/learned/network';
import { modelBytes } from '@/server/files/models';
import { forever, route } from '@/server/http/route';
import { Problem } from '@/server/problem';

/** A model by its digest. */
export const GET = route<{ digest: string }>(async ({ params: { digest } }) => {
  try {
    const bytes = await modelBytes(digest);
    return new Response(new Uint8Array(bytes), {
      headers: { ...forever, 'Content-Type': 'application/octet-stream' },
    });
  } catch (error) {
    throw error instanceof ModelProblem ? new Problem('missing', error.message) : error;
  }
});
