import { describe, expect, it } from 'vitest';
import { NO_MODELS } from '../learned/models';
import { cut, emptyRaster, paste, type Raster } from '../raster/raster';
import { cells, strips, whole, type Region } from '../raster/region';
import { toSamples } from '../raster/samples';
import type { Source } from '../raster/source';
import { graphOf } from '../recipe/graph';
import type { GraphNode } from '../recipe/graph-node';
import { newStep } from '../recipe/order';
import { originalOf } from '../recipe/original';
import { propose } from '../recipe/propose';
import type { Recipe } from '../recipe/recipe';
import { resolveRecipe } from '../recipe/resolve';
import type { Treatment, Work } from '../recipe/work';
import { memorySource, testFindings, testPaper, testPicture } from '../testing';
import { newPart } from '../zone/zone';
import { Carry } from './carry';
import { NO_GUARDS, USUAL_GUARDS } from '../guard/guards';
import { Kept } from './kept';
import { render, renderNode } from './render';
import { carryPlans, scheduleOf, type NodeJob } from './schedule';
import { inOrder } from '../recipe/graph-node';

const size = { width: 120, height: 84 };
const picture = testPicture(size);
const source = memorySource(picture);

function recipeOf(treatment: Treatment, change: (work: Work) => void = () => {}): Recipe {
  const findings = testFindings(size);
  const paper = testPaper({ width: { value: 8, unit: 'cm' } });
  const { work } = propose(findings, { paper, distance: 2 });
  Object.assign(work.trials[0]!, { treatment, guards: NO_GUARDS });
  change(work);
  const original = originalOf('c'.repeat(64), findings);
  const resolved = resolveRecipe(original, work, work.trials[0]!, NO_MODELS);
  if (!resolved.ok) throw new Error(resolved.reason);
  return resolved.recipe;
}

const enlarge = newStep('enlarge', { method: 'lanczos3' });
const unsharp = (radius: number) => newStep('unsharp', { radius, unit: 'px', threshold: 0 });
const spot = (x: number, y: number, dx: number, dy: number) => ({
  ...{ id: `${x}`, how: 'heal' as const, radius: 4, softness: 0.3 },
  ...{ points: [[x, y]] as [number, number][], offset: [dx, dy] as [number, number] },
});
const zoned = (work: Work) => {
  const parts = [{ ...newPart.linear(), x0: 0.2, x1: 0.7 }];
  work.zones = [{ id: 'z', name: 'Left', parts, painted: null, feather: 3, inverted: false }];
};

/** Every finishing step at least once, and what makes a part look far about. */
const chains: Record<string, Recipe> = {
  'three unsharp masks': recipeOf([enlarge, unsharp(40), unsharp(20), unsharp(6)]),
  'every finishing step': recipeOf([
    ...[newStep('specks'), newStep('banding'), enlarge],
    newStep('retouch', { spots: [spot(60, 40, 30, -25), spot(20, 70, -8, 9)] }),
    newStep('smooth', { radius: 1.4 }),
    newStep('texture', { returned: 50, grain: 4 }),
    ...[unsharp(9), unsharp(1.2)],
  ]),
  'every sharpening, guarded': recipeOf(
    [
      ...[newStep('deblur', { form: 'gaussian', radius: 0.8 }), enlarge],
      ...[newStep('contrast', { radius: 14, unit: 'px' }), newStep('highpass')],
      { ...newStep('edges', { radius: 1.5, unit: 'px' }), zone: 'z', strength: 70 },
      ...[unsharp(2), newStep('grain', { size: 3, unit: 'px' })],
      newStep('paper', { surface: 'canvas' }),
    ],
    (work) => {
      zoned(work);
      work.trials[0]!.guards = USUAL_GUARDS;
    },
  ),
  'in zones, weakened': recipeOf(
    [
      { ...newStep('tones', { exposure: 0.5 }), zone: 'z' },
      enlarge,
      { ...unsharp(12), zone: 'z' },
      { ...newStep('smooth'), strength: 40 },
      { ...unsharp(3), zone: 'z', strength: 60 },
    ],
    zoned,
  ),
  'another trial over it': recipeOf(
    [enlarge, { ...newStep('inset', { trial: 'b' }), zone: 'z' }, unsharp(7)],
    (work) => {
      zoned(work);
      const treatment = [newStep('fringes'), newStep('enlarge', { method: 'bicubic' }), unsharp(8)];
      work.trials.push({ ...work.trials[0]!, id: 'b', name: 'B', treatment });
    },
  ),
  'straightened, with margins and bleed that mirror it': recipeOf([enlarge, unsharp(6)], (work) => {
    work.framing.straighten = 4;
    Object.assign(work.paper, {
      ...{ height: { value: 9, unit: 'cm' }, fit: 'margin' },
      bleed: { mm: 4, fill: 'mirror' },
    });
  }),
};

