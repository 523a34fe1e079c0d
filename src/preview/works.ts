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
import { findShift, SHIFT_SIDE, type FoundShift, type Shift } from '@/core/evidence/shift';
import { selfTest, type TestedWay, type TestRow } from '@/core/evidence/self-test';
import { measureCleaning, type CleaningFigures, type Found } from '@/core/inspect/cleaning';
import { histogramOf, type Histogram } from '@/core/inspect/histogram';
import { RGB } from '@/core/raster/form';
import { emptyRaster, type Raster } from '@/core/raster/raster';
import { whole, type Region, type Size } from '@/core/raster/region';
import type { Source } from '@/core/raster/source';
import { toScreen } from '@/core/raster/samples';
import { toScreenColours } from '@/core/raster/screen';
import { markBeyond, proofed, type Proof } from '@/core/colour/proof';
import { ditherOf, type Recipe } from '@/core/recipe/recipe';
import { fileOnPaper, type PictureFile } from '@/core/recipe/file-on-paper';
import { atScale, classically, smoothly, upscalingOf, withoutTreated } from '@/core/recipe/views';
import { drawingOf, type DrawnAs } from '@/core/render/drawing';
import { Kept } from '@/core/render/kept';
import { render, renderZone, type Rendering, type RenderTools } from '@/core/render/render';
import { whereApart, type Apart, type PaperPlace } from '@/core/stops/apart';
import { findSource, sourceInput } from '@/core/steps/retouch/find-source';
import type { Spot } from '@/core/steps/retouch/retouch';
import type { Shape } from '@/core/steps/retouch/shape';
import { suggestSpots } from '@/core/steps/retouch/suggest';
import { maskFromBytes } from '@/core/zone/mask';
import type { ZoneMap } from '@/core/zone/zone';
import {
  isTreated,
  network,
  putMask,
  readMask,
  screenOf,
  sourceOf,
  treat,
  type PreviewOriginal,
} from './originals';
import { proofWays } from './colours';

/** Bytes of nodes that stay in a worker: of what is looked at, and of what is gone over once. */
const KEPT_BYTES = 128 << 20;
const PASSING_BYTES = 32 << 20;

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

/** What a recipe is looked at in: of a page of shapes, drawn as the recipe says. */
const readBy = ({ original, recipe }: Looked): PreviewOriginal =>
  recipe.original.drawn ? { ...original, drawn: recipe.original.drawn } : original;

/** A rendering that ends with the work that looks at it. */
function looked(of: Looked, going: Going, more?: RenderTools): Rendering {
  const { size, read } = render(sourceOf(readBy(of)), of.recipe, toolsFor(going, more));
  return { size, read: (region) => read(region, going.signal) };
}

/** A small picture on a square grid, whatever its own sides: the nearest of its pixels. */
function squared(picture: Source): Source {
  const { width, height } = picture.size;
  return {
    size: { width: SHIFT_SIDE, height: SHIFT_SIDE },
    read: async () => {
      const whole_ = await picture.read(whole(picture.size));
      const { form } = whole_;
      const square = emptyRaster(SHIFT_SIDE, SHIFT_SIDE, form);
      square.planes.forEach((plane, c) => {
        for (let y = 0, i = 0; y < SHIFT_SIDE; y++)
          for (let x = 0; x < SHIFT_SIDE; x++, i++) {
            const row = Math.floor(((y + 0.5) * height) / SHIFT_SIDE);
            plane[i] =
              whole_.planes[c]![row * width + Math.floor(((x + 0.5) * width) / SHIFT_SIDE)]!;
          }
      });
      return square;
    },
  };
}

/** What tells that a network would have to compute first, or a picture on a page be treated. */
class NotYet extends Error {}

async function rendered(
  { original, recipe, region, against }: Looked & { region: Region; against: Against | null },
  going: Going,
  more?: RenderTools,
): Promise<Raster> {
  const other = against && { original: against.original ?? original, recipe: against.recipe };
  for (const one of [{ original, recipe }, ...(other ? [other] : [])]) {
    const page = readBy(one);
    if (more?.network && !isTreated(page)) throw new NotYet();
    await treat(page, going.signal);
  }
  const raster = await looked({ original, recipe }, going, more).read(region);
  if (!other) return raster;
  const before = await looked(other, going, more).read(region);
  return {
    ...raster,
    form: RGB,
    planes: raster.planes.slice(0, 3).map(differing(before, against)),
  };
}

