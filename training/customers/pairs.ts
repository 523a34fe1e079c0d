/**
 * Pairs that the restorer learns from: files of training/customers/damaged.py, and what the core's classical cleaning by
 * their own tables makes of them.
 *
 *   npx tsx training/customers/pairs.ts NAME [SIDE]
 */
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { whole } from '../../src/core/raster/region';
import { asRaster, cleanedByTables, DATA, Shard, type Pair } from '../degrade';

/** What is told of each file, as training/customers/damage.py orders it. */
const TOLD = [
  ...(['blur', 'noise', 'grain', 'sharpening', 'compression', 'halved'] as const),
  ...(['resized', 'enlarged', 'radius', 'darks', 'coloured', 'again'] as const),
];

const [folderName, side = '112'] = process.argv.slice(2) as [string, string?];
const SIDE = Number(side);
const size = { width: SIDE, height: SIDE };
const folder = join(DATA, 'customers', folderName);
const perfect = readFileSync(join(folder, 'perfect.u8'));
const told = new Float32Array(new Uint8Array(readFileSync(join(folder, 'told.f32'))).buffer);
const bytes = 3 * SIDE * SIDE;

const shard = new Shard(`customers-${folderName.replace(/ /g, '-')}`);
for (let n = 0; n < perfect.length / bytes; n++) {
  const jpeg = join(folder, `${n}.jpg`);
  const compressed = existsSync(jpeg);
  const file = readFileSync(compressed ? jpeg : join(folder, `${n}.png`));
  const pair: Pair = compressed ? await cleanedByTables(file, size) : await asItIs(file);
  const true_ = Object.fromEntries(TOLD.map((name, i) => [name, told[n * TOLD.length + i]!]));
  // Noise is told in fiftieths of a level, as the cleaners are told it.
  pair.facts[3] = (true_.noise! * 12) / 50;
  const more = ['blur', 'grain', 'sharpening', 'resized', 'enlarged'].map((name) => true_[name]!);
  shard.add(perfect.subarray(n * bytes, (n + 1) * bytes), pair, size, whole(size), more);
  if ((n + 1) % 500 === 0) console.log(`${n + 1} pairs`);
}
shard.end();

async function asItIs(file: Buffer): Promise<Pair> {
  const given = asRaster(await sharp(file).removeAlpha().raw().toBuffer(), size);
  return { given, estimate: given, facts: [0, 0, 0, 0] };
}
