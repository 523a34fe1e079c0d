/**
 * What the core finds of traces in files of training/customers/damaged.py, for measure.py to learn from:
 *
 *   npx tsx training/customers/traces.ts NAME SIDE
 */
import { existsSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { readJpegHeader } from '../../src/core/inspect/jpeg';
import { patchOf } from '../../src/core/inspect/patches';
import { tracesOf } from '../../src/core/inspect/traces/traces';
import { whole } from '../../src/core/raster/region';
import { asRaster, DATA } from '../degrade';

const [name, side] = process.argv.slice(2) as [string, string];
const size = { width: Number(side), height: Number(side) };
const folder = join(DATA, 'customers', name);
const count = statSync(join(folder, 'perfect.u8')).size / (3 * size.width * size.height);
const rows: Float32Array[] = [];
for (let n = 0; n < count; n++) {
  const jpeg = join(folder, `${n}.jpg`);
  const file = readFileSync(existsSync(jpeg) ? jpeg : join(folder, `${n}.png`));
  const pixels = await sharp(file).removeAlpha().raw().toBuffer();
  const own = readJpegHeader(file)?.facts ?? null;
  rows.push(tracesOf([patchOf(asRaster(pixels, size), whole(size))], own));
}
writeFileSync(
  join(folder, 'traces.f32'),
  Buffer.concat(rows.map(({ buffer }) => Buffer.from(buffer as ArrayBuffer))),
);
console.log(`${name}: ${count} files, ${rows[0]?.length} traces each`);
