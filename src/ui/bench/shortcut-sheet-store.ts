import { create } from 'zustand';

/** Whether the sheet of keys is open. */
export const useSheet = create(() => ({ open: false }));
