import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { JobsAct } from '@/core/shop/jobs-act';
import { api } from './api';
import { tell } from './notices';
import { keys } from './queries';
import { say } from '@/core/words/say';

/** Does one act to several jobs, says what came of it, and offers to take it back. */
export function useJobsAct() {
  const client = useQueryClient();
  const settle = () =>
    Promise.all([
      client.invalidateQueries({ queryKey: keys.jobs }),
      client.invalidateQueries({ queryKey: ['job'] }),
    ]);
  const again = useMutation({
    mutationFn: async (acts: JobsAct[]) => {
      for (const act of acts) await api.actOnJobs(act);
    },
    onSettled: settle,
    onError: (error) => tell(error.message, 'trouble'),
  });
  return useMutation({
    mutationFn: ({ act }: { act: JobsAct; words(jobs: number): string }) => api.actOnJobs(act),
    onSuccess: ({ done, failed, undo }, { words: wordsFor }) => {
      if (done.length > 0) {
        tell(wordsFor(done.length), 'good', {
          words: say`Take it back`,
          act: () => again.mutate(undo),
        });
      }
      for (const words of new Set(failed.map((one) => one.words))) tell(words, 'trouble');
      return settle();
    },
    onError: (error) => tell(error.message, 'trouble'),
  });
}
