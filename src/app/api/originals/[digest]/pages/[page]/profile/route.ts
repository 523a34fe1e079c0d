import { profileLookedAt } from '@/server/files/looked-at';
import { forever, pageFrom, route } from '@/server/http/route';

/** The profile that a page's colours are described by; empty where it has none. */
export const GET = route<{ digest: string; page: string }>(async ({ db, params }) => {
  const profile = await profileLookedAt(db, params.digest, pageFrom(params.page));
  return new Response(new Uint8Array(profile ?? []), {
    headers: { ...forever, 'Content-Type': 'application/vnd.iccprofile' },
  });
});
