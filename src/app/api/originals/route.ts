import { takeIn } from '@/server/files/take-in';
import { fileNameFrom, route } from '@/server/http/route';
import { Problem } from '@/server/problem';

/** Takes one file in; its bytes are the body, its name is a percent-encoded header. */
export const POST = route(async ({ db, request }) => {
  const fileName = fileNameFrom(request);
  if (!request.body)
    throw new Problem(
      'input',
      `${fileName} is empty. Ask for the file again; it was lost on its way.`,
    );
  return takeIn(db, request.body, fileName);
});
