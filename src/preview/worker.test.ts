import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { SHIPPED } from '@/core/colour/profiles';
import { ALL_MODELS, MODELS } from '@/core/learned/models';
import { networksFrom } from '@/core/learned/networks';
import { cut, type Raster } from '@/core/raster/raster';
import { clip, whole, type Region, type Size } from '@/core/raster/region';
import { TABLE_SIDE } from '@/core/raster/screen';
import { toSamples, type Depth } from '@/core/raster/samples';
import { memorySource, testFindings, testPaper, testPicture } from '@/core/testing';
import { newStep } from '@/core/recipe/order';
import { propose } from '@/core/recipe/propose';
import type { Recipe } from '@/core/recipe/recipe';
import type { Treatment } from '@/core/recipe/work';
import { render } from '@/core/render/render';
import { classically } from '@/core/recipe/views';
import { resolveRecipe } from '@/core/recipe/resolve';
import { originalOf } from '@/core/recipe/original';
import { TILE } from '@/core/raster/tiles';
import { emptyMask, maskBytes } from '@/core/zone/mask';
import type { PreviewOriginal } from './originals';
import type { PreviewWorker } from './worker';
import type { Spotted, WorkName, Works } from './works';

// The worker as the page would reach it, over a server that is made up here.
const reached = vi.hoisted(() => ({ worker: null as unknown }));
vi.mock('comlink', () => ({
  expose: (worker: unknown) => (reached.worker = worker),
  transfer: <T>(value: T) => value,
}));
vi.mock('./engine-package', () => ({ enginePackage: () => import('lcms-wasm') }));
await import('./worker');
const worker = reached.worker as PreviewWorker;

let last = 0;
/** Asks the worker as the page does. */
const ask = <W extends WorkName>(
  work: W,
  input: Parameters<Works[W]>[0],
  onNews: (news: unknown) => void = () => {},
  priority = 1,
) => worker.ask({ id: ++last, priority, work, input }, onNews) as ReturnType<Works[W]>;

const size: Size = { width: 300, height: 280 };
const picture = testPicture(size, 5);
const models = join(import.meta.dirname, '../../models');
const modelFile = (digest: string) => {
  const { file } = Object.values(MODELS).find((one) => one.digest === digest)!;
  return readFileSync(join(models, file));
};

const engineCode = readFileSync(
  join(import.meta.dirname, '../../node_modules/lcms-wasm/dist/lcms.wasm'),
);
const profileFile = (digest: string) => {
  const [file] = Object.entries(SHIPPED).find(([, one]) => one.digest === digest)!;
  return readFileSync(join(import.meta.dirname, '../../profiles', file));
};

/** What was asked of the server, and what it has no answer to. */
const asked: string[] = [];
const missing = new Set<string>();

function tile(address: string, depth: Depth): Uint8Array {
  const [column, row] = address.split('/').slice(-2).map(Number) as [number, number];
  const part = { x: column * TILE, y: row * TILE, width: TILE, height: TILE };
  const samples = toSamples(cut({ region: whole(size), raster: picture }, clip(part, size)), depth);
  return new Uint8Array(samples.buffer, samples.byteOffset, samples.byteLength);
}

/** A screen table that turns every colour into its negative. */
const negative = () => {
  const table = new Uint8Array(TABLE_SIDE ** 3 * 3);
  for (let i = 0; i < TABLE_SIDE ** 3; i++) {
    const steps = [Math.floor(i / TABLE_SIDE ** 2), Math.floor(i / TABLE_SIDE), i];
    steps.forEach(
      (step, c) => (table[3 * i + c] = 255 - Math.round(((step % TABLE_SIDE) * 255) / 64)),
    );
  }
  return table;
};

vi.stubGlobal('fetch', async (address: string) => {
  asked.push(address);
  if (missing.has(address)) return new Response(null, { status: 404 });
  if (address === '/api/engine/lcms.wasm') return new Response(engineCode);
  if (address.startsWith('/api/profiles/')) return new Response(profileFile(address.slice(14)));
  if (address.startsWith('/api/models/')) return new Response(modelFile(address.slice(12)));
  if (address.startsWith('/api/masks/')) return new Response(maskBytes(emptyMask(size)));
  if (address.endsWith('/screen')) return new Response(negative());
  return new Response(new Uint8Array(tile(address, address.includes('deep') ? 16 : 8)));
});

