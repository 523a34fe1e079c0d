import { join } from 'node:path';
import { root } from './root';

/** Where a thread or a process of ours begins, and how Node is to run it. */
export interface Entry {
  file: string;
  execArgv: string[];
}

/**
 * The entry of a name, as server/render/part-worker: bundled where this is (scripts/bundle.mjs sets the
 * variable), from its source elsewhere.
 */
export const entryOf = (name: string): Entry =>
  process.env.LONTANO_BUNDLED
    ? { file: join(root(), 'dist', `${name}.mjs`), execArgv: [] }
    : { file: join(root(), 'src', `${name}.ts`), execArgv: ['--import', 'tsx'] };
