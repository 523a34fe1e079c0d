/**
 * What the core finds of traces in files of training/customers/damaged.py, for measure.py to learn from:
 *
 *   npx tsx training/customers/traces.ts NAME SIDE
 */
import { existsSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { readJpegHeader } from '../../src/core/inspect/jpeg';
import { coarserTables } from '../../src/core/inspect/jpeg-quality';
import { patchOf } from '../../src/core/inspect/patches';
import { plainestFirst } from '../../src/core/inspect/traces/grain';
import { kindTraces, tracesOf } from '../../src/core/inspect/traces/traces';
import { whole } from '../../src/core/raster/region';
import { asRaster, DATA } from '../degrade';

const [name, side] = process.argv.slice(2) as [string, string];
const size = { width: Number(side), height: Number(side) };
const folder = join(DATA, 'customers', name);
const count = statSync(join(folder, 'perfect.u8')).size / (3 * size.width * size.height);
const rows: Float32Array[] = [];
/** What is true of each file, in the order of training/customers/damage.py. */
const told = new Float32Array(new Uint8Array(readFileSync(join(folder, 'told.f32'))).buffer);
const each = told.length / count;
const [COMPRESSION, SAVED_AGAIN] = [4, 11];
for (let n = 0; n < count; n++) {
  const jpeg = join(folder, `${n}.jpg`);
  const file = readFileSync(existsSync(jpeg) ? jpeg : join(folder, `${n}.png`));
  const pixels = await sharp(file).removeAlpha().raw().toBuffer();
  const said = readJpegHeader(file)?.facts ?? null;
  // Of a file that was saved again findings tell how it was compressed before.
  const before = 100 - 60 * told[n * each + COMPRESSION]!;
  const own = said && told[n * each + SAVED_AGAIN] ? coarserTables(said, before) : said;
  const squares = [patchOf(asRaster(pixels, size), whole(size))];
  const blocks = plainestFirst(squares);
  rows.push(kindTraces(tracesOf(squares, own, blocks), blocks));
}
writeFileSync(
  join(folder, 'traces.f32'),
  Buffer.concat(rows.map(({ buffer }) => Buffer.from(buffer as ArrayBuffer))),
);
console.log(`${name}: ${count} files, ${rows[0]?.length} traces each`);
