import { describe, expect, it } from 'vitest';
import { UNFRAMED, type Framing } from '../frame/framing';
import { NO_GUARDS } from '../guard/guards';
import { NO_MODELS } from '../learned/models';
import { cut } from '../raster/raster';
import { whole, type Region, type Size } from '../raster/region';
import { newStep } from '../recipe/order';
import { originalOf } from '../recipe/original';
import { propose } from '../recipe/propose';
import type { Recipe } from '../recipe/recipe';
import { resolveRecipe } from '../recipe/resolve';
import { beforeEnlarging } from '../recipe/views';
import { memorySource, testFindings, testPaper, testPicture } from '../testing';
import { emptyMask, type Mask } from '../zone/mask';
import { partValues } from '../zone/parts';
import {
  newPart,
  type ComputedKind,
  type ComputedPart,
  type MapPart,
  type ZoneMap,
} from '../zone/zone';
import { Kept } from './kept';
import { render, renderZone } from './render';

const size: Size = { width: 96, height: 64 };
const source = memorySource(testPicture(size));
const order = { paper: testPaper({ width: { value: 9.6, unit: 'cm' } }), distance: 2 };

/** A plain enlargement of the picture. */
function recipeOf(framing: Partial<Framing> = {}): Recipe {
  const findings = testFindings(size);
  const { work } = propose(findings, order);
  const made = { ...work, framing: { ...UNFRAMED, ...framing } };
  const trial = made.trials[0]!;
  trial.treatment = [newStep('enlarge', { method: 'lanczos3' })];
  trial.guards = NO_GUARDS;
  const resolved = resolveRecipe(originalOf('e'.repeat(64), findings), made, trial, NO_MODELS);
  if (!resolved.ok) throw new Error(resolved.reason);
  return resolved.recipe;
}

const recipe = recipeOf();
const { width, height } = recipe.target;
const scale = Math.sqrt((width * height) / (size.width * size.height));
const plain = (named: Partial<ZoneMap>): ZoneMap => ({
  ...{ parts: [], painted: null, feather: 0, inverted: false },
  ...named,
});
const onPrint = (named: Partial<ZoneMap>): ZoneMap => plain({ ...named, print: true });

const mask: Mask = emptyMask(size);
for (let i = 0; i < mask.ink.length; i++) {
  const x = i % size.width;
  mask.ink[i] = x < 30 ? 255 : 0;
  mask.cover[i] = x < 60 ? 255 : 0;
}
const painted = { digest: 'c'.repeat(64), ...size };
const masks = async (): Promise<Mask> => mask;

const read = async (map: ZoneMap, of = recipe, region?: Region): Promise<Float32Array> => {
  const shown = renderZone(source, of, map, { masks });
  return (await shown.read(region ?? whole(shown.size))).planes[0]!;
};

const worst = (one: ArrayLike<number>, other: ArrayLike<number>): number => {
  expect(one.length).toBe(other.length);
  let most = 0;
  for (let i = 0; i < one.length; i++) most = Math.max(most, Math.abs(one[i]! - other[i]!));
  return most;
};

/** Where a part finds much of the picture, and not all of it. */
const SEEN: Partial<Record<ComputedKind, object>> = { edges: { level: 60 }, skin: { reach: 40 } };
const LOOKING: ComputedKind[] = ['flat', 'edges', 'soft', 'sharp', 'tones', 'lettering', 'skin'];