const originalNamed = (digest: string, named: Partial<PreviewOriginal> = {}): PreviewOriginal => ({
  ...{ digest, page: 1, level: 0, size, depth: 8, channels: 3, profiled: false, drawn: null },
  ...named,
});

let made = 0;

/** A treatment of a picture of its own, so that nothing of it is kept yet. */
function recipeOf(treatment: Treatment): Recipe {
  const findings = testFindings(size);
  const order = { paper: testPaper({ width: { value: 900, unit: 'px' } }), distance: 2 };
  const { work } = propose(findings, order);
  work.trials[0]!.treatment = treatment;
  const resolved = resolveRecipe(
    originalOf(String(++made), findings),
    work,
    work.trials[0]!,
    ALL_MODELS,
  );
  if (!resolved.ok) throw new Error(resolved.reason);
  return resolved.recipe;
}

const plainly = [newStep('enlarge', { method: 'lanczos3' }), newStep('unsharp')];
const learned = [newStep('enlarge', { method: 'learned-photo' }), newStep('unsharp')];
/** About where four tiles meet, three times as large. */
const region: Region = { x: 740, y: 735, width: 90, height: 70 };

/** What a file would hold of a region, interleaved with full alpha as a screen has it. */
async function inFile(recipe: Recipe, source: Raster = picture): Promise<number[]> {
  const network = networksFrom(async (digest) => new Uint8Array(modelFile(digest)));
  const raster = await render(memorySource(source), recipe, { network }).read(region);
  const samples = toSamples(raster, 8);
  return Array.from({ length: region.width * region.height }, (_, i) => [
    ...samples.subarray(3 * i, 3 * i + 3),
    255,
  ]).flat();
}
const seen = async (original: PreviewOriginal, recipe: Recipe, mayDraft = false) =>
  ask('pixels', { original, recipe, region, against: null, mayDraft });

beforeEach(() => {
  asked.length = 0;
  missing.clear();
});

