import * as Comlink from 'comlink';
import type { Region, Size } from '@/core/raster/region';
import { fromSamples, toScreen, type Depth } from '@/core/raster/samples';
import { Kept } from '@/core/treatment/kept';
import type { SettledRecipe } from '@/core/treatment/recipe';
import { render } from '@/core/treatment/render';
import type { Source } from '@/core/treatment/source';
import { tiledSource } from '@/core/treatment/tiles';

/** An original as the worker needs it: where its tiles are and what they hold. */
export interface PreviewOriginal {
  digest: string;
  /** how often it was halved before it came here; 0 is the original itself */
  level: number;
  /** at this level */
  size: Size;
  depth: Depth;
}

/** Intermediate results that stay in the worker. */
const KEPT_BYTES = 192 << 20;

const kept = new Kept(KEPT_BYTES);
const sources = new Map<string, Source>();

function sourceOf({ digest, level, size, depth }: PreviewOriginal): Source {
  const name = `${digest} ${level}`;
  const known = sources.get(name);
  if (known) return known;
  const source = tiledSource(size, async (column, row, region) => {
    const response = await fetch(`/api/originals/${digest}/tiles/${level}/${column}/${row}`);
    if (!response.ok) throw new Error(`tile ${column}/${row} did not arrive`);
    const buffer = await response.arrayBuffer();
    const samples = depth === 8 ? new Uint8Array(buffer) : new Uint16Array(buffer);
    return fromSamples(samples, region.width, region.height, 3, depth);
  });
  sources.set(name, source);
  return source;
}

/** Pixels for the screen, and how long their computing took. */
export interface Pixels {
  width: number;
  height: number;
  rgba: Uint8ClampedArray<ArrayBuffer>;
  milliseconds: number;
}

const worker = {
  /** A region of a recipe's result: the same core, and so the same numbers, as in the file. */
  async render(original: PreviewOriginal, recipe: SettledRecipe, region: Region): Promise<Pixels> {
    const started = performance.now();
    const raster = await render(sourceOf(original), recipe, kept).read(region);
    const rgba = toScreen(raster);
    const pixels = {
      width: region.width,
      height: region.height,
      rgba,
      milliseconds: performance.now() - started,
    };
    return Comlink.transfer(pixels, [rgba.buffer]);
  },
};

export type PreviewWorker = typeof worker;

Comlink.expose(worker);
