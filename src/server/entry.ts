import { join } from 'node:path';
import { root } from './root';

/** The file of a process or thread of ours, by its name, as server/render/part-worker: bundled by scripts/bundle.mjs. */
export const entryOf = (name: string): string => join(root(), 'dist', `${name}.mjs`);
