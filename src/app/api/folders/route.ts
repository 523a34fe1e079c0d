import { readFolders } from '@/server/folders/folders';
import { route } from '@/server/http/route';

/** Names of folders that results can be put into; where they lie is the server's affair. */
export const GET = route(async () => {
  const { results } = await readFolders();
  return { results: results.map(({ name }) => name) };
});
