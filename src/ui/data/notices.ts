import { create } from 'zustand';

export interface Notice {
  id: number;
  text: string;
  /** something was done, went wrong, or is only said */
  tone: 'good' | 'trouble' | 'note';
  /** what can be done about it, in a word */
  action?: { words: string; act(): void };
}

interface Notices {
  list: Notice[];
  /** @returns its number, to be put away by */
  add(notice: Omit<Notice, 'id'>): number;
  dismiss(id: number): void;
}

let count = 0;

export const useNotices = create<Notices>((set) => ({
  list: [],
  add: (notice) => {
    const id = ++count;
    set(({ list }) => ({
      list: [...list.filter(({ text }) => text !== notice.text), { id, ...notice }].slice(-6),
    }));
    return id;
  },
  dismiss: (id) => set(({ list }) => ({ list: list.filter((notice) => notice.id !== id) })),
}));

/** Says something in passing; trouble stays until it is put away. @returns its number, for `takeBack` */
export const tell = (text: string, tone: Notice['tone'], action?: Notice['action']): number =>
  useNotices.getState().add({ text, tone, ...(action && { action }) });

/** Puts something away that is true no more. */
export const takeBack = (notice: number | null): void => {
  if (notice !== null) useNotices.getState().dismiss(notice);
};
