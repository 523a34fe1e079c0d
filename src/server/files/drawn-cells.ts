import { canonicalJson } from '@/core/recipe/canonical';
import type { Region } from '@/core/raster/region';
import { drawnCell } from '../codecs/pictures';
import type { Drawing } from '../codecs/shapes/drawing';

/** Cells that stay in memory: a screenful, of about 4 megabytes each. */
const KEPT = 24;

const cells = new Map<string, Promise<Uint8Array>>();

/** Cells of drawings, each drawn once while it is looked at. */
export const drawnCells = {
  cell(drawing: Drawing, cell: Region): Promise<Uint8Array> {
    const key = canonicalJson([drawing, cell]);
    const known = cells.get(key);
    cells.delete(key);
    const drawn = known ?? drawnCell(drawing, cell);
    cells.set(key, drawn);
    drawn.catch(() => cells.delete(key));
    if (cells.size > KEPT) cells.delete(cells.keys().next().value!);
    return drawn;
  },
};
