// npm run bench [-- speed|large|output|chain|finish|proposals|slider|compare|quality|cleaning|deblur|customers|saved-twice|restored|enlarging|tracing|faces|effort|kinds|intake|board|terminal|batch|batch-table|hostile|dust …]: figures as ratios of one run, on an idle machine.
import { spawnSync } from 'node:child_process';
import { ensureBuilt, ensureInstalled } from './set-up.mjs';

const benches = [
  'speed',
  'large',
  'output',
  'chain',
  'finish',
  'proposals',
  'slider',
  'compare',
  'quality',
  'cleaning',
  'deblur',
  'customers',
  'saved-twice',
  'restored',
  'enlarging',
  'tracing',
  'faces',
  'effort',
  'kinds',
  'intake',
  'board',
  'terminal',
  'batch',
  'batch-table',
  'hostile',
  'dust',
];
const wanted = process.argv.slice(2);
const unknown = wanted.filter((name) => !benches.includes(name));
if (unknown.length > 0) {
  console.error(`There is no bench ${unknown.join(', ')}; there are ${benches.join(', ')}.`);
  process.exit(2);
}
ensureInstalled();
ensureBuilt();
// One that falls short doesn't keep the others from being measured.
for (const name of wanted.length > 0 ? wanted : benches) {
  console.log(`\n== ${name}`);
  const { status } = spawnSync(process.execPath, ['--import', 'tsx', `bench/${name}.ts`], {
    stdio: 'inherit',
  });
  if (status !== 0) process.exitCode = 1;
}