/** A plane less that of another picture, as it is shown. */
const differing =
  (before: Raster, { gain, absolute }: Against) =>
  (plane: Float32Array, c: number): Float32Array => {
    const other = before.planes[c]!;
    const shown = new Float32Array(plane.length);
    for (let i = 0; i < shown.length; i++) {
      const more = gain * (other[i]! - plane[i]!);
      shown[i] = absolute ? Math.abs(more) : 0.5 + more;
    }
    return shown;
  };

/** What the worker can be asked for; each is given what it is about and how it goes on. */
export const works = {
  /**
   * A region of a recipe's result: the same core, and so the same numbers, as in the file. A draft has
   * classical estimates where learned ones are not kept.
   */
  async pixels(
    asked: Looked & {
      region: Region;
      against: Against | null;
      /** shows it as its print would look */
      proof?: Proof | null;
      mayDraft: boolean;
    },
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
      const drafted = (one: Recipe) => withoutTreated(classically(one));
      const estimate = against && { ...against, recipe: drafted(against.recipe) };
      raster = await rendered({ ...asked, recipe: drafted(recipe), against: estimate }, going);
    }
    const { width, height } = asked.region;
    if (asked.proof && !asked.against) {
      const ways = await proofWays(asked.original, asked.proof);
      const print = proofed(raster, ways, asked.proof.beyond);
      const rgba = toScreen(print.raster);
      if (print.beyond) markBeyond(rgba, print.beyond, width, asked.region);
      return { width, height, rgba, draft, milliseconds: performance.now() - started };
    }
    const rgba = toScreen(raster, asked.against ? null : ditherOf(asked.recipe, asked.region));
    if (asked.original.profiled && !asked.against) {
      const table = await screenOf(asked.original);
      if (table.length > 0) toScreenColours(rgba, table);
    }
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

  /** What a traced picture is drawn from, as SVG. */
  drawing: (
    { original, recipe, ...of }: Looked & { title: string; as: DrawnAs },
    going: Going,
  ): Promise<string> => drawingOf(sourceOf(original), recipe, of, toolsFor(going), going.signal),

  /** Figures of a picture before and after its cleaning, on a sample of it. */
  cleaning: (
    {
      original,
      before,
      after,
      found,
      ownGrid,
    }: {
      original: PreviewOriginal;
      before: Recipe;
      after: Recipe;
      found: Found;
      ownGrid: { x: number; y: number } | null;
    },
    going: Going,
  ): Promise<CleaningFigures> =>
    measureCleaning(
      looked({ original, recipe: before }, going),
      looked({ original, recipe: after }, going),
      found,
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

  /** Where two results on the same paper differ most. */
  apart: (
    {
      one,
      other,
      ...where
    }: {
      one: Looked;
      other: Looked;
      named: PaperPlace[];
      most: number;
    },
    going: Going,
  ): Promise<Apart[]> =>
    whereApart(
      looked(one, going, { store: passing }),
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
      parts,
      async (share) => {
        going.tell(share);
        await going.next();
        return true;
      },
    );
  },

  /**
   * How far a picture file must be moved to lie on a recipe's result, in its pixels; null where nothing tells.
   * @param factor pixels of the result to one of its original, at which the detail is that both have
   */
  async shift(
    {
      file,
      fileOriginal,
      factor,
      ...on
    }: Looked & { file: PictureFile; fileOriginal: PreviewOriginal; factor: number },
    going: Going,
  ): Promise<FoundShift | null> {
    const read = ({ original, recipe }: Looked) =>
      looked({ original, recipe: smoothly(recipe) }, going, { store: passing });
    const scale = Math.min(1, 1 / factor);
    const own = atScale(on.recipe, scale);
    const { width, height } = own.target;
    const smaller = atScale(own, Math.min(1, SHIFT_SIDE / Math.min(width, height)));
    const laid = (paper: Recipe, moved?: Shift) =>
      read({ original: fileOriginal, recipe: fileOnPaper(paper, file, moved) });
    const found = await findShift(
      {
        small: squared(read({ ...on, recipe: smaller })),
        own: read({ ...on, recipe: own }),
      },
      { small: squared(laid(smaller)) },
      // Moved as a whole, so that its square lies on the paper.
      (x, y) => {
        const inside = (at: number, side: number) => Math.max(0, Math.min(at, side - SHIFT_SIDE));
        const place = { x: inside(x, width), y: inside(y, height) };
        const moved = laid(own, { x: place.x - x, y: place.y - y });
        return moved.read({ ...place, width: SHIFT_SIDE, height: SHIFT_SIDE });
      },
      going.next,
    );
    const onResult = (pixels: number) => Math.round(pixels / scale);
    return found && { x: onResult(found.x), y: onResult(found.y), spread: onResult(found.spread) };
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
