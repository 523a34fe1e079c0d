// How soon the terminal answers, from its start to its end as a person waits for it.
import { spawnSync } from 'node:child_process';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { degradedPath, pictures } from '../demo/pictures';
import { figure, finished, median } from './report';

const TIMES = 7;
const folder = await mkdtemp(join(tmpdir(), 'lontano-bench-'));
const two = join(folder, 'two.jpg');
const small = join(folder, 'small.jpg');
const from = degradedPath(pictures[0]!);
await sharp(from).resize(1732, 1155, { fit: 'fill' }).jpeg({ quality: 85 }).toFile(two);
await sharp(from).resize(720, 480, { fit: 'fill' }).jpeg({ quality: 85 }).toFile(small);

function seconds(...words: string[]): number {
  const started = performance.now();
  const { status, stderr } = spawnSync(process.execPath, words, { encoding: 'utf8' });
  if (status !== 0) throw new Error(stderr);
  return (performance.now() - started) / 1000;
}
const lontano = (...words: string[]) => seconds('bin/lontano.mjs', ...words);

const out = join(folder, 'out.tif');
const elsewhere = `require('sharp')(${JSON.stringify(small)})
  .resize(7559, 5039, { kernel: 'lanczos3' }).withDensity(160)
  .tiff({ compression: 'none' }).toFile(${JSON.stringify(join(folder, 'sharp.tif'))})`;
lontano('--help');
const help: number[] = [];
const inspect: number[] = [];
const ratios: number[] = [];
for (let i = 0; i < TIMES; i++) {
  help.push(lontano('--help'));
  inspect.push(lontano('inspect', two));
  const print = ['--width', '120cm', '--ppi', '160', '--method', 'lanczos3'];
  const ours = lontano('enlarge', small, out, ...print);
  ratios.push(ours / seconds('-e', elsewhere));
}
figure('--help', median(help), 's', 0.4);
figure('inspect of a 2-megapixel JPEG', median(inspect), 's', 1);
figure('enlarge 720 x 480 to 7559 x 5039 over the command of sharp', median(ratios), 'x', 1.5);

await rm(folder, { recursive: true, force: true });
finished();
