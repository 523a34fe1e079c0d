import { useMemo } from 'react';
import type { ItemChange, ItemsAct, Judgement } from '@/core/batch/batch';
import { author } from '../data/author';
import { useItemsAct } from '../data/batches';
import { say } from '@/core/words/say';

const pictures = (count: number): string => (count === 1 ? say`1 picture` : say`${count} pictures`);

/** What can be done to pictures of a batch. */
export interface ItemsActs {
  change(items: number[], change: ItemChange): void;
  judge(items: number[], judgement: Judgement | null): void;
  retry(items: number[]): void;
  move(items: number[], to: 'first' | 'last'): void;
  leave(items: number[]): void;
  /** asks what is to be changed */
  askChange(items: number[]): void;
}

export function useActs(
  batch: number,
  askChange: (items: number[]) => void,
): { acts: ItemsActs; isPending: boolean } {
  const { mutate, isPending } = useItemsAct(batch);
  const acts = useMemo((): ItemsActs => {
    const act = (wanted: ItemsAct, words?: (count: number) => string) =>
      mutate({ act: wanted, ...(words && { words }) });
    return {
      askChange,
      change: (items, change) =>
        act(
          { act: 'change', items, change, author: author() },
          (count) => say`${pictures(count)} changed.`,
        ),
      judge: (items, judgement) => act({ act: 'judge', items, judgement }),
      retry: (items) => act({ act: 'retry', items }),
      move: (items, to) =>
        act({ act: 'move', items, to }, (count) =>
          to === 'first'
            ? say`${pictures(count)} made before the others.`
            : say`${pictures(count)} made after the others.`,
        ),
      leave: (items) =>
        act(
          { act: 'leave', items },
          (count) => say`${pictures(count)} out of the batch; on the board as before.`,
        ),
    };
  }, [mutate, askChange]);
  return { acts, isPending };
}
