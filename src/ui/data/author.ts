import { z } from 'zod';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { Author } from '@/core/shop/author';
import { Initials } from '@/core/shop/initials';

const Signer = z.object({
  /** tells this browser from others */
  browser: Author.shape.browser,
  /** of who signed last in it: most often the same person signs again */
  initials: z.string(),
});
type Signer = z.infer<typeof Signer>;

const unknown = (): Signer => ({
  browser: Array.from(crypto.getRandomValues(new Uint32Array(4)), (n) => n.toString(36)).join('-'),
  initials: '',
});

/** Who works in this browser; all its tabs are one. */
export const useSigner = create<Signer>()(
  persist(unknown, {
    name: 'lontano-author',
    merge: (kept, now) => ({ ...now, ...(Signer.partial().safeParse(kept).data ?? {}) }),
  }),
);
// What was just thought up is kept too.
if (typeof window !== 'undefined') useSigner.setState({});

/** Who changes something here. */
export function author(): Author {
  const { browser, initials } = useSigner.getState();
  return { browser, initials: Initials.safeParse(initials).data ?? null };
}
