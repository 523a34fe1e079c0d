import { inspectedPage } from '@/server/files/take-in';
import { pageFrom, route } from '@/server/http/route';

/** Findings part by part, for a map over the picture; null where there are none. */
export const GET = route<{ digest: string; page: string }>(
  async ({ db, params }) => (await inspectedPage(db, params.digest, pageFrom(params.page))).maps,
);
