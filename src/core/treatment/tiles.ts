import { emptyRaster, paste, type Raster } from '../raster/raster';
import { cells, clip, type Region, type Size } from '../raster/region';
import type { Source } from './source';

/** Originals travel to the preview in square tiles of so many pixels, on an absolute grid. */
export const TILE = 256;

/** How often a picture may be halved for looking at it from afar. */
export const LEVELS = 6;

/** Size of a picture that was halved `level` times. */
export const levelSize = ({ width, height }: Size, level: number): Size => ({
  width: Math.max(1, Math.round(width / 2 ** level)),
  height: Math.max(1, Math.round(height / 2 ** level)),
});

/**
 * A source made of tiles that are fetched when they are first needed and kept.
 * @param fetchTile column and row of a tile, and the region it covers
 */
export function tiledSource(
  size: Size,
  fetchTile: (column: number, row: number, region: Region) => Promise<Raster>,
): Source {
  const tiles = new Map<string, Promise<Raster>>();
  const tile = (part: Region): Promise<Raster> => {
    const key = `${part.x},${part.y}`;
    const known = tiles.get(key);
    if (known) return known;
    const fetched = fetchTile(part.x / TILE, part.y / TILE, part);
    tiles.set(key, fetched);
    // A tile that failed to arrive is asked for again next time.
    fetched.catch(() => tiles.delete(key));
    return fetched;
  };
  return {
    size,
    read: async (region) => {
      const parts = cells(clip(region, size), TILE, size);
      const arrived = await Promise.all(parts.map(tile));
      const raster = emptyRaster(region.width, region.height, arrived[0]?.planes.length ?? 3);
      arrived.forEach((piece, i) =>
        paste({ region: parts[i]!, raster: piece }, { region, raster }),
      );
      return raster;
    },
  };
}
