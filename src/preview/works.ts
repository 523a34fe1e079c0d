import {
  measureFinishing,
  seenRims,
  type FinishFigures,
  type Seen,
} from '@/core/evidence/finishing';
import { EvidenceTable, type Evidence, type SeenFigures } from '@/core/evidence/evidence';
import { inventedDetail, type Invented } from '@/core/evidence/invented';
import { probeLine, type GridPlace, type Probed } from '@/core/evidence/probe';
import { spectrumOf } from '@/core/evidence/spectrum';
import { selfTest, type TestedWay, type TestRow } from '@/core/evidence/self-test';
import { measureCleaning, type CleaningFigures } from '@/core/inspect/cleaning';
import { histogramOf, type Histogram } from '@/core/inspect/histogram';
import { RGB } from '@/core/raster/form';
import type { Raster } from '@/core/raster/raster';
import type { Region, Size } from '@/core/raster/region';
import { toScreen } from '@/core/raster/samples';
import { toScreenColours } from '@/core/raster/screen';
import type { Recipe } from '@/core/recipe/recipe';
import { classically, upscalingOf } from '@/core/recipe/views';
import { Kept } from '@/core/render/kept';
import { render, renderZone, type Rendering, type RenderTools } from '@/core/render/render';
import { whereApart, type Apart, type PaperPlace } from '@/core/stops/apart';
import { findStops } from '@/core/stops/find';
import type { Stop } from '@/core/stops/stop';
import { findSource, sourceInput } from '@/core/steps/retouch/find-source';
import type { Spot } from '@/core/steps/retouch/retouch';
import type { Shape } from '@/core/steps/retouch/shape';
import { suggestSpots } from '@/core/steps/retouch/suggest';
import { maskFromBytes } from '@/core/zone/mask';
import type { ZoneMap } from '@/core/zone/zone';
import {
  network,
  passingSourceOf,
  putMask,
  readMask,
  screenOf,
  sourceOf,
  type PreviewOriginal,
} from './originals';

/** Bytes of nodes that stay in a worker: of what is looked at, and of what is gone over once. */
const KEPT_BYTES = 128 << 20;
const PASSING_BYTES = 16 << 20;

const store = new Kept(KEPT_BYTES);
/** Whoever goes over a whole picture needs its neighbours again, and pushes nothing out that is looked at. */
const passing = new Kept(PASSING_BYTES);

/** How work goes on: when it is its turn, and until it is not wanted any more. */
export interface Going {
  next(): Promise<void>;
  signal: AbortSignal;
  /** tells whoever asked, while it goes on */
  tell(news: unknown): void;
}

/** A picture of which some recipe is looked at. */
export interface Looked {
  original: PreviewOriginal;
  recipe: Recipe;
}

/**
 * How a picture differs from another recipe's on a grid of the same size: what that has more of is shown about middle
 * grey, so many times as strong; or, absolute, how far both are apart on black.
 */
