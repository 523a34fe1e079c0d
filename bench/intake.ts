// How soon a file that was taken in can be worked on.
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { endPictureProcesses } from '../src/server/codecs/pictures';
import { figure, finished, median } from './report';
import { degradedPath, pictures } from '../demo/pictures';

const TIMES = 5;
const folder = await mkdtemp(join(tmpdir(), 'lontano-bench-'));
process.env.LONTANO_DATA = folder;
const { database } = await import('../src/server/db/connection');
const { takeIn, inspectedPage } = await import('../src/server/files/take-in');
const { reducedPath } = await import('../src/server/files/reduced');
const { openRaw } = await import('../src/server/codecs/raw');
const db = await database();

/** A photograph of so many pixels with grain of its own, different every time. */
async function photograph(width: number, height: number, seed: number): Promise<string> {
  const path = join(folder, `${width}-${seed}.jpg`);
  const noise = Buffer.alloc(512 * 512 * 3).map(() => 120 + Math.random() * 16);
  const grain = await sharp(noise, { raw: { width: 512, height: 512, channels: 3 } })
    .png()
    .toBuffer();
  const bytes = await sharp(degradedPath(pictures[0]!))
    .resize(width, height, { fit: 'fill' })
    .composite([{ input: grain, tile: true, blend: 'soft-light' }])
    .jpeg({ quality: 85 })
    .toBuffer();
  await writeFile(path, bytes);
  return path;
}

/** Seconds from a file's last byte to its findings, and to the first tile of the stage. */
async function taken(path: string) {
  const bytes = await readFile(path);
  const started = performance.now();
  const { digest } = await takeIn(db, new Blob([bytes]).stream(), 'photograph.jpg');
  const found = (performance.now() - started) / 1000;
  const page = await inspectedPage(db, digest, 1);
  const level = page.findings.width > 4000 ? 2 : 0;
  const source = await openRaw(await reducedPath(page, level));
  await source.samples({ x: 0, y: 0, width: 256, height: 256 });
  await source.close();
  return { found, shown: (performance.now() - started) / 1000 };
}

// The first one starts the threads, as the server does before anybody comes.
await taken(await photograph(1200, 800, 99));
const small: number[] = [];
const large: number[] = [];
for (let i = 0; i < TIMES; i++) {
  small.push((await taken(await photograph(1732, 1155, i))).shown);
  large.push((await taken(await photograph(6000, 4000, i))).found);
}
figure('findings of a 24-megapixel JPEG', median(large), 's', 2);
figure('a 2-megapixel JPEG from its last byte to its first tile', median(small), 's', 1);

await db.destroy();
await endPictureProcesses();
await rm(folder, { recursive: true, force: true });
finished();
