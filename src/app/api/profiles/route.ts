import { LARGEST_PROFILE } from '@/server/colour/profiles';
import { addProfile, listProfiles } from '@/server/db/profiles';
import { bytes, fileNameFrom, route } from '@/server/http/route';

/** The profiles that colours can be converted to. */
export const GET = route(({ db }) => listProfiles(db));

/** Adds one; its bytes are the body, its name is a percent-encoded header. */
export const POST = route(async ({ db, request }) =>
  addProfile(db, await bytes(request, LARGEST_PROFILE), fileNameFrom(request)),
);
