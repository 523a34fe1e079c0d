// What a shop is like while forty files are worked on that would hang a decoder or fill its memory.
import { request as httpRequest } from 'node:http';
import sharp from 'sharp';
import { hostileFiles } from '../src/server/testing/hostile';
import { buildPdf } from '../src/server/testing/pdf';
import { figure, finished, median } from './report';
import { processesBelow, serveShop } from '../src/server/testing/served';

const FILES = 40;
const TIMES = 9;
/** Between one good file and the next. */
const PAUSE_MS = 400;
const shop = await serveShop(4396);
let made = 0;

/** Sends a file, a different one every time. @returns the status of the answer, and its milliseconds */
function send(name: string, bytes: Buffer): Promise<{ status: number; ms: number }> {
  const started = performance.now();
  // `fetch` gives up after five minutes; a browser doesn't.
  return new Promise((resolve, reject) => {
    const headers = { 'x-file-name': encodeURIComponent(name) };
    const sent = httpRequest(`${shop.url}/api/originals`, { method: 'POST', headers }, (answer) => {
      answer.resume();
      answer.on('end', () => {
        resolve({ status: answer.statusCode ?? 0, ms: performance.now() - started });
      });
    });
    sent.on('error', reject);
    sent.end(Buffer.concat([bytes, Buffer.from(`\n<!--${made++}-->`)]));
  });
}

const photograph = await sharp({
  create: {
    ...{ width: 3000, height: 2000, channels: 3, background: '#888' },
    noise: { type: 'gaussian', mean: 128, sigma: 20 },
  },
})
  .jpeg({ quality: 85 })
  .toBuffer();
const drawing = buildPdf([
  {
    width: 600,
    height: 400,
    content: '1 0 0 rg 20 20 60 60 re f 0 0 1 RG 9 9 m 300 200 l S\n'.repeat(300),
  },
]);

const quantile = (values: number[], share: number): number =>
  [...values].sort((a, b) => a - b)[
    Math.min(values.length - 1, Math.floor(values.length * share))
  ]!;

/** Sends good files one after the other. @returns milliseconds of each kind */
async function goodFiles(until: () => boolean) {
  const times: Record<'photograph' | 'drawing', number[]> = { photograph: [], drawing: [] };
  while (!until()) {
    for (const [kind, bytes] of [
      ['photograph', photograph],
      ['drawing', drawing],
    ] as const) {
      const { status, ms } = await send(`good ${kind}`, bytes);
      if (status !== 200) throw new Error(`a good ${kind} was answered with ${status}`);
      times[kind].push(ms);
      await new Promise((resolve) => setTimeout(resolve, PAUSE_MS));
    }
  }
  return times;
}

await send('first', photograph);
const alone = await goodFiles(
  (
    (left) => () =>
      left-- === 0
  )(TIMES),
);

const kinds = await hostileFiles();
let over = false;
let memory = 0;
const looking = setInterval(() => {
  // What a run uses is not looked at here: none is at work.
  const sum = processesBelow(shop.pid).reduce((all, one) => all + one.memory, 0);
  memory = Math.max(memory, sum);
}, 250);
const statuses = new Map<number, number>();
const hostile = Promise.all(
  Array.from({ length: FILES }, async (_, i) => {
    const [name, bytes] = kinds[i % kinds.length]!;
    const { status } = await send(name, bytes);
    statuses.set(status, (statuses.get(status) ?? 0) + 1);
  }),
).finally(() => (over = true));

/** Asks for one thing after the other. */
async function answers(): Promise<number[]> {
  const times: number[] = [];
  while (!over) {
    for (const path of ['/api/jobs', '/api/tasks', '/api/lists', '/']) {
      const started = performance.now();
      const answer = await fetch(shop.url + path);
      await answer.text();
      if (!answer.ok) throw new Error(`${path} was answered with ${answer.status}`);
      times.push(performance.now() - started);
      await new Promise((resolve) => setTimeout(resolve, 25));
    }
  }
  return times;
}
const started = performance.now();
const [good, times] = await Promise.all([goodFiles(() => over), answers(), hostile]);
clearInterval(looking);
const words = `while ${FILES} hostile files are worked on (${((performance.now() - started) / 1000).toFixed(0)} s)`;
console.log(
  `        answers to hostile files: ${[...statuses].map(([status, n]) => `${n} x ${status}`).join(', ')}; good files meanwhile: ${good.photograph.length} photographs, ${good.drawing.length} drawings`,
);
figure('hostile files answered by an error of the shop', statuses.get(500) ?? 0, '', 0);
figure(`99 of 100 answers ${words}, within`, quantile(times, 0.99), 'ms', 200);
figure(`the slowest of ${times.length} answers`, Math.max(...times), 'ms', 500);
for (const kind of ['photograph', 'drawing'] as const) {
  figure(
    `a good ${kind} ${words}, against one alone (the middle one)`,
    median(good[kind]) / median(alone[kind]),
    'x',
    2,
  );
  figure(
    `  the slowest ten of 100, against one alone`,
    quantile(good[kind], 0.9) / median(alone[kind]),
    'x',
    4,
  );
}
figure('memory of all processes together', memory, 'MB', 2000);
await new Promise((resolve) => setTimeout(resolve, 1000));
const after = processesBelow(shop.pid);
const busy = after.filter(({ what }) => what === 'picture-process').length;
figure('processes of pictures that are left', busy, '', 4);
await shop.close();
finished();
