import { mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Recipe } from '@/core/recipe/recipe';
import type { Work } from '@/core/recipe/work';
import { whole } from '@/core/raster/region';
import { toSamples } from '@/core/raster/samples';
import { propose } from '@/core/recipe/propose';
import { stepOf } from '@/core/recipe/work';
import { render } from '@/core/render/render';
import { resolveRecipe } from '@/core/recipe/resolve';
import { testPaper } from '@/core/testing';
import { originalOf } from '@/core/recipe/original';
import { decode } from '../codecs/decode';
import { decodeTask, type Decoded } from '../codecs/decoded';
import { MODELS } from '@/core/learned/models';
import { networksFrom } from '@/core/learned/networks';
import { newStep } from '@/core/recipe/order';
import type { Zone } from '@/core/zone/zone';
import { digestOfFile } from '../files/digest';
import { modelBytes } from '../files/models';
import { openRaw } from '../codecs/raw';
import { testJpeg } from '../testing/shop';
import { endThreads, renewThreads, startThreads } from './threads';
import { renderFile } from './render-file';

let folder: string;
let raw: string;
let decoded: Decoded;
const original = { file: 'p.jpg', name: 'p.jpg', raw: () => Promise.resolve(raw) };

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lontano-render-'));
  raw = join(folder, 'p.raw');
  await writeFile(join(folder, 'p.jpg'), await testJpeg(160, 100, 30));
  decoded = await decode(decodeTask(join(folder, 'p.jpg'), raw));
});
afterAll(async () => {
  await endThreads();
  await rm(folder, { recursive: true, force: true });
});

function work(change: (work: Work) => void = () => {}): Work {
  const paper = testPaper({ width: { value: 30, unit: 'cm' } });
  const { work: made } = propose(decoded.findings, { paper, distance: 2 });
  stepOf(made.trials[0]!.treatment, 'unsharp')!.strength = 60;
  change(made);
  return made;
}

function recipe(change?: (work: Work) => void) {
  const made = work(change);
  const resolved = resolveRecipe(originalOf('d', decoded.findings), made, made.trials[0]!);
  if (!resolved.ok) throw new Error(resolved.reason);
  return resolved.recipe;
}

