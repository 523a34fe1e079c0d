import { appendFile, mkdtemp, open, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { newStep } from '@/core/recipe/order';
import { originalOf } from '@/core/recipe/original';
import { propose } from '@/core/recipe/propose';
import type { Recipe } from '@/core/recipe/recipe';
import { resolveRecipe } from '@/core/recipe/resolve';
import { ALL_MODELS } from '@/core/learned/models';
import { testPaper } from '@/core/testing';
import { decode } from '../codecs/decode';
import { decodeTask } from '../codecs/decoded';
import { partOf } from '../files/store';
import { adoptParts } from '../files/sweep';
import { testJpeg } from '../testing/shop';
import { Journal } from './journal';
import { Leave } from './leave';
import { renderFile, type Rendered } from './render-file';
import { endThreads } from './threads';

let folder: string;
let out: string;
let recipe: Recipe;
let whole: Rendered;
const raw = () => join(folder, 'p.raw');

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lontano-resume-'));
  out = join(folder, 'out');
  await writeFile(join(folder, 'p.jpg'), await testJpeg(700, 500, 30));
  const { findings } = await decode(decodeTask(join(folder, 'p.jpg'), raw()));
  const paper = testPaper({ width: { value: 40, unit: 'cm' } });
  const { work } = propose(findings, { paper, distance: 2 });
  // A network enlarges: its blocks are what is dear, and lie in a scratch file.
  work.trials[0]!.treatment = [newStep('enlarge', { method: 'learned-photo' }), newStep('unsharp')];
  work.trials[0]!.ppi = 160;
  const resolved = resolveRecipe(originalOf('d', findings), work, work.trials[0]!, ALL_MODELS);
  if (!resolved.ok) throw new Error(resolved.reason);
  recipe = resolved.recipe;
  whole = await run('undisturbed', join(folder, 'whole'));
}, 120_000);
afterAll(async () => {
  await endThreads();
  await rm(folder, { recursive: true, force: true });
});
afterEach(() => rm(out, { force: true }));

const original = { file: 'p.jpg', name: 'p.jpg', raw: () => Promise.resolve(raw()) };

const run = (claim: string, to = out, options: Partial<Parameters<typeof renderFile>[0]> = {}) =>
  renderFile({ original, recipe, profile: null, out: to, claim, ...options });

/** Begins a run and leaves it once so much of it is done. @returns the share that was done */
async function leave(claim: string, at: number): Promise<number> {
  const leaving = new AbortController();
  let share = 0;
  await expect(
    run(claim, out, {
      signal: leaving.signal,
      onProgress: (now) => {
        share = now;
        if (now >= at) leaving.abort(new Leave());
      },
    }),
  ).rejects.toBeInstanceOf(Leave);
  return share;
}

const partsLeft = async () => (await readdir(folder)).filter((name) => name.startsWith('out.part'));

describe('a run that is left before its end', () => {
  it.each([0.3, 0.6, 0.9])('goes on from where it was, at %d, to the same bytes', async (at) => {
    const share = await leave('first', at);
    expect(await partsLeft()).toContain('out.part-first.done');
    await adoptParts(out, 'second');
    const shares: number[] = [];
    const rendered = await run('second', out, { onProgress: (now) => shares.push(now) });
    expect(rendered).toMatchObject({ digest: whole.digest, resumed: true });
    // Blocks that were on their way are computed again, and no others.
    expect(shares[0]).toBeGreaterThan(share * 0.4);
    expect(await partsLeft()).toEqual([]);
  });

  it('computes again what does not lie there as it was written', async () => {
    await leave('first', 0.6);
    const scratch = await open(join(folder, 'out.part-first.scratch0'), 'r+');
    await scratch.write(Buffer.alloc(4096, 77), 0, 4096, 5000);
    await scratch.close();
    await adoptParts(out, 'second');
    expect((await run('second')).digest).toBe(whole.digest);
  });

  it('begins anew where its rows did not outlive the machine', async () => {
    await leave('first', 0.97);
    const samples = await open(join(folder, 'out.part-first.tif'), 'r+');
    const { size } = await samples.stat();
    await samples.write(Buffer.alloc(size >> 1, 0), 0, size >> 1, size >> 2);
    await samples.close();
    await adoptParts(out, 'second');
    expect((await run('second')).digest).toBe(whole.digest);
  });

  it('begins anew where its recipe became another one', async () => {
    await leave('first', 0.6);
    await adoptParts(out, 'second');
    const other: Recipe = { ...recipe, output: { ...recipe.output, depth: 16 } };
    const rendered = await renderFile({
      original,
      recipe: other,
      profile: null,
      out,
      claim: 'second',
    });
    expect(rendered.resumed).toBe(false);
  });

  it('that is cancelled leaves nothing', async () => {
    const stop = new AbortController();
    const stopped = run('first', out, {
      signal: stop.signal,
      onProgress: (share) => share > 0.5 && stop.abort(new Error('cancelled')),
    });
    await expect(stopped).rejects.toThrow('cancelled');
    expect(await partsLeft()).toEqual([]);
  });
});

describe('what earlier claims left', () => {
  it('goes to the next one as far as the farthest came; the rest is removed', async () => {
    const file = (claim: string, ending: string, text: string) =>
      writeFile(partOf(out, claim) + ending, text);
    await file('near', '.done', 'plan\n');
    await file('near', '.tif', 'near');
    await file('far', '.done', 'plan\nmore\n');
    await file('far', '.tif', 'far');
    await file('torn', '.scratch0', 'nobody noted it');
    await adoptParts(out, 'next');
    expect((await partsLeft()).sort()).toEqual(['out.part-next.done', 'out.part-next.tif']);
    expect(await readFile(`${partOf(out, 'next')}.tif`, 'utf8')).toBe('far');
    await adoptParts(out, 'last');
    for (const name of await partsLeft()) await rm(join(folder, name));
  });
});

describe('a journal', () => {
  it('holds what was noted, but for a line that was cut off', async () => {
    const path = join(folder, 'journal');
    const first = await Journal.open(path, 'plan');
    first.note(0, 3, Uint32Array.of(7, 4_000_000_000));
    first.note(1, 0, Uint32Array.of(1));
    await first.written();
    await appendFile(path, '{"job":1,"part":1,"su');
    const second = await Journal.open(path, 'plan');
    expect([...second.done(0)]).toEqual([[3, Uint32Array.of(7, 4_000_000_000)]]);
    expect([...second.done(1).keys()]).toEqual([0]);
    expect((await Journal.open(path, 'another plan')).isBegun()).toBe(false);
    expect((await Journal.open(path, 'plan')).isBegun()).toBe(false);
    await first.remove();
  });
});
