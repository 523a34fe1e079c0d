import { create } from 'zustand';
import type { JobHead } from '@/core/shop/job';

/** What is asked about jobs of the board at the moment. */
type Desk =
  | { open: null }
  | { open: 'delete'; jobs: number[] }
  | { open: 'recipe'; jobs: number[] }
  /** `job`: as it is, where it is one */
  | { open: 'edit'; jobs: number[]; job: JobHead | null };

export const useDesk = create<{ desk: Desk }>(() => ({ desk: { open: null } }));

export const askDelete = (jobs: number[]): void =>
  useDesk.setState({ desk: { open: 'delete', jobs } });
export const applyRecipeTo = (jobs: number[]): void =>
  useDesk.setState({ desk: { open: 'recipe', jobs } });
export const editJobs = (jobs: number[], job: JobHead | null): void =>
  useDesk.setState({ desk: { open: 'edit', jobs, job } });
export const closeDesk = (): void => useDesk.setState({ desk: { open: null } });
