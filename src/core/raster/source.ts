import type { Raster } from './raster';
import type { Region, Size } from './region';
import type { Depth } from './samples';

/** The port through which the core reads pixels, wherever they are kept. */
export interface Source {
  size: Size;
  /** R, G, B, and alpha where there is one, of a region that lies wholly on the picture. */
  read(region: Region): Promise<Raster>;
}

/** One that keeps pixels as files hold them. */
export interface SampleSource extends Source {
  depth: Depth;
  /** 3, or 4 with alpha */
  channels: number;
  /** Interleaved samples of a region, as bytes (16 bit: little-endian). */
  samples(region: Region): Promise<Uint8Array>;
}
