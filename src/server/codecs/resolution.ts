import ExifReader from 'exifreader';
import type { Metadata } from 'sharp';
import type { InputFormat } from './format';

/** Pixels per inch along both sides, or null where a file carries none. */
export type PpiTag = { x: number; y: number } | null;

/** The resolution as each part of a file's header says it. */
export interface TaggedPpi {
  png: PpiTag;
  jfif: PpiTag;
  /** of EXIF, or of a TIFF's own tags */
  exif: PpiTag;
}

const CM_PER_INCH = 2.54;
const METRES_PER_INCH = 0.0254;
/** Numbers of the units that resolutions are given in, to what makes them pixels an inch. */
const JFIF_UNITS: Record<number, number> = { 1: 1, 2: CM_PER_INCH };
const EXIF_UNITS: Record<number, number> = { 2: 1, 3: CM_PER_INCH };
const PNG_UNITS: Record<number, number> = { 1: METRES_PER_INCH };

type Tags = Record<string, { value: unknown } | undefined>;

/** What a file's header says of its resolution. @param header its first bytes, as far as they reach */
export function taggedPpi(header: Uint8Array): TaggedPpi {
  let tags: ExifReader.ExpandedTags;
  try {
    tags = ExifReader.load(Buffer.from(header), { expanded: true });
  } catch {
    return { png: null, jfif: null, exif: null };
  }
  const group = (of: unknown) => (of ?? {}) as Tags;
  const pair = (of: Tags, units: Record<number, number>, unit: string, x: string, y: string) => {
    const scale = units[numeric(of[unit]?.value) ?? 0];
    const found = { x: numeric(of[x]?.value), y: numeric(of[y]?.value) };
    // A resolution of 1 stands for none.
    return scale && found.x && found.y && found.x > 1 && found.y > 1
      ? { x: found.x * scale, y: found.y * scale }
      : null;
  };
  const png = group(tags.png);
  const [jfif, exif] = [group(tags.jfif), group(tags.exif)];
  return {
    png: pair(png, PNG_UNITS, 'Pixel Units', 'Pixels Per Unit X', 'Pixels Per Unit Y'),
    jfif: pair(jfif, JFIF_UNITS, 'Resolution Unit', 'XResolution', 'YResolution'),
    exif: pair(exif, EXIF_UNITS, 'ResolutionUnit', 'XResolution', 'YResolution'),
  };
}

/** A tag's value as a number: they come as numbers, or as a numerator and a denominator. */
export function numeric(value: unknown): number | null {
  const found: unknown =
    Array.isArray(value) && typeof value[1] === 'number' ? value[0] / value[1] : value;
  return typeof found === 'number' && Number.isFinite(found) ? found : null;
}

/** The resolution tag as the file carries it; a missing one is missing, whatever a library assumes. */
export function ppiOf(header: Uint8Array, format: InputFormat, metadata: Metadata): PpiTag {
  const { png, jfif, exif } = taggedPpi(header);
  const said = png ?? jfif ?? exif ?? (format === 'tiff' ? ofTiff(metadata) : null);
  return said && isAssumed(said) ? null : said;
}

/** A TIFF whose tags lie behind its pixels; one without a resolution comes as 25.4 or less, in whole numbers. */
const ofTiff = ({ density }: Metadata): PpiTag =>
  density && density > 26 ? { x: density, y: density } : null;

/** A pixel to the millimetre is what common programs write where they know nothing. */
const isAssumed = ({ x, y }: { x: number; y: number }): boolean =>
  [x, y].every((ppi) => Math.abs(ppi - 25.4) < 0.01);
