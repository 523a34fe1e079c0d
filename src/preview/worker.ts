import * as Comlink from 'comlink';
import { measureCleaning, type CleaningFigures } from '@/core/inspect/cleaning';
import { histogramOf, type Histogram } from '@/core/inspect/histogram';
import type { Raster } from '@/core/raster/raster';
import type { Region, Size } from '@/core/raster/region';
import { fromSamples, toScreen, type Depth } from '@/core/raster/samples';
import { toScreenColours } from '@/core/raster/screen';
import { Kept } from '@/core/treatment/kept';
import { canonicalJson, type Drawn, type SettledRecipe } from '@/core/treatment/recipe';
import { findSource, sourcePull } from '@/core/steps/retouch/find-source';
import type { Spot } from '@/core/steps/retouch/retouch';
import type { Shape } from '@/core/steps/retouch/shape';
import { suggestSpots } from '@/core/steps/retouch/suggest';
import { classically } from '@/core/treatment/settle';
import { inventedDetail, type Invented } from '@/core/treatment/invented';
import { render, renderZone, type RenderTools } from '@/core/treatment/render';
import { selfTest, type TestedWay, type TestRow } from '@/core/treatment/self-test';
import type { Source } from '@/core/treatment/source';
import { tiledSource } from '@/core/treatment/tiles';
import { maskFromBytes, type Mask } from '@/core/zone/mask';
import type { Painted, ZoneMap } from '@/core/zone/zone';
import { networksFrom } from '@/core/learned/networks';

/** A page of an original as the worker needs it: where its tiles are and what they hold. */
export interface PreviewOriginal {
  digest: string;
  page: number;
  /** how often it was halved before it came here; 0 is the original itself */
  level: number;
  /** at this level */
  size: Size;
  depth: Depth;
  /** 3, or 4 with alpha */
  channels: number;
  /** whether its colours need converting for a screen */
  profiled: boolean;
  /** what of its shapes is drawn; null where it has pixels of its own */
  drawn: Drawn | null;
}

/** Intermediate results that stay in the worker. */
const KEPT_BYTES = 192 << 20;
/** Sources that stay: a drawing has one for every size it is looked at. */
const KEPT_SOURCES = 24;

const kept = new Kept(KEPT_BYTES);
const sources = new Map<string, Source>();
const screens = new Map<string, Promise<Uint8Array>>();

const pageOf = ({ digest, page }: PreviewOriginal) => `/api/originals/${digest}/pages/${page}`;

function tileAddress(original: PreviewOriginal, column: number, row: number): string {
  const { level, size, drawn, channels } = original;
  if (!drawn) return `${pageOf(original)}/tiles/${level}/${column}/${row}`;
  const { x, y, width, height } = drawn.source;
  const asked = { ...size, x, y, w: width, h: height, turn: drawn.turn, channels, column, row };
  const words = Object.entries(asked).map(([key, value]) => `${key}=${value}`);
  return `${pageOf(original)}/drawn?${words.join('&')}`;
}

function sourceOf(original: PreviewOriginal): Source {
  const name = canonicalJson(original);
  const known = sources.get(name);
  if (known) return known;
  const { size, depth, channels } = original;
  const source = tiledSource(size, async (column, row, region) => {
    const response = await fetch(tileAddress(original, column, row));
    if (!response.ok) throw new Error(`tile ${column}/${row} did not arrive`);
    const buffer = await response.arrayBuffer();
    const samples = depth === 8 ? new Uint8Array(buffer) : new Uint16Array(buffer);
    return fromSamples(samples, region.width, region.height, channels, depth);
  });
  sources.set(name, source);
  if (sources.size > KEPT_SOURCES) sources.delete(sources.keys().next().value!);
  return source;
}

/** How the page's colours look on a screen; empty where they are sRGB. */
function screenOf(original: PreviewOriginal): Promise<Uint8Array> {
  const name = pageOf(original);
  let screen = screens.get(name);
  if (!screen) {
    screen = fetch(`${name}/screen`).then(async (response) => {
      if (!response.ok) throw new Error('the screen table did not arrive');
      return new Uint8Array(await response.arrayBuffer());
    });
    screens.set(name, screen);
    screen.catch(() => screens.delete(name));
  }
  return screen;
}

