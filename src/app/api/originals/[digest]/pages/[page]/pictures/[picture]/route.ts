import { inspectedPage } from '@/server/files/take-in';
import { takeOut } from '@/server/files/taken-out';
import { numberFrom, pageFrom, route } from '@/server/http/route';

/** Takes a picture out of a page of shapes, to be treated as one of its own. */
export const POST = route<{ digest: string; page: string; picture: string }>(
  async ({ db, params }) => {
    const page = await inspectedPage(db, params.digest, pageFrom(params.page));
    return takeOut(db, page, numberFrom(params.picture));
  },
);
