import { createServer } from 'node:http';
import next from 'next';
import type { ProcessNews } from '@/core/shop/processes';
import type { Words } from '@/core/words/say';
import { config } from '../config';
import { sayLength } from '../http/body-length';
import { root } from '../root';
import { startWatch } from '../sandbox/serve';
import { workIn } from '../supervisor/lock';
import { keepNews } from '../supervisor/news';
import { guard } from './guard';
import { readWords } from './words';

/** Serves pages and routes; started and kept alive by the supervisor. */

/** Answers on their way may take so long to end before connections are closed. */
const LAST_ANSWERS_MS = 1000;
/** A file of some hundred megabytes may come over a slow line. */
const UPLOAD_MS = 60 * 60_000;

const { data, host, hosts, port } = config();
// Bundles of the pages say something as soon as they are loaded.
(globalThis as { lontanoWords?: Words }).lontanoWords = readWords(data);
startWatch({ grace: 3000 });
workIn(data);

const app = next({ dev: false, dir: root(), hostname: host, port });
const handle = app.getRequestHandler();
const server = createServer((request, response) => {
  sayLength(response);
  if (guard(request, response, { host, hosts })) void handle(request, response);
});
server.requestTimeout = UPLOAD_MS;

process.on('message', ({ news }: { news?: ProcessNews }) => news && keepNews(news));

function end(): void {
  server.close(() => process.exit(0));
  server.closeIdleConnections();
  // Streams of events never end by themselves.
  setTimeout(() => {
    server.closeAllConnections();
    setTimeout(() => process.exit(0), 100);
  }, LAST_ANSWERS_MS).unref();
}
for (const signal of ['SIGTERM', 'SIGINT'] as const) process.on(signal, end);
process.on('disconnect', end);

await app.prepare();
server.on('error', (error) => {
  console.error(`Nothing can be served at ${host}:${port}: ${error.message}`);
  process.exit(1);
});
server.listen(port, host, () => process.send?.({ serves: true }));