describe('a zone that looks at the print', () => {
  it.each(LOOKING)('is computed on the enlarged pixels: %s', async (kind) => {
    const part = { ...newPart[kind](), ...SEEN[kind] } as ComputedPart;
    const enlarged = await render(source, recipe).read(whole(recipe.target));
    const window = { region: whole(recipe.target), raster: enlarged };
    const expected = partValues(part, window, window.region, recipe.target, scale);
    expect(worst(await read(onPrint({ parts: [part] })), expected)).toBe(0);
    // It is not what the original's pixels would say.
    if (kind === 'edges')
      expect(worst(await read(plain({ parts: [part] })), expected)).toBeGreaterThan(0.3);
  });

  it('is the same however it is read: in parts, kept or not, feathered narrowly or widely', async () => {
    const inner: MapPart = {
      ...{ kind: 'map', joining: 'add', inverted: true },
      map: onPrint({ parts: [newPart.sharp()], feather: 1 }),
    };
    for (const feather of [0, 0.5, 6]) {
      const parts: MapPart[] = [
        newPart.edges(),
        { ...newPart.linear(), joining: 'limit' },
        inner,
        { ...newPart.flat(), joining: 'take away' },
      ];
      const map = onPrint({ parts, painted, feather, inverted: true });
      const all = await read(map);
      const store = new Kept(1 << 24);
      for (const region of [
        { x: 0, y: 0, width: 50, height: 41 },
        { x: 133, y: 77, width: 60, height: 90 },
        { x: recipe.target.width - 31, y: recipe.target.height - 20, width: 31, height: 20 },
      ]) {
        const expected = cut(
          {
            region: whole(recipe.target),
            raster: {
              ...recipe.target,
              form: { colours: 1, alpha: false, space: 'strength' },
              planes: [all],
            },
          },
          region,
        ).planes[0]!;
        expect(worst(await read(map, recipe, region), expected)).toBe(0);
        const kept = renderZone(source, recipe, map, { masks, store });
        expect(worst((await kept.read(region)).planes[0]!, expected)).toBe(0);
      }
    }
  });

  it('carries what is painted and what goes by places, however the picture is turned', async () => {
    for (const turn of [0, 90, 180] as const) {
      const turned = recipeOf({ turn });
      const round: MapPart = { ...newPart.round(), x: 0.8, y: 0.2, inner: 0.05, outer: 0.2 };
      // Tones of all lightness: it looks at the picture, and finds it all.
      const all: MapPart = { ...newPart.tones(), from: 0, to: 1 };
      const places = { parts: [round], painted };
      const one = await read(plain(places), turned);
      const other = await read(
        onPrint({ ...places, parts: [all, { ...round, joining: 'limit' }] }),
        turned,
      );
      // Enlarging before or after they are laid over each other differs between pixels alone.
      let apart = 0;
      one.forEach((value, i) => (apart += Math.abs(value - other[i]!)));
      expect(apart / one.length).toBeLessThan(0.01);
      expect([0, 1].every((value) => one.includes(value))).toBe(true);
    }
  });

  it('is joined with others that look where they say', async () => {
    const edges = newPart.edges();
    const joinedWith = (map: ZoneMap): ZoneMap =>
      plain({ parts: [{ kind: 'map', joining: 'add', inverted: false, map }] });
    const [fine, coarse] = [onPrint({ parts: [edges] }), plain({ parts: [edges] })];
    expect(worst(await read(joinedWith(fine)), await read(fine))).toBe(0);
    expect(worst(await read({ ...joinedWith(coarse), print: true }), await read(coarse))).toBe(0);
  });

  it('looks at the original where there is no print yet', async () => {
    const before = beforeEnlarging(recipe);
    const edges = { parts: [newPart.edges()], feather: 2 };
    expect(worst(await read(onPrint(edges), before), await read(plain(edges), before))).toBe(0);
  });

  it('is feathered as far on the paper as another', async () => {
    // A hard edge at the middle, which the print finds where the original does.
    const half: MapPart = { ...newPart.linear(), x0: 0.5001, y0: 0.5, x1: 0.4999, y1: 0.5 };
    const all: MapPart = { ...newPart.tones(), from: 0, to: 1, joining: 'limit' };
    for (const feather of [0.8, 2, 6]) {
      const one = await read(plain({ parts: [half], feather }));
      const other = await read(onPrint({ parts: [{ ...half, joining: 'add' }, all], feather }));
      expect(worst(one, other)).toBeLessThan(0.06);
    }
  });
});
