// npm start: serves a shop of your own; LONTANO_DATA names the folder of its data.
import { ensureBuilt, ensureInstalled, serve } from './set-up.mjs';

ensureInstalled();
ensureBuilt();
const port = process.env.PORT ?? '4310';
console.log(
  `\nLontano: http://127.0.0.1:${port}   (data in ${process.env.LONTANO_DATA ?? 'data'})\n`,
);
serve({});
