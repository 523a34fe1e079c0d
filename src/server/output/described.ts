import { open, stat } from 'node:fs/promises';
import ExifReader from 'exifreader';
import sharp from 'sharp';
import type { Rect } from '@/core/frame/framing';
import type { Size } from '@/core/raster/region';
import { formatOf, type Format } from '@/core/output/formats';
import { withTiff, type TiffTag } from '../codecs/tiff-tags';
import { readPdf, type PdfDescription } from './pdf-read';
import { numeric, taggedPpi, type PpiTag, type TaggedPpi } from '../codecs/resolution';

/** What a written file says of itself when it is opened afresh. */
export interface Described extends Size {
  ppi: { x: number; y: number } | null;
  /** embedded ICC profile, or null */
  profile: Uint8Array | null;
  /** length of the file */
  bytes: number;
  /** of a PDF's page, in points */
  boxes?: Boxes;
}

/** The boxes of a PDF's page, in points. */
export type Boxes = PdfDescription['boxes'];

/** The number of the unit that is pixels an inch. */
const INCH = 2;

/**
 * Reads a result's description with a reader that shares no code with the writers.
 * @throws Error where the file can't be read
 */
export async function readDescription(path: string, format: Format): Promise<Described> {
  if (format === 'pdf') {
    const { size: bytes } = await stat(path);
    return { ...readPdf(path), bytes };
  }
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
  const side = (name: 'Width' | 'Height') =>
    numeric(
      (tags.file?.[`Image ${name}`] ?? tags.png?.[`Image ${name}`] ?? tags.riff?.[`Image${name}`])
        ?.value,
    );
  const [width, height] = [side('Width'), side('Height')];
  if (width === null || height === null) throw new Error('the written file has no size');
  const { icc } = await sharp(path, { limitInputPixels: false, unlimited: true }).metadata();
  return { width, height, ppi: agreed(taggedPpi(head)), profile: icc ?? null, bytes };
}

/** The one resolution that a header tells; null where two contradict each other. */
function agreed({ png, jfif, exif }: TaggedPpi): PpiTag {
  // It would be left to chance which one a printer believes.
  if (jfif && exif && Math.abs(jfif.x - exif.x) > 0.5) return null;
  return png ?? exif ?? jfif;
}

/** What a file was meant to be. */
export interface Expected {
  size: Size;
  ppi: number;
  profile: Uint8Array | null;
  /** of a PDF's page */
  boxes?: Boxes;
}

/** As far as numbers on a page may be rounded, in points. */
const BOX_STEP = 0.001;

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
  if (expected.boxes) {
    for (const name of ['media', 'bleed', 'trim'] as const) {
      const [is, should] = [found.boxes?.[name], expected.boxes[name]];
      const off = (side: keyof Rect) => !is || Math.abs(is[side] - should[side]) > BOX_STEP;
      if ((['x', 'y', 'width', 'height'] as const).some(off)) {
        wrong.push(`Its ${name} box is not where it should be.`);
      }
    }
  }
  return wrong;
}

const NOTHING = new Uint8Array(0);