const bytes = (raster: Raster) => Buffer.from(toSamples(raster, 16).buffer);

/** Goes over a recipe as a run does. @param counted by hash: pixels that were computed */
async function run(recipe: Recipe, threads: number, rows: number, counted: Map<string, number>) {
  const graph = graphOf(recipe);
  for (const node of inOrder(graph.result)) count(node, counted);
  const made = new Map<string, Source>();
  let last: Raster | undefined;
  for (const job of scheduleOf(graph, threads).jobs) {
    const { node } = job;
    const raster = emptyRaster(node.size.width, node.size.height, node.form);
    for (const part of job.parts) {
      await walk({ ...job, rows: Math.min(rows, job.rows) }, part, made, {
        region: whole(raster),
        raster,
      });
    }
    made.set(node.hash, memorySource(raster));
    last = raster;
  }
  return last!;
}

function count(node: GraphNode, counted: Map<string, number>): void {
  const { compute } = node;
  node.compute = (region, ...rest) => {
    counted.set(node.hash, (counted.get(node.hash) ?? 0) + region.width * region.height);
    return compute(region, ...rest);
  };
}

async function walk(
  job: NodeJob,
  part: Region,
  made: Map<string, Source>,
  target: { region: Region; raster: Raster },
) {
  const { tiles, plans } = carryPlans(
    job,
    part,
    ({ hash, inputs }) => inputs.length === 0 || made.has(hash),
  );
  const carry = new Carry(plans);
  const tools = { store: carry, materialised: (hash: string) => made.get(hash) };
  const rendering = renderNode(source, job.node, tools);
  for (const tile of tiles) {
    paste({ region: tile, raster: await rendering.read(tile) }, target);
    carry.nextTile();
  }
}

describe.each(Object.entries(chains))('%s', (_, recipe) => {
  it.each([
    [1, 7],
    [2, 40],
    [3, 1000],
  ])('comes to the same bytes by %d threads in tiles of %d rows', async (threads, rows) => {
    const all = await render(source, recipe).read(whole(recipe.target));
    expect(bytes(await run(recipe, threads, rows, new Map())).equals(bytes(all))).toBe(true);
  });

  it('computes every pixel of a node once, in one column', async () => {
    const counted = new Map<string, number>();
    await run(recipe, 1, 16, counted);
    for (const { hash, size: full, inputs } of inOrder(graphOf(recipe).result)) {
      // Files are read as often as they are needed.
      if (inputs.length === 0) continue;
      expect(counted.get(hash) ?? 0).toBeLessThanOrEqual(full.width * full.height);
    }
  });

  it('computes every pixel of a node once wherever a part begins', async () => {
    const { result, place } = graphOf(recipe);
    const part = { x: 64, y: place.y + 90, width: 150, height: 120 };
    const counted = new Map<string, number>();
    for (const node of inOrder(result)) count(node, counted);
    const { tiles, plans } = carryPlans(
      { node: result, rows: 24 },
      part,
      (node) => node.inputs.length === 0,
    );
    const carry = new Carry(plans);
    const rendering = renderNode(source, result, { store: carry });
    for (const tile of tiles) {
      await rendering.read(tile);
      carry.nextTile();
    }
    for (const [node, { width, tiles: rows }] of plans) {
      const from = Math.min(...rows.map((tile) => tile.from));
      const to = Math.max(...rows.map((tile) => tile.to));
      expect(counted.get(node.hash) ?? 0).toBeLessThanOrEqual(width * (to - from));
    }
    expect(counted.get(result.hash)).toBe(part.width * part.height);
  });

  it('comes to the same bytes from what is kept, in any order, whatever was let go meanwhile', async () => {
    const all = await render(source, recipe).read(whole(recipe.target));
    for (const limit of [1 << 26, 300_000]) {
      const store = new Kept(limit);
      const parts = cells(whole(recipe.target), { width: 170, height: 93 }, recipe.target);
      for (const part of [...parts.reverse(), ...strips(recipe.target, 50)]) {
        const got = await render(source, recipe, { store }).read(part);
        const expected = cut({ region: whole(recipe.target), raster: all }, part);
        expect(bytes(got).equals(bytes(expected))).toBe(true);
        expect(store.bytes).toBeLessThanOrEqual(limit);
      }
    }
  });
});

