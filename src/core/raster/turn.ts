import type { Turn } from '../frame/framing';
import { emptyRaster, type Raster } from './raster';
import type { Region, Size } from './region';

/**
 * Where a region of a turned picture lies on the picture before it was turned.
 * @param turn clockwise, in degrees
 * @param before size of the picture before turning
 */
export function beforeTurn(region: Region, turn: Turn, before: Size): Region {
  const { x, y, width, height } = region;
  if (turn === 90) {
    return { x: y, y: before.height - x - width, width: height, height: width };
  }
  if (turn === 180) {
    return { x: before.width - x - width, y: before.height - y - height, width, height };
  }
  if (turn === 270) {
    return { x: before.width - y - height, y: x, width: height, height: width };
  }
  return region;
}

/** A raster turned clockwise; pixels are moved, never mixed. */
export function turnRaster(raster: Raster, turn: Turn): Raster {
  if (turn === 0) return raster;
  const { width, height } = raster;
  const turned =
    turn === 180
      ? emptyRaster(width, height, raster.form)
      : emptyRaster(height, width, raster.form);
  raster.planes.forEach((plane, channel) => {
    const to = turned.planes[channel]!;
    for (let y = 0, i = 0; y < height; y++) {
      for (let x = 0; x < width; x++, i++) {
        const at =
          turn === 90
            ? x * height + height - 1 - y
            : turn === 180
              ? (height - 1 - y) * width + width - 1 - x
              : (width - 1 - x) * height + y;
        to[at] = plane[i]!;
      }
    }
  });
  return turned;
}
