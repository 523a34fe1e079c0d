import { mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Format } from '@/core/output/formats';
import type { Output } from '@/core/output/output';
import { propose } from '@/core/recipe/propose';
import { originalOf } from '@/core/recipe/original';
import type { Recipe } from '@/core/recipe/recipe';
import { resolveRecipe } from '@/core/recipe/resolve';
import { testFindings, testPaper } from '@/core/testing';
import { testPixels } from '../testing/shop';
import { rowSum, type RowSums, type SampleFile } from './samples';
import { writerOf } from './writer';

let folder: string;
let icc: Buffer;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lontano-writers-'));
  const wide = await testPixels(8, 8).withIccProfile('p3').png().toBuffer();
  icc = (await sharp(wide).metadata()).icc!;
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const size = { width: 90, height: 61 };
/** Two columns, as threads write them. */
const parts = [
  { x: 0, y: 0, width: 48, height: 61 },
  { x: 48, y: 0, width: 42, height: 61 },
];

/** A recipe for 90 x 61 pixels at 127.3 ppi. */
function recipeFor(output: Partial<Output>, alpha: Recipe['alpha']): Recipe {
  const findings = testFindings(size);
  const px = (inches: number) => ({ value: inches * 2.54, unit: 'cm' as const });
  const paper = testPaper({ width: px(90 / 127.3), height: px(61 / 127.3) });
  const { work } = propose(findings, { paper, distance: 2 });
  const trial = work.trials[0]!;
  trial.ppi = 127.3;
  Object.assign(trial.output, { quality: 97 }, output);
  const resolved = resolveRecipe(originalOf('d'.repeat(64), findings), work, trial);
  if (!resolved.ok) throw new Error(resolved.reason);
  expect(resolved.recipe.target).toMatchObject(size);
  return { ...resolved.recipe, alpha };
}

/** Smooth samples, as enlarged pictures have them, written column by column, and their sums. */
async function writeRows(to: SampleFile): Promise<{ samples: Buffer; sums: RowSums[] }> {
  const bytes = to.depth / 8;
  const line = size.width * to.channels * bytes;
  const samples = Buffer.alloc(line * size.height);
  for (let i = 0; i < samples.length / bytes; i++) {
    const value = 120 + 90 * Math.sin(i / 400) + (i % to.channels) * 9;
    if (bytes === 2) samples.writeUInt16LE(Math.round(value * 257), i * 2);
    else samples[i] = value;
  }
  const file = await readFile(to.path);
  const sums = parts.map((part) => ({ part, sums: new Uint32Array(part.height) }));
  for (const { part, sums: own } of sums) {
    for (let y = 0; y < part.height; y++) {
      const at = y * line + part.x * to.channels * bytes;
      const row = samples.subarray(at, at + part.width * to.channels * bytes);
      row.copy(file, to.start + at);
      own[y] = rowSum(row);
    }
  }
  await writeFile(to.path, file);
  return { samples, sums };
}

const cases = Format.options.flatMap((format) =>
  (['none', 'kept'] as const).flatMap((alpha) =>
    ([8, 16] as const).map((depth) => ({ format, alpha, depth })),
  ),
);
const possible = cases.filter(
  ({ format, alpha, depth }) => format !== 'jpeg' || (alpha === 'none' && depth === 8),
);

describe.each(possible)('a writer of $format, $depth bits, alpha $alpha', (output) => {
  const { format, alpha, depth } = output;
  const write = async (name: string) => {
    const recipe = recipeFor({ format, depth }, alpha);
    const part = join(folder, `${name}-${format}-${alpha}-${depth}`);
    const writer = writerOf({ recipe, profile: icc, part });
    const place = await writer.begin();
    const { samples, sums } = await writeRows(place);
    return { writer, samples, sums };
  };

  it('makes a file that elsewhere opens as what was written', async () => {
    const { writer, samples, sums } = await write('good');
    const told: number[] = [];
    const path = await writer.end((share) => told.push(share));
    expect(told).toEqual(format === 'png' ? [1] : []);
    const { found, complaints } = await writer.verify(sums, (share) => told.push(share));
    expect(told.at(-1)).toBe(0);
    expect(complaints).toEqual([]);
    expect(found.ppi!.x).toBeCloseTo(127.3, 1);
    const metadata = await sharp(path).metadata();
    expect(metadata).toMatchObject({ ...size, format, density: 127 });
    expect(metadata.icc).toEqual(icc);
    const back = await sharp(path, { ignoreIcc: true })
      .toColourspace(depth === 16 ? 'rgb16' : 'srgb')
      .raw(depth === 16 ? { depth: 'ushort' } : {})
      .toBuffer();
    expect(back.length).toBe(samples.length);
    if (format === 'jpeg') {
      const off = back.reduce((sum, v, i) => sum + (v - samples[i]!) ** 2, 0) / back.length;
      expect(off).toBeLessThan(4);
      const head = await readFile(path);
      expect(head.toString('latin1', 6, 10)).toBe('JFIF');
      expect(head.readUInt16BE(14)).toBe(127);
    } else expect(back.equals(samples)).toBe(true);
    await writer.clear();
    expect((await readdir(folder)).filter((name) => name.startsWith('good'))).toEqual([]);
  });

  it('finds pixels that are not what was computed', async () => {
    const { writer, sums } = await write('wrong');
    const path = await writer.end(() => {});
    if (format === 'jpeg') {
      const other = await sharp(path).negate().keepIccProfile().jpeg().toBuffer();
      await writeFile(path, other);
    } else sums[1]!.sums[17]! ^= 1;
    const { complaints } = await writer.verify(sums, () => {});
    expect(complaints.join(' ')).toMatch(format === 'jpeg' ? /off what was/ : /^1 rows/);
    await writer.clear();
  });
});
