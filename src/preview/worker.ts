import * as Comlink from 'comlink';
import type { Region, Size } from '@/core/raster/region';
import { fromSamples, toScreen, type Depth } from '@/core/raster/samples';
import { toScreenColours } from '@/core/raster/screen';
import { Kept } from '@/core/treatment/kept';
import { canonicalJson, type Drawn, type SettledRecipe } from '@/core/treatment/recipe';
import { render } from '@/core/treatment/render';
import type { Source } from '@/core/treatment/source';
import { tiledSource } from '@/core/treatment/tiles';

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
  milliseconds: number;
}

const worker = {
  /** A region of a recipe's result: the same core, and so the same numbers, as in the file. */
  async render(original: PreviewOriginal, recipe: SettledRecipe, region: Region): Promise<Pixels> {
    const started = performance.now();
    const raster = await render(sourceOf(original), recipe, { kept }).read(region);
    const rgba = toScreen(raster);
    if (original.profiled) {
      const table = await screenOf(original);
      if (table.length > 0) toScreenColours(rgba, table);
    }
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
