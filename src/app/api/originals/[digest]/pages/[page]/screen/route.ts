import { screenTableOf } from '@/server/codecs/pictures';
import { profileLookedAt } from '@/server/files/looked-at';
import { forever, pageFrom, route } from '@/server/http/route';

/** How the page's colours look on a screen: a cube of RGB bytes; empty where they are sRGB anyway. */
export const GET = route<{ digest: string; page: string }>(async ({ db, params }) => {
  const profile = await profileLookedAt(db, params.digest, pageFrom(params.page));
  const table = profile && (await screenTableOf(profile));
  return new Response(new Uint8Array(table ?? []), {
    headers: { ...forever, 'Content-Type': 'application/octet-stream' },
  });
});
