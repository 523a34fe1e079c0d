// npm run torture [-- minutes [seed [day]]]: what a shop keeps while everything goes wrong; or a calm day of it.
import { spawnSync } from 'node:child_process';
import { ensureBuilt, ensureInstalled } from './set-up.mjs';

const words = process.argv.slice(2);
const [numbers, mode] = [words.slice(0, 2), words.slice(2)];
if (numbers.some((word) => !(Number(word) >= 0)) || (mode.length > 0 && mode.join() !== 'day')) {
  console.error('npm run torture knows how many minutes, a seed, and the word day.');
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