describe('a schedule', () => {
  it('materialises what is dear before the enlargement, and nothing where that is nothing', () => {
    const jobs = (treatment: Treatment) =>
      scheduleOf(graphOf(recipeOf(treatment)), 2).jobs.map(({ node }) => node.size.width);
    expect(jobs([enlarge, unsharp(9)])).toHaveLength(1);
    expect(jobs([newStep('specks'), newStep('banding'), enlarge])).toEqual([120, 504]);
  });

  it('shares a result out evenly in columns of bounded width', () => {
    for (const [width, threads] of [
      [12_756, 2],
      [25_512, 3],
      [300_000, 2],
      [90, 2],
    ] as const) {
      const recipe = recipeOf([enlarge]);
      const graph = graphOf(recipe);
      const written = { ...graph.written, size: { width, height: 50 } };
      const { parts } = scheduleOf({ ...graph, written }, threads).jobs.at(-1)!;
      expect(parts.reduce((sum, part) => sum + part.width, 0)).toBe(width);
      for (const part of parts) expect(part.width).toBeLessThanOrEqual(3280);
      if (width > 1000) expect(parts.length % threads).toBe(0);
    }
  });
});

describe('what is kept', () => {
  it('is what came into view alone, and after a changed step that step alone', async () => {
    const store = new Kept(1 << 26);
    const view = { x: 0, y: 0, width: 192, height: 128 };
    const read = async (treatment: Treatment, region: Region) => {
      const counted = new Map<string, number>();
      const { result } = graphOf(recipeOf(treatment));
      const nodes = inOrder(result);
      for (const node of nodes) count(node, counted);
      await renderNode(source, result, { store }).read(region);
      return nodes.map(({ hash }) => counted.get(hash) ?? 0);
    };
    const steps = [enlarge, unsharp(1), newStep('smooth', { radius: 1 }), unsharp(1.5)];
    expect((await read(steps, view)).at(-1)).toBe(192 * 128);
    expect((await read(steps, view)).every((pixels) => pixels === 0)).toBe(true);
    const panned = await read(steps, { ...view, x: 50 });
    expect(panned.at(-1)).toBe(50 * 128);
    // A wider look at the step before needs a rim of it, and hardly more of those before that.
    const moved = await read([...steps.slice(0, 3), unsharp(2)], { ...view, x: 50 });
    expect(moved.at(-1)).toBe(192 * 128);
    // The step and the colours that follow from it.
    for (const pixels of moved.slice(0, -2)) expect(pixels).toBeLessThan(0.2 * 192 * 128);
    const weaker = newStep('unsharp', { radius: 2, unit: 'px', threshold: 0, amount: 30 });
    const again = await read([...steps.slice(0, 3), weaker], { ...view, x: 50 });
    expect(again.slice(0, -2).every((pixels) => pixels === 0)).toBe(true);
  });

  it('is computed at a time for all that look at it, and a strip for those that a pan brings', async () => {
    const store = new Kept(1 << 26);
    const view = { x: 120, y: 90, width: 190, height: 120 };
    const { result } = graphOf(
      recipeOf([enlarge, unsharp(1), unsharp(3), newStep('smooth', { radius: 1 }), unsharp(1.5)]),
    );
    const nodes = inOrder(result).filter(({ grid }) => grid === 'target');
    const times = new Map<string, number>();
    for (const node of nodes) {
      const { compute } = node;
      node.compute = (region, ...rest) => {
        times.set(node.hash, (times.get(node.hash) ?? 0) + 1);
        return compute(region, ...rest);
      };
    }
    await renderNode(source, result, { store }).read(view);
    expect(nodes.map(({ hash }) => times.get(hash))).toEqual(nodes.map(() => 1));
    times.clear();
    await renderNode(source, result, { store }).read({ ...view, x: 140 });
    for (const { hash } of nodes) expect(times.get(hash) ?? 0).toBeLessThanOrEqual(1);
    expect(times.get(result.hash)).toBe(1);
  });
});
