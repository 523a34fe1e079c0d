import { mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { SHIPPED } from '@/core/colour/profiles';
import type { DeviceSpace } from '@/core/colour/space';
import { Format, formatOf, packingsOf } from '@/core/output/formats';
import { isLossy, usualOutput, type Output } from '@/core/output/output';
import { propose } from '@/core/recipe/propose';
import { originalOf } from '@/core/recipe/original';
import type { Recipe } from '@/core/recipe/recipe';
import { resolveRecipe } from '@/core/recipe/resolve';
import { testFindings, testPaper } from '@/core/testing';
import { profileBytes } from '../colour/profiles';
import { testPixels } from '../testing/shop';
import { readPdf } from './pdf-read';
import { inItsColours } from './pixels';
import { rowSum, type RowSums, type SampleFile } from './samples';
import { packStrip } from './strip';
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

const profileIn = async (space: DeviceSpace): Promise<Uint8Array> =>
  CONVERSIONS[space] ? profileBytes(CONVERSIONS[space].digest) : icc;

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

const facts = {
  ...{ job: '2026-014', title: 'Dome at dusk', customer: 'Observatory', trial: 'Trial A' },
  ...{ size: '120 × 80 cm', date: '2026-11-29' },
};

/** The profile of each kind of colours, and the conversion to it. */
const CONVERSIONS = {
  rgb: null,
  grey: SHIPPED['grey.icc'],
  cmyk: SHIPPED['coated.icc'],
} as const;

const conversionTo = (space: DeviceSpace): Output['colour'] => {
  const to = CONVERSIONS[space];
  return to && { profile: to.digest, space: to.space, intent: 'relative', blackPoint: true };
};

/** Every way of packing of every format, with all that it holds. */
const cases = Format.options.flatMap((format) =>
  packingsOf(format).flatMap((compression) =>
    formatOf(format).packings[compression]!.depths.flatMap((depth) =>
      formatOf(format).spaces.flatMap((space) =>
        (['none', 'kept'] as const)
          .filter((alpha) => alpha === 'none' || (formatOf(format).alpha && space === 'rgb'))
          .map((alpha) => ({ format, compression, depth, space, alpha })),
      ),
    ),
  ),
);

describe.each(cases)(
  'a writer of $format, $compression, $depth bits, $space, alpha $alpha',
  (output) => {
    const { format, compression, alpha, depth, space } = output;
    const lossy = isLossy(output);
    const write = async (name: string, change: Partial<Output> = {}) => {
      const packing = { compression, colour: conversionTo(space) };
      const recipe = recipeFor({ ...usualOutput(format, depth), ...packing, ...change }, alpha);
      const part = join(folder, `${name}-${format}-${compression}-${alpha}-${depth}-${space}`);
      const profile = await profileIn(space);
      const packed = (task: Parameters<typeof packStrip>[0]) => Promise.resolve(packStrip(task));
      const writer = writerOf({ recipe, profile, part, facts, packed });
      const place = await writer.begin();
      const { samples, sums } = await writeRows(place);
      return { writer, samples, sums };
    };
    /** The pixels of a file as another program reads them. */
    const opened = (path: string | Buffer) =>
      inItsColours(sharp(path, { ignoreIcc: true }), output)
        .raw(depth === 16 ? { depth: 'ushort' } : {})
        .toBuffer();
    const expectPixels = (back: Buffer, samples: Buffer) => {
      expect(back.length).toBe(samples.length);
      if (!lossy) return expect(back.equals(samples)).toBe(true);
      const off = back.reduce((sum, v, i) => sum + (v - samples[i]!) ** 2, 0) / back.length;
      expect(off).toBeLessThan(6);
    };

    it('makes a file that is what was written when it is read back, with what it says of itself', async () => {
      const { writer, samples, sums } = await write('good');
      const told: number[] = [];
      const path = await writer.end((share) => told.push(share));
      expect(told.every((share) => share > 0 && share <= 1)).toBe(true);
      const { found, complaints } = await writer.verify(sums, (share) => told.push(share));
      expect(told.at(-1)).toBe(0);
      expect(complaints).toEqual([]);
      expect(found.ppi!.x).toBeCloseTo(127.3, 1);
      const profile = await profileIn(space);
      expect(Buffer.compare(found.profile!, profile)).toBe(0);
      const file = await readFile(path);
      const says = file.includes(Buffer.from('Dome at dusk'));
      if (format === 'pdf') {
        const { data } = readPdf(path);
        const inside = file.subarray(data.start, data.start + data.length);
        if (lossy) expectPixels(await opened(inside), samples);
        else expect(data.filter).toBe('FlateDecode');
        expect(file.toString('latin1')).toContain(
          Buffer.from('Dome', 'utf16le').swap16().toString('hex'),
        );
      } else {
        expect(says).toBe(true);
        const metadata = await sharp(path).metadata();
        expect(metadata).toMatchObject({ ...size, format });
        if (format !== 'webp') expect(metadata.density).toBe(127);
        expect(Buffer.compare(metadata.icc!, profile)).toBe(0);
        expectPixels(await opened(path), samples);
      }
      if (format === 'jpeg') {
        expect(file.toString('latin1', 6, 10)).toBe('JFIF');
        expect(file.readUInt16BE(14)).toBe(127);
      }
      await writer.clear();
      expect((await readdir(folder)).filter((name) => name.startsWith('good'))).toEqual([]);
    });

    it('finds pixels that are not what was computed', async () => {
      const { writer, sums } = await write('wrong', { quality: 97 });
      const path = await writer.end(() => {});
      if (format === 'jpeg' || format === 'webp') {
        const other = inItsColours(sharp(path, { ignoreIcc: true }), output)
          .negate()
          .keepIccProfile();
        await writeFile(path, await (format === 'jpeg' ? other.jpeg() : other.webp()).toBuffer());
      } else if (format === 'pdf' && lossy) {
        const { data } = readPdf(path);
        const file = await readFile(path);
        const inside = file.subarray(data.start, data.start + data.length);
        const other = await inItsColours(sharp(inside), output)
          .negate()
          .jpeg({ quality: 20 })
          .toBuffer();
        // What follows the end of a picture is not looked at.
        inside.fill(0).set(other);
        await writeFile(path, file);
      }
      if (!lossy) sums[1]!.sums[17]! ^= 1;
      const { complaints } = await writer.verify(sums, () => {});
      expect(complaints.join(' ')).toMatch(lossy ? /off what was/ : /rows? of its pixels/);
      await writer.clear();
    });
  },
);

describe('a JPEG', () => {
  it('has colours as fine as its light, or half as fine, and comes in passes where that is wanted', async () => {
    for (const [sampling, progressive] of [
      ['4:4:4', false],
      ['4:2:0', true],
    ] as const) {
      const output = { ...usualOutput('jpeg', 8), sampling, progressive };
      const part = join(folder, `sampled-${progressive}`);
      const packed = (task: Parameters<typeof packStrip>[0]) => Promise.resolve(packStrip(task));
      const writer = writerOf({ recipe: recipeFor(output, 'none'), profile: null, part, packed });
      await writeRows(await writer.begin());
      const metadata = await sharp(await writer.end(() => {})).metadata();
      expect(metadata).toMatchObject({ chromaSubsampling: sampling, isProgressive: progressive });
      await writer.clear();
    }
  });
});

describe('the resolution that a file says', () => {
  // Whole ones, such that a codec's fraction of a millimetre doesn't hold, and any that follow from a size.
  const any = Array.from({ length: 60 }, (_, i) => 31 + i * 7.7);
  const told = [...any, 64, 128, 250.7, 250.7008, 1200 / 7, 4800];

  it.each(Format.options)('is the ordered one, in %s', async (format) => {
    const base = recipeFor({ ...usualOutput(format, 8) }, 'none');
    const packed = (task: Parameters<typeof packStrip>[0]) => Promise.resolve(packStrip(task));
    for (const ppi of told) {
      const recipe = { ...base, target: { ...base.target, ppi } };
      const part = join(folder, `told-${format}`);
      const writer = writerOf({ recipe, profile: null, part, packed });
      const { sums } = await writeRows(await writer.begin());
      await writer.end(() => {});
      const { complaints } = await writer.verify(sums, () => {});
      expect(complaints, `${ppi}`).toEqual([]);
      await writer.clear();
    }
  });
});