/** Pixels for the screen, and how long their computing took. */
export interface Pixels {
  width: number;
  height: number;
  rgba: Uint8ClampedArray<ArrayBuffer>;
  /** whether this is the classical estimate of what a network will refine */
  draft: boolean;
  milliseconds: number;
}

const network = networksFrom(
  async (digest) => new Uint8Array(await (await fetched(`/api/models/${digest}`)).arrayBuffer()),
);

async function fetched(address: string): Promise<Response> {
  const response = await fetch(address);
  if (!response.ok) throw new Error(`${address} did not arrive`);
  return response;
}

/** Masks that stay here; those just painted are put here before the server has them. */
const KEPT_MASKS = 6;
const masks = new Map<string, Promise<Mask>>();

function putMask(digest: string, mask: Promise<Mask>): void {
  masks.delete(digest);
  masks.set(digest, mask);
  mask.catch(() => masks.delete(digest));
  if (masks.size > KEPT_MASKS) masks.delete(masks.keys().next().value!);
}

function readMask(painted: Painted): Promise<Mask> {
  const { digest, width, height } = painted;
  const known =
    masks.get(digest) ??
    fetched(`/api/masks/${digest}?width=${width}&height=${height}`).then(async (response) =>
      maskFromBytes(new Uint8Array(await response.arrayBuffer()), painted),
    );
  putMask(digest, known);
  return known;
}

const tools = { kept, network, masks: readMask };

/** How a picture differs from another recipe's: shown about middle grey, so many times as strong. */
export interface Against {
  recipe: SettledRecipe;
  gain: number;
}

let last: Promise<unknown> = Promise.resolve();

/** One at a time, so that none computes what another is about to keep, and their times are their own. */
function inTurn<T>(compute: () => Promise<T>): Promise<T> {
  const next = last.then(compute);
  last = next.catch(() => {});
  return next;
}

/** What tells that a network would have to compute first. */
class NotYet extends Error {}

/** Pixels at once: the final ones where they are kept, else with classical estimates for learned. */
async function soon(
  original: PreviewOriginal,
  recipe: SettledRecipe,
  region: Region,
  against: Against | null,
): Promise<{ raster: Raster; draft: boolean }> {
  const waiting = { ...tools, network: () => Promise.reject(new NotYet()) };
  try {
    return { raster: await rendered(original, recipe, region, against, waiting), draft: false };
  } catch (error) {
    if (!(error instanceof NotYet)) throw error;
    const quick = classically(recipe);
    return { raster: await rendered(original, quick, region, against), draft: true };
  }
}

async function rendered(
  original: PreviewOriginal,
  recipe: SettledRecipe,
  region: Region,
  against: Against | null,
  using: RenderTools = tools,
): Promise<Raster> {
  const source = sourceOf(original);
  const raster = await render(source, recipe, using).read(region);
  if (!against) return raster;
  const before = await render(source, against.recipe, tools).read(region);
  return {
    ...raster,
    planes: raster.planes
      .slice(0, 3)
      .map((plane, c) =>
        plane.map((value, i) => 0.5 + against.gain * (before.planes[c]![i]! - value)),
      ),
  };
}

/** A small picture for the screen. */
export interface Spotted {
  width: number;
  height: number;
  rgba: Uint8ClampedArray<ArrayBuffer>;
}

const spotted = (raster: Raster): Spotted => ({
  width: raster.width,
  height: raster.height,
  rgba: toScreen(raster),
});

