import { readFile } from 'node:fs/promises';
import type { JobRecord } from '@/core/shop/record';
import { store } from '../files/store';

/** The small pictures of a record, where they are there. */
export const thumbnailsOf = ({ pieces }: JobRecord): Promise<(Buffer | null)[]> =>
  Promise.all(
    pieces.map(({ digest, page }) => readFile(store.thumbnail(digest, page)).catch(() => null)),
  );
