import { LEVEL } from '../raster/samples';
import type { Raster } from '../raster/raster';
import type { Areas } from './areas';
import { fillAt } from './fills';
import type { Fill } from './tracing';

/** What a neighbour of another area costs a pixel, in levels squared summed over the channels. */
const ROUGH = 400;
const TIMES = 4;

/**
 * Gives the pixels at the rims of areas to the one beside them whose fill they are most like, and which leaves the edge
 * smooth (iterated conditional modes, Besag 1986). Of an area that loses all of its pixels the number stands for nothing.
 */
export function tidied(picture: Raster, areas: Areas, fills: readonly Fill[]): Areas {
  const { width, height } = areas;
  const { planes } = picture;
  const of = Int32Array.from(areas.of);
  const costOf = (i: number, x: number, y: number, area: number, alike: number): number => {
    let cost = (4 - alike) * ROUGH;
    for (let c = 0; c < planes.length; c++) {
      const off = (planes[c]![i]! - fillAt(fills[area]!, c, x + 0.5, y + 0.5)) / LEVEL;
      cost += off * off;
    }
    return cost;
  };
  const around = new Int32Array(4);
  for (let time = 0; time < TIMES; time++) {
    let changed = false;
    for (let y = 0, i = 0; y < height; y++)
      for (let x = 0; x < width; x++, i++) {
        const own = of[i]!;
        const before = x > 0 ? of[i - 1]! : own;
        const after = x < width - 1 ? of[i + 1]! : own;
        const above = y > 0 ? of[i - width]! : own;
        const below = y < height - 1 ? of[i + width]! : own;
        if (before === own && after === own && above === own && below === own) continue;
        around[0] = before;
        around[1] = after;
        around[2] = above;
        around[3] = below;
        const alike = (area: number): number => {
          let count = 0;
          for (let k = 0; k < 4; k++) if (around[k] === area) count++;
          return count;
        };
        let best = own;
        let least = costOf(i, x, y, own, alike(own));
        for (let k = 0; k < 4; k++) {
          const other = around[k]!;
          if (other === best || other === own) continue;
          const cost = costOf(i, x, y, other, alike(other));
          if (cost < least) [best, least] = [other, cost];
        }
        if (best === own) continue;
        of[i] = best;
        changed = true;
      }
    if (!changed) break;
  }
  return { ...areas, of };
}
