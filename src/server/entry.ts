import { join } from 'node:path';
import { root } from './root';

/**
 * What a child is told beside its own environment: who started it. It can't tell by itself, where that has gone before
 * the child came to look.
 */
export const childEnvironment = (): NodeJS.ProcessEnv => ({
  ...process.env,
  LONTANO_PARENT: String(process.pid),
});

/** The number of the process that started this one. */
export const parentPid = (): number => Number(process.env.LONTANO_PARENT ?? process.ppid);

/** The file of a process or thread of ours, by its name, as server/render/part-worker: bundled by scripts/bundle.mjs. */
export const entryOf = (name: string): string => join(root(), 'dist', `${name}.mjs`);
