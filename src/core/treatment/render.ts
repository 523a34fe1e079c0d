import { cut, emptyRaster, paste, type Raster, type Window } from '../raster/raster';
import { cells, clip, contains, union, type Region, type Size } from '../raster/region';
import { laidOn } from '../raster/alpha';
import { MAGNIFICATION } from '../learned/enlarger';
import { ModelProblem, type Network } from '../learned/network';
import { insetSteps, phasesOf, stageOf, type SettledStep, type StageKind } from '../steps';
import { channelsOf } from '../steps/mount/mount';
import type { Phase, Tools } from '../steps/step';
import { looksAtPicture, zonePull, zoneValues, type MaskReader } from '../zone/render-zone';
import type { ZoneMap } from '../zone/zone';
import type { Kept } from './kept';
import { canonicalJson, type SettledRecipe } from './recipe';
import type { Source } from './source';

/** A picture that is computed where it is looked at. */
export interface Rendering {
  size: Size;
  /**
   * The pixels of `region`, exactly those that the whole picture has there.
   * @throws RangeError where the region is empty or leaves the picture; ModelProblem where a model
   *   that the recipe names can't be used
   */
  read(region: Region): Promise<Raster>;
}

/** What a rendering may use; without one of them, what needs it throws or is computed anew. */
export interface RenderTools {
  /** where intermediate results stay between reads */
  kept?: Kept;
  masks?: MaskReader;
  network?: (digest: string) => Promise<Network>;
  /** the picture that some first steps lead to, where that was computed already */
  begun?: (steps: readonly SettledStep[]) => Source | undefined;
}

/** Steps and zones at the original's size are kept in cells of this many pixels … */
const CELL = 32;
/** … and computed in blocks of at most this many, since what lies about a block is computed too. */
export const BLOCK = 512;
/** A network's enlargement is computed in larger ones: its rim is as wide again. */
const MAGNIFIED_BLOCK = 1792;

/** The longest side of the blocks that a stage at the original's size is computed in. */
export const blockOf = (kind: StageKind): number => (kind === 'magnify' ? MAGNIFIED_BLOCK : BLOCK);

/**
 * The result of a settled recipe on an original, on demand: every step is asked for a region and
 * asks the one before it for what that needs. Nothing is computed until it is read.
 */
