import type { Knex } from 'knex';
import type { Task } from '@/core/shop/task';
import type { MadeFile } from '../db/tasks';

/** What the process gives to a task that it does. */
export interface Doing {
  db: Knex;
  /** name of this attempt, so that no other one's half-written files are taken for its own */
  claim: string;
  /** aborted when the task is cancelled, or has another owner */
  signal: AbortSignal;
  /** told the share of the work that is done, 0–1 */
  onProgress: (share: number) => void;
  /** asked last of all, before a file takes its place */
  stillOwned: () => Promise<boolean>;
}

/** What a task comes to. */
export interface Done<T extends Task> {
  result: NonNullable<T['result']>;
  files: MadeFile[];
  /** what else is written with its end, so that both are kept or neither */
  also?: (trx: Knex) => Promise<void>;
}
