// What a batch in the terminal takes, over sharp doing the same on the same cores, starts included.
import { spawn } from 'node:child_process';
import { mkdir, mkdtemp, readdir, readFile, rm } from 'node:fs/promises';
import { availableParallelism, tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { degradedPath, pictures } from '../demo/pictures';
import { figure, finished, median } from './report';

const ROUNDS = 3;
const FILES = 50;
const MANY = 500;
const LEARNED = 4;
const SIZE = { width: 648, height: 463 };
/** About 8 megapixels each. */
const FACTOR = 5.164;

const folder = await mkdtemp(join(tmpdir(), 'lontano-bench-'));
const photographs = pictures.filter(({ file }) => file.endsWith('.jpg'));

/** A folder of pictures, each another one. */
async function picturesIn(name: string, count: number): Promise<string> {
  const into = join(folder, name);
  await mkdir(into);
  for (let i = 0; i < count; i++) {
    await sharp(degradedPath(photographs[i % photographs.length]!))
      .resize({ ...SIZE, fit: 'fill' })
      .modulate({ brightness: 0.8 + (0.4 * i) / count })
      .jpeg({ quality: 80 })
      .toFile(join(into, `${String(i).padStart(3, '0')}.jpg`));
  }
  return into;
}

interface Taken {
  seconds: number;
  /** the most that its main process held, in megabytes */
  memory: number;
}

/** Runs a program to its end and looks at its memory meanwhile. */
async function run(...words: string[]): Promise<Taken> {
  const started = performance.now();
  const child = spawn(process.execPath, words, { stdio: ['ignore', 'ignore', 'ignore'] });
  let memory = 0;
  const look = setInterval(() => {
    readFile(`/proc/${child.pid}/status`, 'utf8').then(
      (text) => (memory = Math.max(memory, Number(/VmRSS:\s+(\d+)/.exec(text)?.[1] ?? 0) / 1024)),
      () => {},
    );
  }, 50);
  const code = await new Promise((resolve) => child.on('exit', resolve));
  clearInterval(look);
  if (code !== 0) throw new Error(`${words.join(' ')} ended with ${String(code)}`);
  return { seconds: (performance.now() - started) / 1000, memory };
}

let rounds = 0;
const lontano = (from: string) =>
  run(
    ...['bin/lontano.mjs', 'batch', from, join(folder, `out-${rounds++}`)],
    ...['--scale', String(FACTOR), '--method', 'lanczos3', '--format', 'jpeg', '--quality', '90'],
  );
const elsewhere = (from: string) => `
  const sharp = require('sharp');
  const names = require('fs').readdirSync(${JSON.stringify(from)});
  const [width, height] = [${Math.round(SIZE.width * FACTOR)}, ${Math.round(SIZE.height * FACTOR)}];
  const lane = async () => {
    for (let name = names.pop(); name; name = names.pop())
      await sharp(${JSON.stringify(from)} + '/' + name)
        .resize(width, height, { kernel: 'lanczos3', fit: 'fill' })
        .jpeg({ quality: 90, chromaSubsampling: '4:4:4' })
        .toFile(${JSON.stringify(folder)} + '/sharp-' + name);
  };
  Promise.all(Array.from({ length: ${availableParallelism()} + 1 }, lane));`;

const fifty = await picturesIn('fifty', FILES);
await lontano(fifty);
const ratios: number[] = [];
const memories: number[] = [];
for (let i = 0; i < ROUNDS; i++) {
  const ours = await lontano(fifty);
  memories.push(ours.memory);
  ratios.push(ours.seconds / (await run('-e', elsewhere(fifty))).seconds);
}
figure(
  'fifty JPEGs of 0.3 to 8 megapixels, Lanczos-3, JPEG 90, over sharp',
  median(ratios),
  'x',
  1.2,
);
/** Networks take their time whichever way they are asked. */
const learned = ['--scale', '2', '--method', 'learned-photo', '--quality', '90'];
const few = await picturesIn('few', LEARNED);
let singly = 0;
for (const name of await readdir(few)) {
  const to = join(folder, `single-${name}`);
  singly += (await run('bin/lontano.mjs', 'enlarge', join(few, name), to, ...learned)).seconds;
}
const together = await run(
  ...['bin/lontano.mjs', 'batch', few, join(folder, 'learned'), ...learned],
  ...['--format', 'jpeg'],
);
figure(
  `${LEARNED} photographs of 0.3 megapixels enlarged by networks, over the sum of single runs`,
  together.seconds / singly,
  'x',
  1.1,
);
const many = await lontano(await picturesIn('many', MANY));
figure('memory over five hundred, over that of fifty', many.memory / median(memories), 'x', 1.15);
figure('its most memory', many.memory, 'MB', 1000);

await rm(folder, { recursive: true, force: true });
finished();
