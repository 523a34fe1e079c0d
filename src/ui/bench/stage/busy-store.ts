import { create } from 'zustand';

/** Whether any pane doesn't show its final pixels yet; a store of its own, so that a pan renders nothing else. */
export const useStageBusy = create<{ busy: boolean }>(() => ({ busy: false }));
