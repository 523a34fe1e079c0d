import { create } from 'zustand';

/** Jobs of the board that an act is for. */
export const useSelection = create<{ jobs: ReadonlySet<number> }>(() => ({ jobs: new Set() }));

/** Takes jobs in, or out. */
export function select(jobs: readonly number[], on: boolean): void {
  useSelection.setState(({ jobs: before }) => {
    const after = new Set(before);
    for (const job of jobs) {
      if (on) after.add(job);
      else after.delete(job);
    }
    return { jobs: after };
  });
}

export const selectNone = (): void => useSelection.setState({ jobs: new Set() });

/** What an act on a job is for: all that are selected, where it is one of them; that job alone otherwise. */
export function actedOn(job: number): number[] {
  const { jobs } = useSelection.getState();
  return jobs.has(job) ? [...jobs] : [job];
}
