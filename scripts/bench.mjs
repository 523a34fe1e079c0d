// npm run bench [-- speed|large|chain|slider|quality|cleaning|enlarging|effort|kinds|intake|board|terminal …]: figures as ratios of one run, on an idle machine.
import { ensureBuilt, ensureInstalled, run } from './set-up.mjs';

const benches = [
  'speed',
  'large',
  'chain',
  'slider',
  'quality',
  'cleaning',
  'enlarging',
  'effort',
  'kinds',
  'intake',
  'board',
  'terminal',
];
const wanted = process.argv.slice(2);
const unknown = wanted.filter((name) => !benches.includes(name));
if (unknown.length > 0) {
  console.error(`There is no bench ${unknown.join(', ')}; there are ${benches.join(', ')}.`);
  process.exit(2);
}
ensureInstalled();
ensureBuilt();
for (const name of wanted.length > 0 ? wanted : benches) {
  console.log(`\n== ${name}`);
  run(process.execPath, ['--import', 'tsx', `bench/${name}.ts`]);
}