const worker = {
  /** A region of a recipe's result: the same core, and so the same numbers, as in the file. */
  async render(
    original: PreviewOriginal,
    recipe: SettledRecipe,
    region: Region,
    against: Against | null,
    mayDraft: boolean,
  ): Promise<Pixels> {
    let started = performance.now();
    const { raster, draft } = mayDraft
      ? await soon(original, recipe, region, against)
      : await inTurn(async () => {
          started = performance.now();
          return { raster: await rendered(original, recipe, region, against), draft: false };
        });
    const rgba = toScreen(raster);
    if (original.profiled && !against) {
      const table = await screenOf(original);
      if (table.length > 0) toScreenColours(rgba, table);
    }
    const pixels = {
      width: region.width,
      height: region.height,
      rgba,
      draft,
      milliseconds: performance.now() - started,
    };
    return Comlink.transfer(pixels, [rgba.buffer]);
  },

  /** Strengths of a zone over a region of a recipe's result, 0–255. */
  async zone(
    original: PreviewOriginal,
    recipe: SettledRecipe,
    zone: ZoneMap,
    region: Region,
  ): Promise<Uint8Array<ArrayBuffer>> {
    const { planes } = await renderZone(sourceOf(original), recipe, zone, tools).read(region);
    const strengths = Uint8Array.from(planes[0]!, (value) => Math.round(255 * value));
    return Comlink.transfer(strengths, [strengths.buffer]);
  },

  /** Lends the worker a mask that was just painted. */
  putMask(digest: string, bytes: Uint8Array, size: Size): void {
    putMask(digest, Promise.resolve(maskFromBytes(bytes, size)));
  },

  /** Where the replacement of a spot is best taken from; null where there is no room for any. */
  async findSource(
    original: PreviewOriginal,
    recipe: SettledRecipe,
    shape: Shape,
    avoid: Shape[],
  ): Promise<[number, number] | null> {
    const picture = render(sourceOf(original), recipe, tools);
    const region = sourcePull(shape, picture.size);
    if (region.width < 1 || region.height < 1) return null;
    const input = { region, raster: await picture.read(region) };
    return findSource(shape, input, picture.size, avoid);
  },

  /** Spots that look like dust and scratches. @param onProgress answering false ends the search */
  async suggestSpots(
    original: PreviewOriginal,
    recipe: SettledRecipe,
    onProgress: (share: number) => void,
  ): Promise<Spot[]> {
    return suggestSpots(render(sourceOf(original), recipe, tools), (share) => onProgress(share));
  },

  /** Figures of a picture before and after its cleaning, on a sample of it. */
  async measure(
    original: PreviewOriginal,
    before: SettledRecipe,
    after: SettledRecipe,
    ownGrid: { x: number; y: number } | null,
  ): Promise<CleaningFigures> {
    const source = sourceOf(original);
    return measureCleaning(
      render(source, before, tools),
      render(source, after, tools),
      ownGrid ?? undefined,
    );
  },

  /**
   * Tests ways to enlarge on the very picture. @param recipe the cleaned original on its own grid
   * @param onRow answering false ends the test
   */
  async selfTest(
    original: PreviewOriginal,
    recipe: SettledRecipe,
    ways: TestedWay[],
    factor: number,
    onRow: (row: TestRow, spot: Spotted) => boolean | Promise<boolean>,
  ): Promise<{ factor: number; rise: number; spot: Spotted }> {
    const picture = render(sourceOf(original), recipe, tools);
    const { spot, ...found } = await selfTest(
      picture,
      recipe,
      ways,
      factor,
      tools,
      async (row, at) => {
        if (!(await onRow(row, spotted(at)))) throw new Error('the test was ended');
      },
    );
    return { ...found, spot: spotted(spot) };
  },

  /**
   * Where a network's enlargement says more than the file; null where it was ended.
   * @param recipe with a network in it @param onProgress answering false ends it
   */
  async invented(
    original: PreviewOriginal,
    recipe: SettledRecipe,
    onProgress: (share: number) => boolean | Promise<boolean>,
  ): Promise<Invented | null> {
    const source = sourceOf(original);
    const at = recipe.steps.findIndex(({ kind }) => kind === 'magnify');
    const steps = recipe.steps.slice(0, at + 1);
    const network = steps.at(-1);
    const severity = network?.kind === 'magnify' ? network.numbers.luma : 0;
    const plainly = steps.map((step) =>
      step.kind === 'magnify' ? { ...step, numbers: { ...step.numbers, model: null } } : step,
    );
    return inventedDetail(
      render(source, { ...recipe, steps: plainly }, tools),
      render(source, { ...recipe, steps }, tools),
      severity,
      onProgress,
    );
  },

  /** How often each tone stands in a region of a recipe's result. */
  async histogram(
    original: PreviewOriginal,
    recipe: SettledRecipe,
    region: Region,
  ): Promise<Histogram> {
    return histogramOf(await render(sourceOf(original), recipe, tools).read(region));
  },
};

export type PreviewWorker = typeof worker;

Comlink.expose(worker);
