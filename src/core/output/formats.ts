import { z } from 'zod';
import type { DeviceSpace } from '../colour/space';
import type { Depth } from '../raster/samples';
import { say } from '../words/say';

/** How samples are packed in a file. */
export const Compression = z.enum(['none', 'lzw', 'deflate', 'lossless', 'lossy']);
export type Compression = z.infer<typeof Compression>;

/** One way in which a format packs its samples. */
export interface Packing {
  /** as it is called among the ways of its format */
  label: string;
  /** bits a sample that it holds, the least first */
  depths: readonly [Depth, ...Depth[]];
  /** bytes a pixel of 8 bits in enlarged pictures, which are smooth; by experience, at the usual quality */
  pixelBytes: number;
  /** seconds a megapixel that encoding takes on the machine of reference, beyond writing plain samples */
  encoding: number;
}

/** A file format that results are written in: all that anything asks of it. */
export interface OutputFormat {
  /** as it is called in a sentence */
  name: string;
  blurb: string;
  /** file endings; results carry the first */
  endings: readonly [string, ...string[]];
  mediaType: string;
  /** the ways in which it packs samples, the usual one first */
  packings: Partial<Record<Compression, Packing>>;
  /** what its colours can be */
  spaces: readonly DeviceSpace[];
  /** whether it holds transparency */
  alpha: boolean;
  /** quality of its lossy way: what it may be */
  quality: { min: number; max: number; usual: number };
  /** whether a lossy file may keep colours coarser than light, and come in passes from coarse to fine */
  samplings: boolean;
  /** longest side that it can hold, in pixels */
  longestSide: number;
  /** ppi are rounded to a multiple of this when they are written */
  ppiStep: number;
}

const QUALITY = { min: 1, max: 100, usual: 95 } as const;
const EIGHT = [8] as const;
const BOTH = [8, 16] as const;
const ALL = ['rgb', 'grey', 'cmyk'] as const;

/** The formats of results, in the order in which they are offered. */
const FORMATS = {
  tiff: {
    name: 'TIFF',
    blurb: say`Every bit is kept: what print shops like best.`,
    endings: ['tif', 'tiff'],
    mediaType: 'image/tiff',
    packings: {
      none: { label: say`Uncompressed`, depths: BOTH, pixelBytes: 3, encoding: 0 },
      lzw: { label: say`LZW`, depths: BOTH, pixelBytes: 1.6, encoding: 0.05 },
      deflate: { label: say`Deflate`, depths: BOTH, pixelBytes: 1.3, encoding: 0.04 },
    },
    spaces: ALL,
    alpha: true,
    quality: QUALITY,
    samplings: false,
    // It becomes a BigTIFF where it passes 4 GB.
    longestSide: 2 ** 32 - 1,
    ppiStep: 0.0001,
  },
  jpeg: {
    name: 'JPEG',
    blurb: say`Small, 8 bit, and lossy.`,
    endings: ['jpg', 'jpeg'],
    mediaType: 'image/jpeg',
    packings: { lossy: { label: say`Lossy`, depths: EIGHT, pixelBytes: 0.35, encoding: 0.026 } },
    spaces: ALL,
    alpha: false,
    quality: QUALITY,
    samplings: true,
    // The format could hold 65,535; libraries that read and write it go no further than this.
    longestSide: 65_500,
    // Whole numbers in its JFIF header, thousandths in its EXIF.
    ppiStep: 0.001,
  },
  png: {
    name: 'PNG',
    blurb: say`Every bit is kept, compressed; slower to write.`,
    endings: ['png'],
    mediaType: 'image/png',
    packings: { deflate: { label: say`Deflate`, depths: BOTH, pixelBytes: 1.3, encoding: 0.09 } },
    spaces: ['rgb', 'grey'],
    alpha: true,
    quality: QUALITY,
    samplings: false,
    longestSide: 2 ** 31 - 1,
    // It counts whole pixels a metre.
    ppiStep: 0.0254,
  },
  webp: {
    name: say`WebP`,
    blurb: say`For screens and proofs by mail: smaller than JPEG, 8 bit, slow to write.`,
    endings: ['webp'],
    mediaType: 'image/webp',
    packings: {
      lossy: { label: say`Lossy`, depths: EIGHT, pixelBytes: 0.25, encoding: 0.15 },
      lossless: { label: say`Lossless`, depths: EIGHT, pixelBytes: 1, encoding: 0.6 },
    },
    spaces: ['rgb'],
    alpha: true,
    quality: QUALITY,
    samplings: false,
    longestSide: 16_383,
    ppiStep: 0.001,
  },
  pdf: {
    name: 'PDF',
    blurb: say`One page of exactly the ordered size, with trim, bleed and marks.`,
    endings: ['pdf'],
    mediaType: 'application/pdf',
    packings: {
      deflate: { label: say`Lossless`, depths: BOTH, pixelBytes: 1.3, encoding: 0.09 },
      lossy: { label: say`JPEG inside`, depths: EIGHT, pixelBytes: 0.35, encoding: 0.026 },
    },
    spaces: ALL,
    alpha: false,
    quality: QUALITY,
    samplings: true,
    longestSide: 2 ** 31 - 1,
    // Lengths on its page have five digits after the point.
    ppiStep: 0.001,
  },
} as const satisfies Record<string, OutputFormat>;

export const Format = z.enum(Object.keys(FORMATS) as [keyof typeof FORMATS]);
export type Format = z.infer<typeof Format>;

/** What is known of a format. */
export const formatOf = (format: Format): OutputFormat => FORMATS[format];

/** The ways in which a format packs samples, the usual one first. */
export const packingsOf = (format: Format): Compression[] =>
  Object.keys(FORMATS[format].packings) as Compression[];

/** The format of a file by its name's ending, in either case; null where it is none of ours. */
export function formatOfName(name: string): Format | null {
  const ending = /\.([^./\\]+)$/.exec(name)?.[1]?.toLowerCase();
  const known = Format.options.find((one) => formatOf(one).endings.some((e) => e === ending));
  return known ?? null;
}