describe('a rendered file', () => {
  /** Whether a file holds, at its end, just what the core makes of the whole picture at once. */
  async function expectWhole(out: string, of: Recipe) {
    const source = await openRaw(raw);
    const network = networksFrom(modelBytes);
    const raster = await render(source, of, { network }).read(whole(of.target));
    await source.close();
    const samples = toSamples(raster, of.output.depth);
    const file = await readFile(out);
    expect(
      file
        .subarray(file.length - samples.byteLength)
        .equals(Buffer.from(samples.buffer, samples.byteOffset, samples.byteLength)),
    ).toBe(true);
  }

  it.each([8, 16] as const)('holds just what the core renders whole, at %d bits', async (depth) => {
    const of = recipe((made) => (made.trials[0]!.output.depth = depth));
    const out = join(folder, `whole-${depth}.tif`);
    const shares: number[] = [];
    const { found, digest } = await renderFile({
      original,
      recipe: of,
      profile: null,
      out,
      onProgress: (share) => shares.push(share),
    });
    expect(found).toMatchObject({ width: 1890, height: 1181, ppi: { x: 160, y: 160 } });
    expect(digest).toBe(await digestOfFile(out));
    await expectWhole(out, of);
    expect(shares.at(-1)).toBe(1);
    expect([...shares].sort((a, b) => a - b)).toEqual(shares);
  });

  it.each(['lanczos3', 'lanczos3-jinc', 'bicubic'] as const)(
    'holds it of a straightened picture by %s, smoothed afterwards',
    async (method) => {
      const of = recipe((made) => {
        made.framing.straighten = 3;
        made.trials[0]!.treatment = [
          newStep('enlarge', { method, limit: 40 }),
          newStep('smooth', { radius: 2 }),
          newStep('unsharp'),
        ];
      });
      const out = join(folder, `slanted-${method}.tif`);
      await renderFile({ original, recipe: of, profile: null, out });
      await expectWhole(out, of);
    },
  );

  it('is the same by threads that were started before it, and by new ones', async () => {
    const of = recipe();
    const outs = ['first', 'second'].map((name) => join(folder, `${name}.tif`));
    await startThreads();
    await renderFile({ original, recipe: of, profile: null, out: outs[0]! });
    await renewThreads();
    await renderFile({ original, recipe: of, profile: null, out: outs[1]! });
    const [first, second] = await Promise.all(outs.map((out) => readFile(out)));
    expect(first!.equals(second!)).toBe(true);
    await expectWhole(outs[0]!, of);
  });

  /** A network's enlargement, with another method in one zone and another trial in a second. */
  const mixed = (made: Work) => {
    const half = (x0: number, x1: number): Zone['parts'] => [
      { kind: 'linear', joining: 'add', inverted: false, x0, y0: 0, x1, y1: 0 },
    ];
    const plain = { painted: null, feather: 4, inverted: false };
    made.zones = [
      { id: 'left', name: 'Left', parts: half(0.5, 0), ...plain },
      { id: 'right', name: 'Right', parts: half(0.6, 1), ...plain },
    ];
    const trial = made.trials[0]!;
    const cleaned = [newStep('compression')];
    made.trials.push({
      ...structuredClone(trial),
      id: 'b',
      treatment: [newStep('enlarge', { method: 'learned-art' })],
    });
    trial.treatment = [
      ...cleaned,
      newStep('enlarge', {
        method: 'learned-photo',
        parts: [{ zone: 'left', method: 'nearest' }],
      }),
      { ...newStep('inset', { trial: 'b' }), zone: 'right' },
      newStep('unsharp'),
    ];
  };

  it('holds the same of networks, another method in a zone, and another trial in a second', async () => {
    const of = recipe(mixed);
    const out = join(folder, 'mixed.tif');
    await renderFile({ original, recipe: of, profile: null, out });
    await expectWhole(out, of);
    expect((await readdir(folder)).filter((name) => name.startsWith('mixed.'))).toEqual([
      'mixed.tif',
    ]);
  });

  it('says which model is missing, and leaves nothing behind', async () => {
    const of = recipe(mixed);
    const text = JSON.stringify(of).replaceAll(MODELS.art.digest, 'f'.repeat(64));
    const out = join(folder, 'without.tif');
    const making = renderFile({ original, recipe: JSON.parse(text), profile: null, out });
    await expect(making).rejects.toThrow(/made with a model that is not here/);
    expect((await readdir(folder)).filter((name) => name.startsWith('without'))).toEqual([]);
    // Once the model is back the same run can be made.
    await renderFile({ original, recipe: of, profile: null, out });
    expect(await readdir(folder)).toContain('without.tif');
  });

  it('leaves nothing behind where it was stopped while a network computes', async () => {
    const stop = new AbortController();
    const out = join(folder, 'ended.tif');
    const of = recipe(mixed);
    const making = renderFile({ original, recipe: of, profile: null, out, signal: stop.signal });
    const begun = async () =>
      (await readdir(folder)).some((name) => name.includes('ended.tif.part'));
    while (!(await begun())) await new Promise((resolve) => setTimeout(resolve, 5));
    stop.abort(new Error('enough'));
    await expect(making).rejects.toThrow('enough');
    expect((await readdir(folder)).filter((name) => name.startsWith('ended'))).toEqual([]);
  });

  it('is not there, nor any part of it, when its making was stopped', async () => {
    const stop = new AbortController();
    const out = join(folder, 'stopped.tif');
    const making = renderFile({
      original,
      recipe: recipe((made) => (made.trials[0]!.ppi = 500)),
      profile: null,
      out,
      signal: stop.signal,
      onProgress: () => stop.abort(new Error('enough')),
    });
    await expect(making).rejects.toThrow('enough');
    expect((await readdir(folder)).filter((name) => name.startsWith('stopped'))).toEqual([]);
  });

  it('is refused before it is begun where its format or the disk cannot hold it', async () => {
    const out = join(folder, 'refused.jpg');
    const long = recipe((made) => Object.assign(made.trials[0]!.output, { format: 'jpeg' }));
    long.target.width = 70_000;
    await expect(renderFile({ original, recipe: long, profile: null, out })).rejects.toThrow(
      /at most 65500 pixels a side, this result has 70000\. Choose TIFF/,
    );
    const vast = recipe();
    Object.assign(vast.target, { width: 1_500_000, height: 1_500_000 });
    await expect(renderFile({ original, recipe: vast, profile: null, out })).rejects.toThrow(
      /on disk, .* are free/,
    );
    expect((await readdir(folder)).filter((name) => name.startsWith('refused'))).toEqual([]);
  });

  it('leaves a result to whoever claimed it meanwhile, and that one’s half-written files alone', async () => {
    const out = join(folder, 'claimed.tif');
    await writeFile(`${out}.part-second.tif`, 'another claim is writing');
    const making = renderFile({
      ...{ original, recipe: recipe(), profile: null, out, claim: 'first' },
      stillOwned: async () => false,
    });
    await expect(making).rejects.toThrow(/another owner/);
    const left = (await readdir(folder)).filter((name) => name.startsWith('claimed'));
    expect(left).toEqual(['claimed.tif.part-second.tif']);
  });

  it('opens elsewhere', async () => {
    const out = join(folder, 'elsewhere.tif');
    await renderFile({
      original,
      recipe: recipe((made) => (made.trials[0]!.ppi = 77.5)),
      profile: null,
      out,
    });
    const { width, density } = await sharp(out).metadata();
    expect(width).toBe(915);
    expect(Math.abs(density! - 77.5)).toBeLessThanOrEqual(0.5);
  });
});
