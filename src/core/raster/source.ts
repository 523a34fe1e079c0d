import type { Raster } from './raster';
import type { Region, Size } from './region';

/** The port through which the core reads pixels, wherever they are kept. */
export interface Source {
  size: Size;
  /** R, G, B, and alpha where there is one, of a region that lies wholly on the picture. */
  read(region: Region): Promise<Raster>;
}
