// npm run demo [-- --fresh]: sets everything up and serves the demo shop.
import { existsSync } from 'node:fs';
import { ensureBuilt, ensureInstalled, run, serve } from './set-up.mjs';

const data = process.env.LONTANO_DATA ?? 'var/demo';
const port = process.env.PORT ?? '4310';
const unknown = process.argv.slice(2).filter((word) => word !== '--fresh');
if (unknown.length > 0) {
  console.error(`npm run demo knows --fresh alone, not ${unknown.join(' ')}.`);
  process.exit(2);
}
ensureInstalled();
ensureBuilt();
const fresh = process.argv.includes('--fresh');
if (fresh || !existsSync(`${data}/lontano.sqlite`)) {
  console.log('Furnishing the demo shop …');
  run(process.execPath, ['--import', 'tsx', 'demo/seed.ts'], { LONTANO_DATA: data });
}
console.log(
  `\nLontano's demo shop: http://127.0.0.1:${port}   (Ctrl+C ends it, its data stays in ${data})\n`,
);
serve({ LONTANO_DATA: data, PORT: port });