describe('a region for the stage', () => {
  it('is dithered just as the file will be', async () => {
    const recipe = recipeOf(plainly);
    const dithered = { ...recipe, output: { ...recipe.output, dither: 'always' as const } };
    const raster = await render(memorySource(picture), recipe).read(region);
    const samples = toSamples(raster, 8, region);
    const { rgba } = await seen(originalNamed('dithered'), dithered);
    expect(rgba.filter((_, i) => i % 4 < 3)).toEqual(Uint8ClampedArray.from(samples));
    const { rgba: rounded } = await seen(originalNamed('dithered'), recipe);
    expect(rounded).not.toEqual(rgba);
  });

  it('is seen as printed, by the profile of the print, with stripes where that is wanted', async () => {
    const recipe = recipeOf(plainly);
    const { digest, space } = SHIPPED['coated.icc'];
    const conversion = { profile: digest, space, intent: 'relative', blackPoint: true } as const;
    const printed = async (beyond: boolean) => {
      const proof = { conversion, paperWhite: true, beyond };
      const original = originalNamed('printed');
      const asked = { original, recipe, region, against: null, proof, mayDraft: false };
      return (await ask('pixels', asked)).rgba;
    };
    const plain = (await seen(originalNamed('printed'), recipe)).rgba;
    const proof = await printed(false);
    const lightest = (rgba: Uint8ClampedArray) => Math.max(...rgba.filter((_, i) => i % 4 === 2));
    expect(lightest(proof)).toBeLessThan(lightest(plain));
    // No pixel is far from what it was, and none is where it was not.
    const off = proof.reduce((sum, v, i) => sum + Math.abs(v - plain[i]!), 0) / proof.length;
    expect(off).toBeGreaterThan(1);
    expect(off).toBeLessThan(30);
    expect(proof.filter((_, i) => i % 4 === 3).every((alpha) => alpha === 255)).toBe(true);
    const marked = await printed(true);
    expect(marked.length).toBe(proof.length);
  });

  it('holds just what the file will, over tiles that meet in it', async () => {
    const recipe = recipeOf(plainly);
    const pixels = await seen(originalNamed('plain'), recipe);
    expect([...pixels.rgba]).toEqual(await inFile(recipe));
    expect(pixels.draft).toBe(false);
    expect(asked.filter((address) => address.includes('/tiles/0/')).length).toBeGreaterThan(1);
  });

  it('holds it by a network as well', async () => {
    const recipe = recipeOf(learned);
    expect([...(await seen(originalNamed('learned'), recipe)).rgba]).toEqual(await inFile(recipe));
  });

  it('holds it of 16 bits a sample', async () => {
    const recipe = recipeOf(plainly);
    const pixels = await seen(originalNamed('deep', { depth: 16 }), recipe);
    expect([...pixels.rgba]).toEqual(await inFile(recipe));
  });

  it('is a classical draft for as long as a network would have to compute first', async () => {
    const recipe = recipeOf(learned);
    const original = originalNamed('drafted');
    const draft = await seen(original, recipe, true);
    expect(draft.draft).toBe(true);
    expect([...draft.rgba]).toEqual(await inFile(classically(recipe)));
    const last = await seen(original, recipe);
    expect(last.draft).toBe(false);
    // Now it is kept, and comes at once.
    const again = await seen(original, recipe, true);
    expect(again.draft).toBe(false);
    expect(again.rgba).toEqual(last.rgba);
  });

  it('asks for each tile once, and again for one that did not arrive', async () => {
    const original = originalNamed('torn');
    const recipe = recipeOf(plainly);
    const lost = '/api/originals/torn/pages/1/tiles/0/0/0';
    missing.add(lost);
    await expect(seen(original, recipe)).rejects.toThrow('tiles/0/0/0 did not arrive');
    missing.clear();
    await seen(original, recipe);
    await seen(original, recipe);
    expect(asked.filter((address) => address === lost)).toHaveLength(2);
    expect(new Set(asked.filter((address) => address !== lost)).size).toBe(asked.length - 2);
  });

  it('says which model did not arrive', async () => {
    const steps = [newStep('enlarge', { method: 'learned-art' })];
    missing.add(`/api/models/${MODELS.art.digest}`);
    await expect(seen(originalNamed('without'), recipeOf(steps))).rejects.toThrow(
      `/api/models/${MODELS.art.digest} did not arrive`,
    );
  });

  it('shows the colours of a profile as a screen has them, but differences as they are', async () => {
    const recipe = recipeOf(plainly);
    const original = originalNamed('profiled', { profiled: true });
    const shown = await seen(original, recipe);
    const file = await inFile(recipe);
    shown.rgba.forEach((value, i) => {
      expect(Math.abs(value - (i % 4 === 3 ? 255 : 255 - file[i]!))).toBeLessThanOrEqual(1);
    });
    const against = { recipe, gain: 4 };
    const none = await ask('pixels', { original, recipe, region, against, mayDraft: false });
    expect(none.rgba.every((value, i) => value === (i % 4 === 3 ? 255 : 128))).toBe(true);
  });

  it('tells what a treatment takes away from another, so many times as strong', async () => {
    const [before, after] = [
      recipeOf(plainly),
      recipeOf([newStep('tones', { points: 0, exposure: 0.2 }), ...plainly]),
    ];
    const original = originalNamed('against');
    const against = { recipe: before, gain: 2 };
    const { rgba } = await ask('pixels', {
      ...{ original, recipe: after, region, against },
      mayDraft: false,
    });
    const [a, b] = [await inFile(before), await inFile(after)];
    let counted = 0;
    rgba.forEach((value, i) => {
      if (i % 4 === 3 || Math.min(a[i]!, b[i]!) < 5 || Math.max(a[i]!, b[i]!) > 250) return;
      counted++;
      expect(Math.abs(value - (127.5 + 2 * (a[i]! - b[i]!)))).toBeLessThanOrEqual(2.5);
    });
    expect(counted).toBeGreaterThan(region.width * region.height);
  });
});

