import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { z } from 'zod';
import { BoardOrder } from '@/core/shop/board';

const Chosen = z.object({ order: BoardOrder, down: z.boolean() });
export type ChosenOrder = z.infer<typeof Chosen>;

/** The two that a day's work is begun with. */
export const URGENT: ChosenOrder = { order: 'due', down: false };
export const NEWEST: ChosenOrder = { order: 'number', down: true };

/** How the board is sorted, as it was last chosen in this browser. */
export const useOrder = create<ChosenOrder>()(
  persist((): ChosenOrder => URGENT, {
    name: 'lontano-board',
    // The page comes from the server as nobody chose yet; what this browser keeps follows.
    skipHydration: true,
    merge: (kept, now) => ({ ...now, ...(Chosen.partial().safeParse(kept).data ?? {}) }),
  }),
);
