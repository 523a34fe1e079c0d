import type { JpegFacts } from '../inspect/jpeg';
import type { Raster } from '../raster/raster';
import type { Region, Size } from '../raster/region';

/** The port through which the core reads an original's pixels, wherever they are kept. */
export interface Source {
  size: Size;
  /** R, G, B of a region that lies wholly on the picture. */
  read(region: Region): Promise<Raster>;
}

/** What is known of an original besides its pixels; all that settling may depend on. */
export interface Original {
  /** SHA-256 of the file, as hexadecimal digits */
  digest: string;
  size: Size;
  jpeg: JpegFacts | null;
}
