import { z } from 'zod';
import type { Size } from '../raster/region';
import type { Depth } from '../raster/samples';

/** A file format that results are written in: all that anything asks of it. */
export interface OutputFormat {
  /** as it is called in a sentence */
  name: string;
  blurb: string;
  /** file endings; results carry the first */
  endings: readonly [string, ...string[]];
  mediaType: string;
  /** bits a sample that it holds, the least first */
  depths: readonly [Depth, ...Depth[]];
  /** whether it holds transparency */
  alpha: boolean;
  /** qualities of a lossy format; null where it keeps every bit */
  quality: { min: number; max: number; usual: number } | null;
  /** longest side that it can hold, in pixels */
  longestSide: number;
  /** ppi are rounded to a multiple of this when they are written */
  ppiStep: number;
  /** bytes a pixel of 8 bits in enlarged pictures, which are smooth; by experience, at the usual quality */
  pixelBytes: number;
  /** seconds a megapixel that encoding takes on the machine of reference, beyond writing plain samples */
  encoding: number;
}

/** The formats of results, in the order in which they are offered. */
const FORMATS = {
  tiff: {
    name: 'TIFF',
    blurb: 'Every bit is kept, uncompressed: what print shops like best.',
    endings: ['tif', 'tiff'],
    mediaType: 'image/tiff',
    depths: [8, 16],
    alpha: true,
    quality: null,
    // It becomes a BigTIFF where it passes 4 GB.
    longestSide: 2 ** 32 - 1,
    ppiStep: 0.0001,
    pixelBytes: 3,
    encoding: 0,
  },
  jpeg: {
    name: 'JPEG',
    blurb: 'Small, 8 bit, and lossy; from quality 90 on with full colour samples.',
    endings: ['jpg', 'jpeg'],
    mediaType: 'image/jpeg',
    depths: [8],
    alpha: false,
    quality: { min: 1, max: 100, usual: 95 },
    longestSide: 65_500,
    // Whole numbers in its JFIF header, thousandths in its EXIF.
    ppiStep: 0.001,
    pixelBytes: 0.35,
    encoding: 0.026,
  },
  png: {
    name: 'PNG',
    blurb: 'Every bit is kept, compressed; slower to write.',
    endings: ['png'],
    mediaType: 'image/png',
    depths: [8, 16],
    alpha: true,
    quality: null,
    longestSide: 2 ** 31 - 1,
    // It counts whole pixels a metre.
    ppiStep: 0.0254,
    pixelBytes: 1.3,
    encoding: 0.09,
  },
} as const satisfies Record<string, OutputFormat>;

export const Format = z.enum(Object.keys(FORMATS) as [keyof typeof FORMATS]);
export type Format = z.infer<typeof Format>;

/** What is known of a format. */
export const formatOf = (format: Format): OutputFormat => FORMATS[format];

/** The format of a file by its name's ending, in either case; null where it is none of ours. */
export function formatOfName(name: string): Format | null {
  const ending = /\.([^./\\]+)$/.exec(name)?.[1]?.toLowerCase();
  const known = Format.options.find((one) => formatOf(one).endings.some((e) => e === ending));
  return known ?? null;
}

/** Why a format can't hold a picture, with what works; null where it can. */
export function formatRefusal(format: Format, { width, height }: Size, ppi: number): string | null {
  const { name, longestSide } = formatOf(format);
  const side = Math.max(width, height);
  if (side <= longestSide) return null;
  const fits = Math.floor((ppi * longestSide) / side);
  const orFewer = fits >= 1 ? `, or order ${fits} ppi` : '';
  return `A ${name} holds at most ${longestSide} pixels a side, this result has ${side}. Choose TIFF${orFewer}.`;
}
