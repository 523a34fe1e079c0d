import { z } from 'zod';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { MM_PER_INCH } from '@/core/measure/units';

/** Screens have so many pixels to an inch, from the coarsest that is sold to the finest. */
export const SCREEN_PPI = { least: 40, most: 600, usual: 96 } as const;
/** Metres from the eye to the screen. */
export const SITTING = { least: 0.2, most: 3, usual: 0.6 } as const;

/** What is known of the screen that one looks at, and of where one sits. */
const Screen = z.object({
  /** its own pixels to an inch; null until it is measured */
  ppi: z.number().min(SCREEN_PPI.least).max(SCREEN_PPI.most).nullable(),
  sitting: z.number().min(SITTING.least).max(SITTING.most),
});
export type Screen = z.infer<typeof Screen>;

const UNKNOWN: Screen = { ppi: null, sitting: SITTING.usual };

/** It belongs to the screen, not to the shop, and so it is kept in this browser. */
export const useScreen = create<Screen>()(
  persist(() => UNKNOWN, {
    name: 'lontano-screen',
    // What makes no sense is as good as unknown.
    merge: (kept, now) => ({ ...now, ...(Screen.partial().safeParse(kept).data ?? {}) }),
  }),
);

/** Keeps what was measured. @returns whether it makes sense */
export function keepScreen(change: Partial<Screen>): boolean {
  const next = Screen.safeParse({ ...useScreen.getState(), ...change });
  if (next.success) useScreen.setState(next.data);
  return next.success;
}

/** Screen pixels to a millimetre on it; null until it is measured. */
export const pixelsToMm = ({ ppi }: Screen): number | null => ppi && ppi / MM_PER_INCH;
