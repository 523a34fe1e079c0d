#!/usr/bin/env node
// The terminal. Its code was bundled when the packages were installed; where sources changed since, it is again.
import { existsSync, readdirSync, statSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = dirname(dirname(fileURLToPath(import.meta.url)));
const main = join(root, 'dist/cli/main.mjs');
const made = existsSync(main) ? statSync(main).mtimeMs : 0;
const changed = readdirSync(join(root, 'src'), { recursive: true, withFileTypes: true }).some(
  (entry) =>
    entry.isFile() && statSync(join(entry.parentPath ?? entry.path, entry.name)).mtimeMs > made,
);
if (changed) {
  const here = process.cwd();
  process.chdir(root);
  const { bundle } = await import('../scripts/bundle.mjs');
  await bundle();
  process.chdir(here);
}
await import(main);
