import { cut, emptyRaster, paste, type Raster, type Window } from '../raster/raster';
import { cells, clip, contains, type Region, type Size } from '../raster/region';
import { laidOn } from '../raster/alpha';
import { stages, type SettledStep } from '../steps';
import { channelsOf } from '../steps/mount/mount';
import type { Stage } from '../steps/step';
import type { Kept } from './kept';
import { canonicalJson, type SettledRecipe } from './recipe';
import type { Source } from './source';

/** A picture that is computed where it is looked at. */
export interface Rendering {
  size: Size;
  /**
   * The pixels of `region`, exactly those that the whole picture has there.
   * @throws RangeError where the region is empty or leaves the picture
   */
  read(region: Region): Promise<Raster>;
}

/** Steps at the original's size are computed in cells of this many pixels and kept. */
const CELL = 64;

/**
 * The result of a settled recipe on an original, on demand: every step is asked for a region and
 * asks the one before it for what that needs. Nothing is computed until it is read.
 * @param kept where intermediate results stay between reads; without it nothing is kept
 */
export function render(source: Source, recipe: SettledRecipe, kept?: Kept): Rendering {
  const paper = channelsOf(recipe.colour);
  let before: Rendering = {
    size: source.size,
    // Laid on the paper first: everything after it sees what is printed.
    read: async (region) => {
      const raster = await source.read(region);
      return raster.planes.length === 4 && recipe.alpha !== 'kept' ? laidOn(raster, paper) : raster;
    },
  };
  let key = canonicalJson([recipe.original, recipe.alpha, recipe.colour]);
  for (const settled of recipe.steps) {
    key += canonicalJson([settled.kind, settled.numbers]);
    before = rendered(before, settled, key, kept);
    key += `@${settled.strength}`;
  }
  const last = before;
  return {
    size: last.size,
    read: async (region) => {
      const inside = clip(region, last.size);
      if (region.width < 1 || region.height < 1 || !contains(inside, region)) {
        throw new RangeError('render: the region is empty or leaves the picture');
      }
      return last.read(region);
    },
  };
}

function rendered(before: Rendering, settled: SettledStep, key: string, kept?: Kept): Rendering {
  const stage = stages[settled.kind] as unknown as Stage<string, object>;
  const { numbers } = settled;
  const grids = { from: before.size, to: stage.size(numbers, before.size) };
  const done = async (region: Region): Promise<Raster> => {
    const known = kept?.find(key, region);
    if (known) return cut(known, region);
    const pulled = stage.pull(numbers, region, grids);
    const input: Window = { region: pulled, raster: await before.read(pulled) };
    const raster = stage.apply(input, numbers, region, grids);
    kept?.keep(key, { region, raster });
    return raster;
  };
  // Steps on the original's grid are dear and read again and again: in cells they are reused.
  const inCells = async (region: Region): Promise<Raster> => {
    let raster: Raster | undefined;
    for (const cell of cells(region, CELL, grids.to)) {
      const part = await done(cell);
      raster ??= emptyRaster(region.width, region.height, part.planes.length);
      paste({ region: cell, raster: part }, { region, raster });
    }
    return raster!;
  };
  const read = kept && stage.phase === 'original' ? inCells : done;
  if (settled.strength >= 100 || stage.phase === 'enlarge') return { size: grids.to, read };
  return {
    size: grids.to,
    read: async (region) => {
      // In this order, since what the step pulled usually holds the region itself.
      const finished = await read(region);
      return blend(await before.read(region), finished, settled.strength / 100);
    },
  };
}

/** out = in + strength x (done - in): strength 0 is the picture itself. */
function blend(input: Raster, done: Raster, strength: number): Raster {
  const result = emptyRaster(input.width, input.height, input.planes.length);
  result.planes.forEach((plane, channel) => {
    const from = input.planes[channel]!;
    const to = done.planes[channel]!;
    for (let i = 0; i < plane.length; i++) {
      plane[i] = from[i]! + strength * (to[i]! - from[i]!);
    }
  });
  return result;
}
