import { profileBytes } from '@/server/colour/profiles';
import { removeProfile } from '@/server/db/profiles';
import { forever, route } from '@/server/http/route';

interface Params {
  digest: string;
}

/** A profile's bytes. */
export const GET = route<Params>(async ({ params: { digest } }) => {
  const bytes = await profileBytes(digest);
  return new Response(new Uint8Array(bytes), {
    headers: { ...forever, 'Content-Type': 'application/vnd.iccprofile' },
  });
});

/** Takes it off the list. */
export const DELETE = route<Params>(({ db, params }) => removeProfile(db, params.digest));
