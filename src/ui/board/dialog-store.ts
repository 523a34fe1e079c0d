import { create } from 'zustand';
import type { JobHead } from '@/core/shop/job';

/** What is asked about jobs of the board at the moment. */
type Dialog =
  | { open: null }
  | { open: 'delete'; jobs: number[] }
  | { open: 'recipe'; jobs: number[] }
  | { open: 'batch'; jobs: number[] }
  /** `job`: as it is, where it is one */
  | { open: 'edit'; jobs: number[]; job: JobHead | null };

export const useBoardDialog = create<{ dialog: Dialog }>(() => ({ dialog: { open: null } }));

export const askDelete = (jobs: number[]): void =>
  useBoardDialog.setState({ dialog: { open: 'delete', jobs } });
export const applyRecipeTo = (jobs: number[]): void =>
  useBoardDialog.setState({ dialog: { open: 'recipe', jobs } });
export const intoBatch = (jobs: number[]): void =>
  useBoardDialog.setState({ dialog: { open: 'batch', jobs } });
export const editJobs = (jobs: number[], job: JobHead | null): void =>
  useBoardDialog.setState({ dialog: { open: 'edit', jobs, job } });
export const closeDialog = (): void => useBoardDialog.setState({ dialog: { open: null } });
