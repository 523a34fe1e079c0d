import { open, stat } from 'node:fs/promises';
import ExifReader from 'exifreader';
import { fromFile } from 'geotiff';
import sharp from 'sharp';
import type { Size } from '@/core/raster/region';
import { formatOf, type Format } from '@/core/output/formats';

/** What a written file says of itself when it is opened afresh. */
export interface Described extends Size {
  ppi: { x: number; y: number } | null;
  /** embedded ICC profile, or null */
  profile: Uint8Array | null;
  /** length of the file */
  bytes: number;
}

/** Units of resolution that are pixels an inch, in TIFF, EXIF and JFIF. */
const INCH = 2;
const JFIF_INCH = 1;
const METRES_PER_INCH = 0.0254;

/**
 * Reads a result's description with a reader that shares no code with the writers.
 * @throws Error where the file can't be read
 */
export async function readDescription(path: string, format: Format): Promise<Described> {
  return format === 'tiff' ? describeTiff(path) : describeEncoded(path);
}

async function describeTiff(path: string): Promise<Described> {
  const { size: bytes } = await stat(path);
  return withTiff(path, async (tags) => {
    const number = async (tag: TiffTag) => Number(await tags.loadValue(tag));
    const ratio = async (tag: TiffTag) => {
      const pair = (await tags.loadValue(tag)) as ArrayLike<number> | undefined;
      return pair ? pair[0]! / pair[1]! : NaN;
    };
    const [x, y] = [await ratio('XResolution'), await ratio('YResolution')];
    const inches = (await number('ResolutionUnit')) === INCH;
    const profile = tags.hasTag(ICC) ? await tags.loadValue(ICC) : null;
    return {
      width: await number('ImageWidth'),
      height: await number('ImageLength'),
      ppi: inches && x > 0 && y > 0 ? { x, y } : null,
      profile: profile ? Uint8Array.from(profile as ArrayLike<number>) : null,
      bytes,
    };
  });
}

/** The profile's tag, which has no name of its own in every reader. */
const ICC = 34675;

type TiffTags = Awaited<
  ReturnType<Awaited<ReturnType<typeof fromFile>>['getImage']>
>['fileDirectory'];
export type TiffTag = Parameters<TiffTags['hasTag']>[0];

/** Looks at the tags of a TIFF's first picture. */
export async function withTiff<T>(path: string, look: (tags: TiffTags) => Promise<T>): Promise<T> {
  const tiff = await fromFile(path);
  try {
    const image = await tiff.getImage();
    return await look(image.fileDirectory);
  } finally {
    await tiff.close();
  }
}

/** Everything of interest stands before the pixels. */
const HEAD_BYTES = 8 << 20;

async function describeEncoded(path: string): Promise<Described> {
  const handle = await open(path, 'r');
  const { size: bytes } = await stat(path);
  const head = Buffer.alloc(Math.min(bytes, HEAD_BYTES));
  try {
    await handle.read(head, 0, head.length, 0);
  } finally {
    await handle.close();
  }
  const tags = ExifReader.load(head, { expanded: true });
  const side = (name: 'Image Width' | 'Image Height') =>
    numeric((tags.file?.[name] ?? tags.png?.[name])?.value);
  const [width, height] = [side('Image Width'), side('Image Height')];
  if (width === null || height === null) throw new Error('the written file has no size');
  const { icc } = await sharp(path, { limitInputPixels: false, unlimited: true }).metadata();
  return { width, height, ppi: resolution(tags), profile: icc ?? null, bytes };
}

/** A tag's value as a number: they come as numbers, or as a numerator and a denominator. */
function numeric(value: unknown): number | null {
  const found: unknown =
    Array.isArray(value) && typeof value[1] === 'number' ? value[0] / value[1] : value;
  return typeof found === 'number' && Number.isFinite(found) ? found : null;
}

type Tags = Record<string, { value: unknown } | undefined>;

function resolution(tags: ExifReader.ExpandedTags): { x: number; y: number } | null {
  const group = (of: unknown) => (of ?? {}) as Tags;
  const pair = (of: Tags, x: string, y: string) => {
    const found = { x: numeric(of[x]?.value), y: numeric(of[y]?.value) };
    return found.x && found.y ? { x: found.x, y: found.y } : null;
  };
  const png = group(tags.png);
  const perMetre =
    png['Pixel Units']?.value === 1 ? pair(png, 'Pixels Per Unit X', 'Pixels Per Unit Y') : null;
  if (perMetre) return { x: perMetre.x * METRES_PER_INCH, y: perMetre.y * METRES_PER_INCH };
  const jfif = group(tags.jfif);
  const exif = group(tags.exif);
  const rounded =
    jfif['Resolution Unit']?.value === JFIF_INCH ? pair(jfif, 'XResolution', 'YResolution') : null;
  const exact =
    exif.ResolutionUnit?.value === INCH ? pair(exif, 'XResolution', 'YResolution') : null;
  // Two headers that contradict each other leave it to chance which one a printer believes.
  if (rounded && exact && Math.abs(rounded.x - exact.x) > 0.5) return null;
  return exact ?? rounded;
}

/** What a file was meant to be. */
export interface Expected {
  size: Size;
  ppi: number;
  profile: Uint8Array | null;
}

/**
 * What is wrong with a written file, in sentences; none where it prints at exactly the ordered
 * size. The written size is right within half a pixel plus what the format's tag can hold.
 */
export function complaints(found: Described, expected: Expected, format: Format): string[] {
  const wrong: string[] = [];
  const { size, ppi, profile } = expected;
  if (found.width !== size.width || found.height !== size.height) {
    wrong.push(
      `It holds ${found.width} x ${found.height} pixels instead of ${size.width} x ${size.height}.`,
    );
  }
  if (!found.ppi) wrong.push('It carries no resolution.');
  else {
    const off = Math.max(Math.abs(found.ppi.x - ppi), Math.abs(found.ppi.y - ppi));
    if (off > formatOf(format).ppiStep / 2 + 1e-6) {
      wrong.push(`It says ${found.ppi.x} ppi instead of ${ppi}.`);
    }
  }
  if (Buffer.compare(found.profile ?? NOTHING, profile ?? NOTHING) !== 0) {
    wrong.push('Its colour profile is not the one that was carried over.');
  }
  return wrong;
}

const NOTHING = new Uint8Array(0);
