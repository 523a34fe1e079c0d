import { useMemo } from 'react';
import type { JobChange, JobState } from '@/core/shop/job';
import { useJobsAct } from '../data/jobs-act';
import { selectNone } from './selection';
import { say } from '@/core/words/say';

const jobsWords = (count: number): string => (count === 1 ? say`1 job` : say`${count} jobs`);

/** What can be done to jobs from the board. */
export function useJobsActs() {
  const { mutate, isPending } = useJobsAct();
  const acts = useMemo(() => {
    // What leaves the board is selected no more.
    const leaving = (wanted: Parameters<typeof mutate>[0]) => {
      selectNone();
      mutate(wanted);
    };
    return {
      archive: (jobs: number[], archived: boolean) =>
        leaving({
          act: { act: 'change', jobs, change: { archived } },
          words: (count) =>
            archived
              ? say`${jobsWords(count)} in the archive.`
              : say`${jobsWords(count)} back on the board.`,
        }),
      remove: (jobs: number[]) =>
        leaving({
          act: { act: 'delete', jobs },
          words: (count) => say`${jobsWords(count)} deleted. For a day that can be taken back.`,
        }),
      duplicate: (jobs: number[]) =>
        mutate({
          act: { act: 'duplicate', jobs },
          words: (count) => say`${jobsWords(count)} duplicated, due when it is said.`,
        }),
      change: (jobs: number[], change: JobChange, onDone?: () => void) =>
        mutate(
          {
            act: { act: 'change', jobs, change },
            words: (count) => say`${jobsWords(count)} changed.`,
          },
          onDone && { onSuccess: onDone },
        ),
      setState: (jobs: number[], state: JobState) =>
        mutate({
          act: { act: 'change', jobs, change: { state } },
          words: (count) => say`${jobsWords(count)} ${state}.`,
        }),
    };
  }, [mutate]);
  return { ...acts, isPending };
}