export function render(source: Source, recipe: SettledRecipe, tools: RenderTools = {}): Rendering {
  const last = chainOf(source, recipe, tools).picture;
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

/** The strengths of a zone over a recipe's result, one plane of 0–1; none beside the picture. */
export function renderZone(
  source: Source,
  recipe: SettledRecipe,
  zone: ZoneMap,
  tools: RenderTools = {},
): Rendering {
  const mounted = recipe.steps.find((step) => step.kind === 'mount');
  const bare = { ...recipe, steps: recipe.steps.filter((step) => step !== mounted) };
  const chain = chainOf(source, bare, tools);
  const strengths = chain.zone(zone);
  if (!mounted) return strengths;
  const { x, y, width, height } = mounted.numbers;
  return {
    size: { width, height },
    read: async (region) => {
      const raster = emptyRaster(region.width, region.height, 1);
      const part = clip({ ...region, x: region.x - x, y: region.y - y }, strengths.size);
      if (part.width > 0 && part.height > 0) {
        const found = { ...part, x: part.x + x, y: part.y + y };
        paste({ region: found, raster: await strengths.read(part) }, { region, raster });
      }
      return raster;
    },
  };
}

function chainOf(source: Source, recipe: SettledRecipe, tools: RenderTools): Chain {
  const paper = channelsOf(recipe.colour);
  const base: Rendering = {
    size: source.size,
    // Laid on the paper first: everything after it sees what is printed.
    read: async (region) => {
      const raster = await source.read(region);
      return raster.planes.length === 4 && recipe.alpha !== 'kept' ? laidOn(raster, paper) : raster;
    },
  };
  const phases = phasesOf(recipe.steps, recipe.original.drawn !== null);
  const key = canonicalJson([recipe.original, recipe.alpha, recipe.colour]);
  let chain: Chain = {
    picture: base,
    untreated: base,
    magnified: 1,
    key,
    zone: (zone) => zoneRendering(zone, base, key, tools),
  };
  recipe.steps.forEach((settled, i) => {
    const phase = phases[i]!;
    if (settled.kind === 'regrid') chain = regridded(chain, settled, tools);
    else if (settled.kind === 'magnify') chain = magnified(chain, settled, tools);
    else if (settled.kind === 'enlarge') chain = enlarged(chain, settled, tools);
    else if (settled.kind === 'inset') {
      const inside = { ...recipe, steps: insetSteps(settled.numbers) };
      chain = withInset(chain, settled, chainOf(source, inside, tools).picture);
    } else chain = treated(chain, settled, phase, tools);
    const begun = tools.begun?.(recipe.steps.slice(0, i + 1));
    if (begun) chain = { ...chain, picture: begun };
  });
  return chain;
}

/** What has come of the picture so far, and what steps to come may look at beside it. */
interface Chain {
  picture: Rendering;
  /** the same grid without any treatment */
  untreated: Rendering;
  /** text of all that led here */
  key: string;
  /** so many times as large as the untreated picture and its zones */
  magnified: number;
  /** strengths of a zone on the untreated picture's grid, one plane */
  zone: (zone: ZoneMap) => Rendering;
}

/** Zones lie on the true grid of repeated pixels, where there is one. */
function regridded(chain: Chain, settled: SettledStep, tools: RenderTools): Chain {
  const next = treated(chain, settled, 'original', tools);
  return {
    ...next,
    untreated: next.picture,
    zone: (zone) => zoneRendering(zone, next.picture, next.key, tools),
  };
}

/** A network's enlargement; what comes after looks at the untreated picture and zones as they were. */
const magnified = (chain: Chain, settled: SettledStep, tools: RenderTools): Chain => ({
  ...treated(chain, settled, 'original', tools),
  magnified: chain.magnified * MAGNIFICATION,
});

/** The one resampling carries the untreated picture and the zones along. */
function enlarged(
  chain: Chain,
  settled: Extract<SettledStep, { kind: 'enlarge' }>,
  tools: RenderTools,
): Chain {
  const next = treated(chain, settled, 'enlarge', tools);
  const { source } = settled.numbers;
  const small = {
    x: source.x / chain.magnified,
    y: source.y / chain.magnified,
    width: source.width / chain.magnified,
    height: source.height / chain.magnified,
  };
  const onUntreated = { ...settled, numbers: { ...settled.numbers, source: small } };
  const softly = {
    ...onUntreated,
    numbers: { ...onUntreated.numbers, method: 'bicubic' as const, light: 'gamma' as const },
  };
  const alone = (picture: Rendering, step: SettledStep) =>
    treated({ ...chain, picture }, step, 'enlarge', {}).picture;
  return {
    ...next,
    magnified: 1,
    untreated: alone(chain.untreated, onUntreated),
    zone: (zone) => withinOne(alone(chain.zone(zone), softly)),
  };
}

/** Another picture over this one, as far as its zone goes. */
function withInset(
  chain: Chain,
  { strength, zone, numbers }: Extract<SettledStep, { kind: 'inset' }>,
  other: Rendering,
): Chain {
  const { picture } = chain;
  const { width, height } = picture.size;
  if (other.size.width !== width || other.size.height !== height) {
    throw new RangeError('render: an inset of another size');
  }
  const limits = zone && chain.zone(zone);
  return {
    ...chain,
    key: chain.key + canonicalJson(['inset', numbers, strength, zone ?? null]),
    picture: {
      size: picture.size,
      read: async (region) => {
        const limit = (await limits?.read(region))?.planes[0];
        if (limit?.every((share) => share === 0)) return picture.read(region);
        if (strength === 100 && (!limit || limit.every((share) => share === 1))) {
          return other.read(region);
        }
        return blend(await picture.read(region), await other.read(region), strength / 100, limit);
      },
    },
  };
}

/** A kernel with negative lobes swings beyond what a strength can be. */
const withinOne = ({ size, read }: Rendering): Rendering => ({
  size,
  read: async (region) => {
    const raster = await read(region);
    const [plane] = raster.planes as [Float32Array];
    for (let i = 0; i < plane.length; i++) plane[i] = Math.min(1, Math.max(0, plane[i]!));
    return raster;
  },
});

/** A picture in cells on an absolute grid, each computed once and kept. */
function inCells(
  kept: Kept,
  key: string,
  size: Size,
  compute: (cell: Region) => Promise<Raster>,
  blockSide = BLOCK,
): Rendering['read'] {
  return async (region) => {
    let raster: Raster | undefined;
    const put = (part: Window) => {
      raster ??= emptyRaster(region.width, region.height, part.raster.planes.length);
      paste(part, { region, raster });
    };
    // A name for each, so that none is looked for among thousands.
    const named = ({ x, y }: Region) => `${key}#${x},${y}`;
    const missing = new Map<string, Region[]>();
    for (const cell of cells(region, CELL, size)) {
      const known = kept.find(named(cell), cell);
      if (known) put(known);
      else {
        const block = `${Math.floor(cell.x / blockSide)},${Math.floor(cell.y / blockSide)}`;
        missing.set(block, [...(missing.get(block) ?? []), cell]);
      }
    }
    for (const block of missing.values()) {
      const bounds = block.reduce((all, cell) => union(all, cell));
      const window = { region: bounds, raster: await compute(bounds) };
      put(window);
      for (const cell of block) kept.keep(named(cell), { region: cell, raster: cut(window, cell) });
    }
    return raster!;
  };
}

function zoneRendering(
  zone: ZoneMap,
  picture: Rendering,
  key: string,
  { masks, kept }: RenderTools,
): Rendering {
  const { size } = picture;
  const compute = async (region: Region): Promise<Raster> => {
    const { painted } = zone;
    if (painted && !masks) throw new RangeError('render: a painted zone, and no masks to read');
    const mask = painted ? await masks!(painted) : null;
    const pulled = zonePull(zone, region, size);
    const raster = looksAtPicture(zone) ? await picture.read(pulled) : emptyRaster(0, 0, 3);
    return zoneValues(zone, { region: pulled, raster }, region, size, mask);
  };
  const name = `${key}/zone ${canonicalJson(zone)}`;
  return { size, read: kept ? inCells(kept, name, size, compute) : compute };
}

function treated(chain: Chain, settled: SettledStep, phase: Phase, tools: RenderTools): Chain {
  const { picture: before, untreated } = chain;
  const { kept } = tools;
  const stage = stageOf(settled);
  const { numbers, zone } = settled;
  const grids = { from: before.size, to: stage.size(numbers, before.size) };
  const key = chain.key + canonicalJson([settled.kind, numbers]);
  const forStage: Tools = {
    network: tools.network ?? noNetwork,
    untreated: (region) => untreated.read(region),
  };
  const compute = async (region: Region): Promise<Raster> => {
    const pulled = stage.pull(numbers, region, grids);
    const input: Window = { region: pulled, raster: await before.read(pulled) };
    return stage.apply(input, numbers, region, grids, forStage);
  };
  const once = async (region: Region): Promise<Raster> => {
    const known = kept?.find(key, region);
    if (known) return cut(known, region);
    const raster = await compute(region);
    kept?.keep(key, { region, raster });
    return raster;
  };
  // Steps on the original's grid are dear and read again and again: in cells they are reused.
  const read =
    kept && phase === 'original'
      ? inCells(kept, key, grids.to, compute, blockOf(settled.kind))
      : once;
  const strength = settled.strength / 100;
  const whole = (strength === 1 && !zone) || phase === 'enlarge' || phase === 'sheet';
  const limits = zone && !whole ? chain.zone(zone) : null;
  return {
    ...chain,
    picture: {
      size: grids.to,
      read: whole
        ? read
        : async (region) => {
            const limit = (await limits?.read(region))?.planes[0];
            // Where a zone is empty nothing needs to be computed.
            if (limit?.every((share) => share === 0)) return before.read(region);
            // In this order, since what the step pulled usually holds the region itself.
            const finished = await read(region);
            return blend(await before.read(region), finished, strength, limit);
          },
    },
    key: `${key}@${settled.strength}${zone ? canonicalJson(zone) : ''}`,
  };
}

const noNetwork = (): Promise<Network> =>
  Promise.reject(new ModelProblem('No learned model can be used here.'));

/** out = in + strength x limit x (done - in): strength 0 is the picture itself. */
function blend(input: Raster, done: Raster, strength: number, limit?: Float32Array): Raster {
  const result = emptyRaster(input.width, input.height, input.planes.length);
  result.planes.forEach((plane, channel) => {
    const from = input.planes[channel]!;
    const to = done.planes[channel]!;
    for (let i = 0; i < plane.length; i++) {
      const share = limit ? strength * limit[i]! : strength;
      plane[i] = from[i]! + share * (to[i]! - from[i]!);
    }
  });
  return result;
}
