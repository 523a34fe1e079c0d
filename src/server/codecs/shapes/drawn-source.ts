import { cut, emptyRaster, paste } from '@/core/raster/raster';
import { cells, type Region } from '@/core/raster/region';
import { fromSamples } from '@/core/raster/samples';
import type { Source } from '@/core/raster/source';
import { drawnCell } from '../pictures';
import { CELL, type Drawing } from './drawing';

/** A drawing, read cell by cell as its regions are asked for. */
export function drawnSource(drawing: Drawing): Source {
  const { size, channels } = drawing;
  return {
    size,
    async read(region: Region) {
      const parts = await Promise.all(
        cells(region, CELL, size).map(async (cell) => {
          const samples = await drawnCell(drawing, cell);
          return {
            region: cell,
            raster: fromSamples(samples, cell.width, cell.height, channels, 8),
          };
        }),
      );
      const [only] = parts;
      if (parts.length === 1 && only) return cut({ ...only }, region);
      const whole = emptyRaster(region.width, region.height, only!.raster.form);
      for (const one of parts) paste(one, { region, raster: whole });
      return whole;
    },
  };
}