describe('what else the stage is told', () => {
  const zone = { parts: [], feather: 0, inverted: false };

  it('is a zone that was just painted, before the server has it', async () => {
    const recipe = { ...recipeOf(plainly), steps: [] };
    const painted = { digest: 'a'.repeat(64), ...size };
    const mask = emptyMask(size);
    for (let x = 0; x < 150; x++) mask.ink[20 * size.width + x] = 200;
    await ask('mask', { digest: painted.digest, bytes: maskBytes(mask), size });
    const row = { x: 0, y: 20, width: size.width, height: 1 };
    const at = await ask('zone', {
      ...{ original: originalNamed('zoned'), recipe, region: row },
      zone: { ...zone, painted },
    });
    expect([...at]).toEqual(Array.from({ length: size.width }, (_, x) => (x < 150 ? 200 : 0)));
    expect(asked.some((address) => address.startsWith('/api/masks/'))).toBe(false);
    const other = { digest: 'b'.repeat(64), ...size };
    const none = await ask('zone', {
      ...{ original: originalNamed('zoned'), recipe, region: row },
      zone: { ...zone, painted: other },
    });
    expect(none.every((value) => value === 0)).toBe(true);
    expect(asked.at(-1)).toBe(`/api/masks/${other.digest}?width=300&height=280`);
  });

  it('is how often each tone stands in a region', async () => {
    const { counts } = await ask('histogram', {
      ...{ original: originalNamed('toned'), recipe: recipeOf(plainly), region },
    });
    for (const tones of counts) {
      const all = tones.reduce((sum, count) => sum + count, 0);
      expect(all).toBe(region.width * region.height);
    }
  });

  it('is where a network invents, until nobody wants to know', async () => {
    const recipe = recipeOf(learned);
    const shares: number[] = [];
    const of = { original: originalNamed('invented'), recipe };
    const found = await ask('invented', of, (share) => shares.push(share as number));
    expect([found!.columns, found!.rows]).toEqual([38, 35]);
    expect(shares.at(-1)).toBe(1);
    const cancelled = ask('invented', of, () => worker.cancel(last));
    await expect(cancelled).rejects.toThrow(/abort/i);
  });

  it('is how methods fare on the very picture, until the test is ended', async () => {
    const recipe = { ...recipeOf(plainly), steps: [] };
    const settings = { light: 'gamma', limit: 0, step: 10 } as const;
    const ways = (['bilinear', 'bicubic'] as const).map((method) => ({
      ...{ method, settings },
      carried: { model: null, finest: false, plain: method },
    }));
    const rows: string[] = [];
    const of = { original: originalNamed('tested'), recipe, ways, factor: 2 };
    const found = await ask('selfTest', of, (news) => {
      const { method, spot } = news as { method: string; spot: Spotted };
      rows.push(method);
      expect(spot.rgba.length).toBe(4 * spot.width * spot.height);
    });
    expect(rows).toEqual(['bilinear', 'bicubic']);
    expect(found.factor).toBe(2);
    await expect(ask('selfTest', of, () => worker.cancel(last))).rejects.toThrow(/abort/i);
  });
});

describe('what is seen', () => {
  it('comes before what is only looked for, which goes on afterwards', async () => {
    const search = { original: originalNamed('urgent'), recipe: recipeOf(learned) };
    const done: string[] = [];
    const looking = ask('invented', search, () => {}, 0).then(() => done.push('search'));
    await new Promise((resolve) => setTimeout(resolve, 20));
    const recipe = recipeOf(plainly);
    const seeing = ask(
      'pixels',
      { original: originalNamed('urgent'), recipe, region, against: null, mayDraft: true },
      () => {},
      3,
    ).then(() => done.push('pixels'));
    await Promise.all([looking, seeing]);
    expect(done).toEqual(['pixels', 'search']);
  });

  it('is given up where it is cancelled before its turn', async () => {
    const recipe = recipeOf(plainly);
    const asking = seen(originalNamed('cancelled'), recipe);
    worker.cancel(last);
    await expect(asking).rejects.toThrow(/abort/i);
    expect(asked.some((address) => address.includes('/cancelled/'))).toBe(false);
  });
});
