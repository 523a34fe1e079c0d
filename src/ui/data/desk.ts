import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { DeskAct, DeskOutcome } from '@/core/shop/desk-act';
import { api } from './api';
import { tell } from './notices';
import { keys } from './queries';
import { say } from '@/core/words/say';

/** What was done, and how it is taken back. */
interface Said {
  words(jobs: number): string;
  undo?(outcome: DeskOutcome): DeskAct;
}

/** Does one act to several jobs, says what came of it, and offers to take it back. */
export function useDeskAct() {
  const client = useQueryClient();
  const settle = () =>
    Promise.all([
      client.invalidateQueries({ queryKey: keys.jobs }),
      client.invalidateQueries({ queryKey: ['job'] }),
    ]);
  const again = useMutation({
    mutationFn: api.actOnJobs,
    onSuccess: settle,
    onError: (error) => tell(error.message, 'trouble'),
  });
  return useMutation({
    mutationFn: ({ act }: { act: DeskAct; said: Said }) => api.actOnJobs(act),
    onSuccess: (outcome, { said }) => {
      const { done, failed } = outcome;
      if (done.length > 0) {
        const undo = said.undo?.(outcome);
        tell(
          said.words(done.length),
          'good',
          undo && { words: say`Take it back`, act: () => again.mutate(undo) },
        );
      }
      for (const words of new Set(failed.map((one) => one.words))) tell(words, 'trouble');
      return settle();
    },
    onError: (error) => tell(error.message, 'trouble'),
  });
}
