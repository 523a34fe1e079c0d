import { networksFrom } from '@/core/learned/networks';
import type { Size } from '@/core/raster/region';
import { fromSamples, type Depth } from '@/core/raster/samples';
import type { Source } from '@/core/raster/source';
import { tileCache, tiledSource, type TileCache } from '@/core/raster/tiles';
import { canonicalJson, digestOfValue } from '@/core/recipe/canonical';
import type { Drawn } from '@/core/recipe/recipe';
import { maskFromBytes, type Mask } from '@/core/zone/mask';
import type { Painted } from '@/core/zone/zone';
import { LRUCache } from 'lru-cache';

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

/** Sources that stay: a drawing has one for every size it is looked at. */
const SOURCES = 24;
/** Bytes of tiles that stay, of all sources together. */
const TILE_BYTES = 24 << 20;

const sources = new LRUCache<string, Source>({ max: SOURCES });
const tiles = tileCache(TILE_BYTES);
const screens = new Map<string, Promise<Uint8Array>>();

const pageOf = ({ digest, page }: PreviewOriginal) => `/api/originals/${digest}/pages/${page}`;

/** Bytes at an address of the shop. */
export const fetchedBytes = async (address: string): Promise<Uint8Array<ArrayBuffer>> =>
  new Uint8Array(await (await fetched(address)).arrayBuffer());

async function fetched(address: string): Promise<Response> {
  const response = await fetch(address);
  if (!response.ok) throw new Error(`${address} did not arrive`);
  return response;
}

function tileAddress(original: PreviewOriginal, column: number, row: number): string {
  const { level, size, drawn, channels } = original;
  if (!drawn) return `${pageOf(original)}/tiles/${level}/${column}/${row}`;
  const { x, y, width, height } = drawn.source;
  const asked = {
    ...{ ...size, x, y, w: width, h: height, turn: drawn.turn, channels, column, row },
    ...(drawn.placed.length > 0 && { treated: digestOfValue(drawn.placed) }),
  };
  const words = Object.entries(asked).map(([key, value]) => `${key}=${value}`);
  return `${pageOf(original)}/drawn?${words.join('&')}`;
}

/** An original's pixels, in tiles that are fetched when they are first needed. */
export function sourceOf(original: PreviewOriginal): Source {
  const { drawn } = original;
  const placed = drawn && { ...drawn, placed: digestOfValue(drawn.placed) };
  const name = canonicalJson({ ...original, drawn: placed });
  const known = sources.get(name);
  if (known) return known;
  const source = tilesOf(original, { cache: tiles, name });
  sources.set(name, source);
  return source;
}

/** Sets of treated pictures that are there, so that their page can be drawn at once. */
const ready = new LRUCache<string, true>({ max: 200 });

/** Whether a page can be drawn without any of its pictures being treated first. */
export const isTreated = ({ drawn }: PreviewOriginal): boolean =>
  !drawn || drawn.placed.length === 0 || ready.has(digestOfValue(drawn.placed));

/** Has a page's pictures treated, unless they are. */
export async function treat(original: PreviewOriginal, signal?: AbortSignal): Promise<void> {
  if (isTreated(original)) return;
  const { placed } = original.drawn!;
  const response = await fetch(`${pageOf(original)}/treated`, {
    method: 'POST',
    body: JSON.stringify({ placed }),
    ...(signal && { signal }),
    headers: { 'Content-Type': 'application/json' },
  });
  if (!response.ok) throw new Error('pictures on the page could not be treated');
  ready.set(digestOfValue(placed), true);
}

/** A tile of a page whose server was started anew meanwhile, and was told again how pictures are treated. */
async function again(original: PreviewOriginal, address: string): Promise<Response> {
  ready.delete(digestOfValue(original.drawn!.placed));
  await treat(original);
  return fetched(address);
}

const tilesOf = (original: PreviewOriginal, kept: { cache: TileCache; name: string }): Source =>
  tiledSource(
    original.size,
    async (column, row, region) => {
      const { depth, channels } = original;
      const address = tileAddress(original, column, row);
      const response = await fetched(address).catch(async (error: unknown) => {
        if (original.drawn?.placed.length) return again(original, address);
        throw error;
      });
      const buffer = await response.arrayBuffer();
      const samples = depth === 8 ? new Uint8Array(buffer) : new Uint16Array(buffer);
      return fromSamples(samples, region.width, region.height, channels, depth);
    },
    kept,
  );

/** How the page's colours look on a screen; empty where they are sRGB. */
export function screenOf(original: PreviewOriginal): Promise<Uint8Array> {
  const name = pageOf(original);
  let screen = screens.get(name);
  if (!screen) {
    screen = fetched(`${name}/screen`).then(
      async (response) => new Uint8Array(await response.arrayBuffer()),
    );
    screens.set(name, screen);
    screen.catch(() => screens.delete(name));
  }
  return screen;
}

export const network = networksFrom(
  async (digest) => new Uint8Array(await (await fetched(`/api/models/${digest}`)).arrayBuffer()),
);

/** Masks that stay here; those just painted are put here before the server has them. */
const masks = new LRUCache<string, Promise<Mask>>({ max: 6 });

/** Lends the worker a mask that was just painted. */
export function putMask(digest: string, mask: Promise<Mask>): void {
  masks.set(digest, mask);
  mask.catch(() => masks.delete(digest));
}

export function readMask(painted: Painted): Promise<Mask> {
  const { digest, width, height } = painted;
  const known =
    masks.get(digest) ??
    fetched(`/api/masks/${digest}?width=${width}&height=${height}`).then(async (response) =>
      maskFromBytes(new Uint8Array(await response.arrayBuffer()), painted),
    );
  putMask(digest, known);
  return known;
}