export interface Against {
  recipe: Recipe;
  /** what that recipe is of, where that is not what the picture is of: another size of it */
  original?: PreviewOriginal;
  gain: number;
  absolute?: boolean;
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

/** A small picture for the screen. */
export type Spotted = Pick<Pixels, 'width' | 'height' | 'rgba'>;

const spotted = (raster: Raster): Spotted => ({
  width: raster.width,
  height: raster.height,
  rgba: toScreen(raster),
});

const toolsFor = ({ next }: Going, more: RenderTools = {}): RenderTools => ({
  ...{ store, network, masks: readMask, between: next },
  ...more,
});

/** A rendering that ends with the work that looks at it. */
function looked({ original, recipe }: Looked, going: Going, more?: RenderTools): Rendering {
  const { size, read } = render(sourceOf(original), recipe, toolsFor(going, more));
  return { size, read: (region) => read(region, going.signal) };
}

/** What tells that a network would have to compute first. */
class NotYet extends Error {}

async function rendered(
  { original, recipe, region, against }: Looked & { region: Region; against: Against | null },
  going: Going,
  more?: RenderTools,
): Promise<Raster> {
  const raster = await looked({ original, recipe }, going, more).read(region);
  if (!against) return raster;
  const other = { original: against.original ?? original, recipe: against.recipe };
  const before = await looked(other, going, more).read(region);
  const { gain, absolute } = against;
  const shown = (more: number) => (absolute ? gain * Math.abs(more) : 0.5 + gain * more);
  return {
    ...raster,
    form: RGB,
    planes: raster.planes
      .slice(0, 3)
      .map((plane, c) => plane.map((value, i) => shown(before.planes[c]![i]! - value))),
  };
}

/** What the worker can be asked for; each is given what it is about and how it goes on. */
export const works = {
  /**
   * A region of a recipe's result: the same core, and so the same numbers, as in the file. A draft has
   * classical estimates where learned ones are not kept.
   */
  async pixels(
    asked: Looked & { region: Region; against: Against | null; mayDraft: boolean },
    going: Going,
  ): Promise<Pixels> {
    await going.next();
    const started = performance.now();
    let draft = false;
    let raster: Raster;
    try {
      const waiting = { network: () => Promise.reject(new NotYet()) };
      raster = await rendered(asked, going, asked.mayDraft ? waiting : {});
    } catch (error) {
      if (!(error instanceof NotYet)) throw error;
      draft = true;
      const { recipe, against } = asked;
      const estimate = against && { ...against, recipe: classically(against.recipe) };
      raster = await rendered({ ...asked, recipe: classically(recipe), against: estimate }, going);
    }
    const rgba = toScreen(raster);
    if (asked.original.profiled && !asked.against) {
      const table = await screenOf(asked.original);
      if (table.length > 0) toScreenColours(rgba, table);
    }
    const { width, height } = asked.region;
    return { width, height, rgba, draft, milliseconds: performance.now() - started };
  },

  /** Has a region ready where it will soon be looked at, as far as that takes no network's time. */
  async ahead(
    asked: Looked & { region: Region; against: Against | null },
    going: Going,
  ): Promise<void> {
    const network = () => Promise.reject(new NotYet());
    await rendered(asked, going, { network }).catch((error: unknown) => {
      if (!(error instanceof NotYet)) throw error;
    });
  },

  /** Strengths of a zone over a region of a recipe's result, 0–255. */
  async zone(
    { original, recipe, zone, region }: Looked & { zone: ZoneMap; region: Region },
    going: Going,
  ): Promise<Uint8Array<ArrayBuffer>> {
    const strengths = renderZone(sourceOf(original), recipe, zone, toolsFor(going));
    const { planes } = await strengths.read(region, going.signal);
    return Uint8Array.from(planes[0]!, (value) => Math.round(255 * value));
  },

  /** Lends the worker a mask that was just painted. */
  async mask({ digest, bytes, size }: { digest: string; bytes: Uint8Array; size: Size }) {
    putMask(digest, Promise.resolve(maskFromBytes(bytes, size)));
  },

  /** Where the replacement of a spot is best taken from; null where there is no room for any. */
  async spotSource(
    { shape, avoid, ...of }: Looked & { shape: Shape; avoid: Shape[] },
    going: Going,
  ): Promise<[number, number] | null> {
    const picture = looked(of, going);
    const region = sourceInput(shape, picture.size);
    if (region.width < 1 || region.height < 1) return null;
    const input = { region, raster: await picture.read(region) };
    return findSource(shape, input, picture.size, avoid);
  },

  /** Spots that look like dust and scratches; tells the share that was looked at. */
  dust: (of: Looked, going: Going): Promise<Spot[]> =>
    suggestSpots(looked(of, going, { store: passing }), (share) => going.tell(share)),

  /** Figures of a picture before and after its cleaning, on a sample of it. */
  cleaning: (
    {
      original,
      before,
      after,
      ownGrid,
    }: {
      original: PreviewOriginal;
      before: Recipe;
      after: Recipe;
      ownGrid: { x: number; y: number } | null;
    },
    going: Going,
  ): Promise<CleaningFigures> =>
    measureCleaning(
      looked({ original, recipe: before }, going),
      looked({ original, recipe: after }, going),
      ownGrid ?? undefined,
    ),

  /** What finishing did beside what it was for, on a sample of the result. @param reach pixels of an original one */
  finishing: (
    {
      original,
      before,
      after,
      reach,
    }: { original: PreviewOriginal; before: Recipe; after: Recipe; reach: number },
    going: Going,
  ): Promise<FinishFigures> =>
    measureFinishing(
      looked({ original, recipe: before }, going),
      looked({ original, recipe: after }, going),
      reach,
    ),

  /** Where rims would be seen on the print, over a part of the result: 0–255. */
  rims: (
    {
      original,
      before,
      after,
      ...by
    }: {
      original: PreviewOriginal;
      before: Recipe;
      after: Recipe;
      reach: number;
      region: Region;
      seen: Seen;
    },
    going: Going,
  ): Promise<Uint8Array<ArrayBuffer>> =>
    seenRims(
      looked({ original, recipe: before }, going),
      looked({ original, recipe: after }, going),
      by.region,
      by.reach,
      by.seen,
    ),

  /** What a result shows beside its original, on a sample of places. */
  async evidence(
    {
      original,
      before,
      after,
      own,
    }: {
      original: PreviewOriginal;
      before: Recipe;
      after: Recipe;
      own: { x: number; y: number } | null;
    },
    going: Going,
  ): Promise<{ original: SeenFigures; result: Evidence }> {
    const table = await EvidenceTable.begin({
      original: looked({ original, recipe: before }, going, { store: passing }),
      ...{ own, sampled: true },
    });
    return {
      original: await table.ofOriginal(after.target.width / before.target.width),
      result: await table.ofResult(looked({ original, recipe: after }, going, { store: passing })),
    };
  },

  /** Places of an original that are worth a look. */
  stops: (
    asked: { original: PreviewOriginal; within: Region; grid: { x: number; y: number } | null },
    { next, signal }: Going,
  ): Promise<Stop[]> =>
    findStops({ ...asked, original: passingSourceOf(asked.original) }, async () => {
      await next();
      signal.throwIfAborted();
    }),

  /** Where two results on the same paper differ most. */
  apart: (
    {
      original,
      one,
      other,
      ...where
    }: {
      original: PreviewOriginal;
      one: Recipe;
      other: Looked;
      named: PaperPlace[];
      most: number;
    },
    going: Going,
  ): Promise<Apart[]> =>
    whereApart(
      looked({ original, recipe: one }, going, { store: passing }),
      looked(other, going, { store: passing }),
      where.named,
      where.most,
      going.next,
    ),

  /** Tests ways to enlarge on the very picture, cleaned on its own grid; tells each row. */
  async selfTest(
    { ways, factor, ...of }: Looked & { ways: TestedWay[]; factor: number },
    going: Going,
  ): Promise<{ factor: number; edgePixels: number; spot: Spotted }> {
    const { spot, ...found } = await selfTest(
      looked(of, going),
      of.recipe,
      ways,
      factor,
      toolsFor(going),
      async (row: TestRow, at: Raster) => {
        going.tell({ ...row, spot: spotted(at) });
        await going.next();
      },
    );
    return { ...found, spot: spotted(spot) };
  },

  /** Where a network's enlargement says more than the file; tells the share that was looked at. */
  async invented(of: Looked, going: Going): Promise<Invented | null> {
    const parts = upscalingOf(of.recipe);
    if (!parts) return null;
    return inventedDetail(
      looked({ ...of, recipe: parts.plain }, going, { store: passing }),
      looked({ ...of, recipe: parts.learned }, going, { store: passing }),
      parts.severity,
      async (share) => {
        going.tell(share);
        await going.next();
        return true;
      },
    );
  },

  /** Levels of a recipe's result along a line on its grid. */
  probe: (
    { from, to, ...of }: Looked & { from: GridPlace; to: GridPlace },
    going: Going,
  ): Promise<Probed> => probeLine(looked(of, going), from, to),

  /** How strong detail of each scale is in a region of a recipe's result; null where that is too small. */
  spectrum: async (
    { region, ...of }: Looked & { region: Region },
    going: Going,
  ): Promise<Float64Array | null> => spectrumOf(await looked(of, going).read(region)),

  /** How often each tone stands in a region of a recipe's result. */
  histogram: async (
    { region, ...of }: Looked & { region: Region },
    going: Going,
  ): Promise<Histogram> => histogramOf(await looked(of, going).read(region)),
};

export type Works = typeof works;
export type WorkName = keyof Works;
