import { useMutation, useQuery, useQueryClient, type QueryClient } from '@tanstack/react-query';
import { useRouter } from 'next/navigation';
import { useMemo } from 'react';
import {
  type BatchChange,
  type BatchHead,
  type BatchItem,
  type BatchNews,
  type ItemsAct,
  type ItemsKnown,
} from '@/core/batch/batch';
import { api } from './api';
import { actOnItems } from './items-act';
import { tell } from './notices';
import { keys } from './queries';
import { say } from '@/core/words/say';

const one = (id: number) => [...keys.batches, id] as const;
const itemsOf = (id: number) => [...one(id), 'items'] as const;

export const useBatches = () => useQuery({ queryKey: keys.batches, queryFn: api.batches });

export const useBatch = (id: number) =>
  useQuery({ queryKey: one(id), queryFn: () => api.batch(id) });

export const useFolders = () =>
  useQuery({ queryKey: [...keys.batches, 'folders'], queryFn: api.folders });

interface Items {
  rows: ReadonlyMap<number, BatchItem>;
  known: ItemsKnown;
}

const NOTHING: ItemsKnown = { items: 0, tasks: 0 };

/** A batch's pictures in their order. Only what changed is asked for; rows that did not are the same ones. */
export function useBatchItems(id: number) {
  const client = useQueryClient();
  const { data, error } = useQuery({
    queryKey: itemsOf(id),
    queryFn: () => learnItems(id, client.getQueryData<Items>(itemsOf(id))),
    structuralSharing: false,
  });
  const items = useMemo(
    () => data && [...data.rows.values()].sort((a, b) => a.position - b.position || a.id - b.id),
    [data],
  );
  return { items, error };
}

async function learnItems(id: number, before?: Items): Promise<Items> {
  const news = await api.batchItems(id, before?.known ?? NOTHING);
  const rows = new Map(before?.rows);
  for (const row of news.rows) rows.set(row.id, row);
  if (before === undefined || rows.size === news.count) return { rows, known: news.known };
  // Some are not there any more.
  return learnItems(id);
}

/** What runs changes; of one that ran before and does not now it is told how it ended. */
let running: BatchNews['running'] = [];
export function hearOfBatches(client: QueryClient, news: BatchNews): void {
  const ended = running.filter(({ id }) => !news.running.some((still) => still.id === id));
  running = news.running;
  void client.invalidateQueries({ queryKey: keys.batches });
  for (const { id } of ended) {
    api.batch(id).then(tellEnd, () => {
      // It was deleted.
    });
  }
}

function tellEnd({ name, state, states, trouble }: BatchHead): void {
  if (trouble) tell(`${name}: ${trouble}`, 'trouble');
  if (state !== 'done') return;
  const { done = 0, failed = 0, cancelled = 0 } = states;
  tell(
    failed + cancelled > 0
      ? say`${name}: ${done} made, ${failed + cancelled} not.`
      : say`${name}: all ${done} are made.`,
    failed > 0 ? 'trouble' : 'good',
  );
}

/** Runs a batch, pauses it, renames it. */
export function useChangeBatch(id: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (change: BatchChange) => api.changeBatch(id, change),
    onSuccess: (head) => {
      client.setQueryData(one(id), head);
      return client.invalidateQueries({ queryKey: keys.batches });
    },
    onError: (error) => tell(error.message, 'trouble'),
  });
}

/** Takes a batch off the list, and back. */
export function useDeleteBatch() {
  const client = useQueryClient();
  const router = useRouter();
  const settle = () => client.invalidateQueries({ queryKey: keys.batches });
  const restore = useMutation({
    mutationFn: api.restoreBatch,
    onSuccess: settle,
    onError: (error) => tell(error.message, 'trouble'),
  });
  return useMutation({
    mutationFn: ({ id }: Pick<BatchHead, 'id' | 'name'>) => api.deleteBatch(id),
    onSuccess: (_, { id, name }) => {
      tell(say`The batch “${name}” is deleted. Its jobs are on the board.`, 'note', {
        words: say`Put it back`,
        act: () => restore.mutate(id),
      });
      router.push('/batches');
      return settle();
    },
    onError: (error) => tell(error.message, 'trouble'),
  });
}

/** Does something to pictures of a batch; says what came of it, and offers to take it back. */
export function useItemsAct(id: number) {
  const client = useQueryClient();
  const settle = () => client.invalidateQueries({ queryKey: keys.batches });
  const trouble = (error: Error) => tell(error.message, 'trouble');
  const back = useMutation({
    mutationFn: (acts: readonly ItemsAct[]) => actOnItems(id, acts),
    onSuccess: ({ stopped }) => {
      if (stopped) trouble(stopped);
    },
    onSettled: settle,
  });
  return useMutation({
    mutationFn: ({ act }: { act: ItemsAct; words?(count: number): string }) =>
      actOnItems(id, [act]),
    onSuccess: ({ done, failed, undo, stopped }, { words: wordsFor }) => {
      if (done > 0 && wordsFor) {
        tell(
          wordsFor(done),
          'good',
          undo.length > 0 ? { words: say`Take it back`, act: () => back.mutate(undo) } : undefined,
        );
      }
      for (const words of failed) tell(words, 'trouble');
      if (stopped) trouble(stopped);
      return settle();
    },
  });
}
