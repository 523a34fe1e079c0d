import { create } from 'zustand';

export interface Notice {
  id: number;
  text: string;
  tone: 'good' | 'trouble';
}

interface Notices {
  list: Notice[];
  add(text: string, tone: Notice['tone']): void;
  dismiss(id: number): void;
}

let count = 0;

export const useNotices = create<Notices>((set) => ({
  list: [],
  add: (text, tone) =>
    set(({ list }) => ({
      list: [...list.filter((notice) => notice.text !== text), { id: ++count, text, tone }].slice(
        -4,
      ),
    })),
  dismiss: (id) => set(({ list }) => ({ list: list.filter((notice) => notice.id !== id) })),
}));

/** Says something in passing; trouble stays until it is put away. */
export const tell = (text: string, tone: Notice['tone']): void =>
  useNotices.getState().add(text, tone);
