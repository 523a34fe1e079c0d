import { mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import ExifReader from 'exifreader';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { SRGB } from '@/core/colour/profiles';
import { inFormat } from '@/core/output/output';
import { originalOf } from '@/core/recipe/original';
import { propose } from '@/core/recipe/propose';
import { resolveRecipe } from '@/core/recipe/resolve';
import type { Work } from '@/core/recipe/work';
import { testFindings, testPaper } from '@/core/testing';
import { profileBytes } from '../colour/profiles';
import { renderFile } from '../render/render-file';
import { testPixels } from '../testing/shop';
import { retagJpeg } from './retag-jpeg';

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lontano-tag-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const size = { width: 211, height: 140 };
const jpeg = testFindings({ ...size }).jpeg ?? {
  ...{ luma: Array(64).fill(8), chroma: null, samplingX: 2, samplingY: 2 },
  ...{ progressive: false, quality: 60, gridX: 0, gridY: 0 },
};

/** Only the size tag is set, for a print of so many centimetres. */
function tagged(width: number, change: (work: Work) => void = () => {}) {
  const findings = { ...testFindings(size), jpeg };
  const paper = testPaper({ width: { value: width, unit: 'cm' } });
  const { work } = propose(findings, { paper, distance: 2 });
  const trial = work.trials[0]!;
  trial.pixels = 'kept';
  trial.output = inFormat(trial.output, 'jpeg');
  change(work);
  const resolved = resolveRecipe(originalOf('d'.repeat(64), findings), work, trial);
  if (!resolved.ok) throw new Error(resolved.reason);
  return resolved.recipe;
}

const JPEGS: Record<string, () => Promise<Buffer>> = {
  plain: () => testPixels(size.width, size.height).jpeg({ quality: 55 }).toBuffer(),
  progressive: () => testPixels(size.width, size.height).jpeg({ progressive: true }).toBuffer(),
  'with EXIF and a profile': () =>
    testPixels(size.width, size.height)
      .withIccProfile('p3')
      .withExif({ IFD0: { Copyright: 'Observatory', ImageDescription: 'Dome' } })
      .withDensity(300)
      .jpeg({ quality: 70 })
      .toBuffer(),
};

/** What follows a JPEG's headers. */
const scanOf = (file: Buffer): Buffer => file.subarray(file.indexOf(Buffer.from([0xff, 0xda])));

describe('only setting the size tag of a JPEG', () => {
  it.each(Object.keys(JPEGS))(
    'of one %s changes no pixel, and prints at the new size',
    async (kind) => {
      const file = join(folder, 'original.jpg');
      const bytes = await JPEGS[kind]!();
      await writeFile(file, bytes);
      const recipe = tagged(35.5);
      expect(recipe.tagOnly).toBe(true);
      const out = join(folder, 'tagged.jpg');
      const own = (await sharp(bytes).metadata()).icc ?? null;
      const raw = () => Promise.reject(new Error('nothing is decoded to be computed'));
      const { found } = await renderFile({
        ...{ original: { file, name: 'original.jpg', raw }, recipe, profile: own, out },
      });
      expect(found.ppi!.x).toBeCloseTo(size.width / (35.5 / 2.54), 2);
      const written = await readFile(out);
      expect(scanOf(written).equals(scanOf(bytes))).toBe(true);
      const [before, after] = await Promise.all(
        [bytes, written].map((one) => sharp(one, { ignoreIcc: true }).raw().toBuffer()),
      );
      expect(after!.equals(before!)).toBe(true);
      const tags = ExifReader.load(written, { expanded: true });
      if (kind.includes('EXIF')) {
        expect(tags.exif?.['Copyright']?.description).toBe('Observatory');
        expect((await sharp(written).metadata()).icc).toEqual(own);
      } else {
        // It had none, and says sRGB now.
        const { icc } = await sharp(written).metadata();
        expect(Buffer.compare(icc!, await profileBytes(SRGB.digest))).toBe(0);
      }
      expect(written.readUInt16BE(14)).toBe(Math.round(size.width / (35.5 / 2.54)));
      expect((await readdir(folder)).sort()).toEqual(['original.jpg', 'tagged.jpg']);
      expect(await readFile(file)).toEqual(bytes);
    },
  );

  it('is another thing where the picture is cropped, turned, converted, or becomes another file', () => {
    const other: ((work: Work) => void)[] = [
      ({ framing }) => void (framing.crop = { x: 5, y: 5, width: 100, height: 80 }),
      ({ framing }) => void (framing.turn = 90),
      ({ trials }) => void (trials[0]!.output = inFormat(trials[0]!.output, 'png')),
      ({ trials }) => void (trials[0]!.pixels = 'new'),
      ({ paper }) => void Object.assign(paper.bleed, { mm: 3, fill: 'colour' }),
      ({ trials }) => {
        const how = { intent: 'relative', blackPoint: true } as const;
        trials[0]!.output.colour = { profile: SRGB.digest, space: 'rgb', ...how };
      },
    ];
    for (const change of other) expect(tagged(35.5, change).tagOnly).toBe(false);
  });

  it('refuses what is no JPEG, or ends in its headers', async () => {
    const whole = await JPEGS['plain']!();
    for (const bytes of [Buffer.from('no JPEG at all'), whole.subarray(0, 90), Buffer.alloc(1)]) {
      const file = join(folder, 'broken.jpg');
      await writeFile(file, bytes);
      const to = join(folder, 'never.jpg');
      await expect(retagJpeg(file, to, { ppi: 100, profile: null })).rejects.toThrow();
      await rm(file);
    }
    expect(await readdir(folder)).not.toContain('never.jpg');
  });
});
