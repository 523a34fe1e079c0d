import { LRUCache } from 'lru-cache';
import { emptyRaster, paste, rasterBytes, type Raster } from './raster';
import { cells, clip, type Region, type Size } from './region';
import type { Source } from './source';
import { RGB } from './form';

/** Originals travel to the preview in square tiles of so many pixels, on an absolute grid. */
export const TILE = 256;

/** How often a picture may be halved for looking at it from far away. */
export const LEVELS = 6;

/** Size of a picture that was halved `level` times. */
export const levelSize = ({ width, height }: Size, level: number): Size => ({
  width: Math.max(1, Math.round(width / 2 ** level)),
  height: Math.max(1, Math.round(height / 2 ** level)),
});

/** Tiles that stay, of any number of sources together. */
export type TileCache = LRUCache<string, Raster>;

/** @param bytes that tiles may take together; those not used for longest go first */
export const tileCache = (bytes: number): TileCache =>
  new LRUCache({
    maxSize: bytes,
    sizeCalculation: (raster, key) => rasterBytes(raster) + 2 * key.length,
  });

/**
 * A source made of tiles that are fetched when they are first needed.
 * @param fetchTile column and row of a tile, and the region it covers
 * @param kept where tiles stay, and what this source's are called there
 */
export function tiledSource(
  size: Size,
  fetchTile: (column: number, row: number, region: Region) => Promise<Raster>,
  kept: { cache: TileCache; name: string } = { cache: tileCache(64 << 20), name: '' },
): Source {
  const onTheirWay = new Map<string, Promise<Raster>>();
  const tile = async (part: Region): Promise<Raster> => {
    const key = `${kept.name}#${part.x},${part.y}`;
    const known = kept.cache.get(key) ?? onTheirWay.get(key);
    if (known) return known;
    const fetched = fetchTile(part.x / TILE, part.y / TILE, part);
    onTheirWay.set(key, fetched);
    try {
      const raster = await fetched;
      kept.cache.set(key, raster);
      return raster;
    } finally {
      // A tile that failed to arrive is asked for again next time.
      onTheirWay.delete(key);
    }
  };
  return {
    size,
    read: async (region) => {
      const parts = cells(clip(region, size), TILE, size);
      const arrived = await Promise.all(parts.map(tile));
      const raster = emptyRaster(region.width, region.height, arrived[0]?.form ?? RGB);
      arrived.forEach((piece, i) =>
        paste({ region: parts[i]!, raster: piece }, { region, raster }),
      );
      return raster;
    },
  };
}
