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
  add(notice: Omit<Notice, 'id'>): void;
  dismiss(id: number): void;
}

let count = 0;

export const useNotices = create<Notices>((set) => ({
  list: [],
  add: (notice) =>
    set(({ list }) => ({
      list: [...list.filter(({ text }) => text !== notice.text), { id: ++count, ...notice }].slice(
        -6,
      ),
    })),
  dismiss: (id) => set(({ list }) => ({ list: list.filter((notice) => notice.id !== id) })),
}));

/** Says something in passing; trouble stays until it is put away. */
export const tell = (text: string, tone: Notice['tone'], action?: Notice['action']): void =>
  useNotices.getState().add({ text, tone, action });
