'use client';

import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { Comparing, Mark, NewMark } from '@/core/shop/comparing';
import { api } from './api';
import { tell } from './notices';

const key = (piece: number) => ['comparing', piece] as const;

/** What is kept beside a picture's history for comparing. */
export const useComparing = (piece: number) =>
  useQuery({ queryKey: key(piece), queryFn: () => api.comparing(piece) });

/** Sets marks on a picture, notes something to one, and takes one away; what was taken away can be put back. */
export function useMarks(piece: number) {
  const client = useQueryClient();
  const put = (change: (marks: readonly Mark[]) => Mark[]) =>
    client.setQueryData<Comparing>(
      key(piece),
      (all) => all && { ...all, marks: change(all.marks) },
    );
  const again = () => client.invalidateQueries({ queryKey: key(piece) });
  const failed = (error: Error) => {
    tell(error.message, 'trouble');
    return again();
  };
  const add = useMutation({
    mutationFn: (mark: NewMark) => api.addMark(piece, mark),
    onSuccess: (mark) => put((marks) => [...marks, mark]),
    onError: failed,
  });
  const note = useMutation({
    mutationFn: ({ id, note: words }: Pick<Mark, 'id' | 'note'>) => api.noteMark(id, words),
    onMutate: ({ id, note: words }) =>
      put((marks) => marks.map((mark) => (mark.id === id ? { ...mark, note: words } : mark))),
    onError: failed,
  });
  const remove = useMutation({
    mutationFn: (mark: Mark) => api.removeMark(mark.id),
    onSuccess: (_, { id, ...mark }) => {
      put((marks) => marks.filter((one) => one.id !== id));
      tell('The mark is taken away.', 'good', {
        words: 'Put it back',
        act: () => add.mutate(mark),
      });
    },
    onError: failed,
  });
  return { add: add.mutate, note: note.mutate, remove: remove.mutate };
}
