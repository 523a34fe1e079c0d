// npm run torture [-- minutes [seed]]: what a shop keeps while everything goes wrong.
import { spawnSync } from 'node:child_process';
import { ensureBuilt, ensureInstalled } from './set-up.mjs';

const words = process.argv.slice(2);
if (words.length > 2 || words.some((word) => !(Number(word) >= 0))) {
  console.error('npm run torture knows how many minutes, and a seed: numbers both.');
  process.exit(2);
}
ensureInstalled();
ensureBuilt();
const { status } = spawnSync(
  process.execPath,
  ['--import', 'tsx', 'torture/torture.ts', ...words],
  {
    stdio: 'inherit',
  },
);
process.exit(status ?? 1);
