import { z } from 'zod';
import { Initials } from './initials';

/** Who changed something: in which browser, and by what initials, if somebody signed in it before. */
export const Author = z.object({
  browser: z.string().regex(/^[\w-]{8,40}$/),
  initials: Initials.nullable(),
});
export type Author = z.infer<typeof Author>;

/** An author as sentences name them. */
export const authorWords = (author: Author | null): string => author?.initials ?? 'Somebody else';
