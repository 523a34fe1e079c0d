'use client';

import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback } from 'react';
import type { Brought, Comparing, Mark, NewMark, Sweep } from '@/core/shop/comparing';
import type { SheetRequest } from '@/core/shop/sheet';
import { api, upload } from './api';
import { keys } from './queries';
import { tell } from './notices';
import { say } from '@/core/words/say';

/** In place of a picture's number: beside one on a page of another nothing is kept. */
export const NOTHING_KEPT = 0;

const key = (piece: number) => ['comparing', piece] as const;

/** What is kept beside a picture's history for comparing. */
export const useComparing = (piece: number) =>
  useQuery({
    queryKey: key(piece),
    queryFn: () => api.comparing(piece),
    enabled: piece !== NOTHING_KEPT,
  });

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
      tell(say`The mark is taken away.`, 'good', {
        words: say`Put it back`,
        act: () => add.mutate(mark),
      });
    },
    onError: failed,
  });
  return { add: add.mutate, note: note.mutate, remove: remove.mutate };
}

/** Notes what was seen of a trial's result, as it was kept: with what other tabs saw of it. */
export function useNoteSweep(piece: number): (kept: Sweep) => void {
  const client = useQueryClient();
  return useCallback(
    (kept: Sweep) =>
      void client.setQueryData<Comparing>(
        key(piece),
        (all) =>
          all && {
            ...all,
            sweeps: [...all.sweeps.filter(({ trial }) => trial !== kept.trial), kept],
          },
      ),
    [client, piece],
  );
}

/** Takes a picture in from outside, to be compared with a picture of the shop; and puts it away. */
export function useBring(piece: number): (file: File, then: (brought: Brought) => void) => void {
  const client = useQueryClient();
  const bring = useMutation({
    mutationFn: async (file: File) => {
      const { digest, fileName } = await upload(file, () => {});
      return api.bring(piece, { digest, fileName });
    },
    onSuccess: (brought) =>
      client.setQueryData<Comparing>(
        key(piece),
        (all) =>
          all && {
            ...all,
            brought: [...all.brought.filter(({ id }) => id !== brought.id), brought],
          },
      ),
    onError: (error) => tell(error.message, 'trouble'),
  });
  return (file, then) => bring.mutate(file, { onSuccess: then });
}

/** Puts a picture away that was brought; the file itself is kept for a week. */
export function usePutAway(piece: number): (brought: Brought) => void {
  const client = useQueryClient();
  const again = () => client.invalidateQueries({ queryKey: key(piece) });
  const back = useMutation({
    mutationFn: ({ digest, fileName }: Brought) => api.bring(piece, { digest, fileName }),
    onSuccess: again,
    onError: (error) => tell(error.message, 'trouble'),
  });
  const away = useMutation({
    mutationFn: ({ id }: Brought) => api.putAway(id),
    onSuccess: (_, brought) => {
      tell(say`${brought.fileName} is put away.`, 'good', {
        words: say`Put it back`,
        act: () => back.mutate(brought),
      });
      return again();
    },
    onError: (error) => {
      tell(error.message, 'trouble');
      return again();
    },
  });
  return away.mutate;
}

/** Asks for a comparison sheet; it is made while one goes on. */
export function useRequestSheet(piece: number): (request: SheetRequest, then: () => void) => void {
  const client = useQueryClient();
  const request = useMutation({
    mutationFn: (asked: SheetRequest) => api.requestSheet(piece, asked),
    onSuccess: (task) => {
      void client.invalidateQueries({ queryKey: keys.openTasks });
      client.setQueryData<Comparing>(
        key(piece),
        (all) => all && { ...all, sheets: [task, ...all.sheets] },
      );
    },
    onError: (error) => tell(error.message, 'trouble'),
  });
  return (asked, then) => request.mutate(asked, { onSuccess: then });
}
