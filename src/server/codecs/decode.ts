import { open, rename, rm, stat } from 'node:fs/promises';
import sharp, { type Metadata, type Sharp } from 'sharp';
import type { Findings } from '@/core/inspect/findings';
import { orientJpeg, readJpegHeader, type JpegFacts } from '@/core/inspect/jpeg';
import { measureBlocking } from '@/core/inspect/blocking';
import { luminance } from '@/core/raster/colour';
import { config } from '../config';
import { errorCode, Problem } from '../problem';
import { formatOf, type InputFormat } from './format';
import { profileName } from './profile';
import { openRaw } from './raw';

/** Enough of a file to hold its header with embedded profiles and previews. */
const HEADER_BYTES = 4 << 20;
/** Longest side that is taken in; JPEG's own limit, and enough for any scan. */
const SIDE_LIMIT = 65_535;

/** An original that was decoded to raw pixels. */
export interface Decoded {
  findings: Findings;
  /** the embedded RGB profile, carried to the output untouched; null where there is none */
  profile: Buffer | null;
}

/**
 * Reads a picture file and leaves its pixels, upright and in RGB, in the file `raw`.
 * RGB stays in its own profile; other colour systems become sRGB, and the findings say so.
 * @param name what to call the file in sentences
 * @throws Problem where the file can't be used
 */
export async function decode(file: string, name: string, raw: string): Promise<Decoded> {
  const header = await readHeader(file, name);
  const format = formatOf(header, name);
  const metadata = await readMetadata(file, name);
  refuseTooLarge(metadata, name);

  const notes: string[] = [];
  const depth = metadata.depth === 'ushort' ? 16 : 8;
  const isRgb = metadata.space === 'srgb' || metadata.space === 'rgb16' || metadata.space === 'rgb';
  let image = sharp(file, {
    limitInputPixels: false,
    failOn: 'truncated',
    ignoreIcc: isRgb,
    sequentialRead: true,
  });
  image = image.autoOrient();
  if (metadata.hasAlpha) {
    image = image.flatten({ background: '#ffffff' });
    notes.push('Transparent parts are laid on white.');
  }
  image = image.toColourspace(depth === 16 ? 'rgb16' : 'srgb');
  notes.push(...colourNotes(metadata, isRgb));

  const size = await writeRaw(image, raw, name);
  const orientation = metadata.orientation ?? 1;
  const jpeg = format === 'jpeg' ? jpegFacts(header, orientation) : null;
  const { size: bytes } = await stat(file);
  return {
    profile: isRgb ? (metadata.icc ?? null) : null,
    findings: {
      ...size,
      megapixels: (size.width * size.height) / 1e6,
      bytes,
      format,
      ppi: ppiOf(header, format, metadata),
      bitDepth: depth,
      channels: metadata.channels ?? 3,
      alpha: metadata.hasAlpha ?? false,
      profile: metadata.icc ? profileName(metadata.icc) : null,
      orientation,
      jpeg,
      blocking: await blockingOf(raw, jpeg),
      notes,
    },
  };
}

async function readHeader(file: string, name: string): Promise<Uint8Array> {
  const handle = await open(file, 'r').catch((error: unknown) => {
    throw errorCode(error) === 'ENOENT'
      ? new Problem('input', `There is no file ${name}.`)
      : new Problem('input', `${name} can't be opened for reading.`);
  });
  try {
    const buffer = Buffer.alloc(Math.min(HEADER_BYTES, (await handle.stat()).size));
    await handle.read(buffer, 0, buffer.length, 0);
    return buffer;
  } catch (error) {
    if (errorCode(error) === 'EISDIR')
      throw new Problem('input', `${name} is a folder, not a file.`);
    throw error;
  } finally {
    await handle.close();
  }
}

async function readMetadata(file: string, name: string): Promise<Metadata> {
  try {
    return await sharp(file, { limitInputPixels: false }).metadata();
  } catch {
    throw new Problem(
      'input',
      `${name} has a damaged header and can't be read. Ask for the file again, best in an archive so that it arrives whole.`,
    );
  }
}

function refuseTooLarge({ width, height }: Metadata, name: string): void {
  const limit = config().picturePixels;
  if (width * height <= limit && Math.max(width, height) <= SIDE_LIMIT) return;
  throw new Problem(
    'input',
    `${name} says it is ${width} x ${height} pixels, more than is taken in (${limit / 1e6} megapixels). Ask for a smaller file or a part of it.`,
  );
}

function colourNotes(metadata: Metadata, isRgb: boolean): string[] {
  if (isRgb) return metadata.icc ? [] : ['No colour profile: taken as sRGB.'];
  const system =
    metadata.space === 'cmyk'
      ? 'CMYK'
      : metadata.space === 'b-w' || metadata.space === 'grey16'
        ? 'Grey'
        : metadata.space;
  return [
    metadata.icc || system !== 'CMYK'
      ? `${system} became sRGB.`
      : 'CMYK without a profile became sRGB through a general one.',
  ];
}

/** Decodes into libvips' own file form: a 64-byte header, then the samples, interleaved. */
async function writeRaw(image: Sharp, raw: string, name: string) {
  const part = `${raw}.part.v`;
  try {
    const { width, height } = await image.toFile(part);
    await rename(part, raw);
    return { width, height };
  } catch (error) {
    await rm(part, { force: true });
    if (/ENOSPC|no space left/i.test(String(error))) throw error;
    throw new Problem(
      'input',
      `${name} is cut off or damaged: its header is there, but not all of its pixels. Ask for the file again.`,
    );
  }
}

function jpegFacts(header: Uint8Array, orientation: number): JpegFacts | null {
  const read = readJpegHeader(header);
  return read?.facts ? orientJpeg(read.facts, orientation, read.width, read.height) : null;
}

/** The resolution tag as the file carries it; a missing one is missing, whatever a library assumes. */
function ppiOf(
  header: Uint8Array,
  format: InputFormat,
  metadata: Metadata,
): { x: number; y: number } | null {
  const bytes = Buffer.from(header.buffer, header.byteOffset, header.length);
  if (format === 'png') {
    const at = bytes.indexOf('pHYs');
    if (at < 0 || bytes[at + 12] !== 1) return null;
    return { x: bytes.readUInt32BE(at + 4) * 0.0254, y: bytes.readUInt32BE(at + 8) * 0.0254 };
  }
  const jfif = bytes.indexOf('JFIF\0');
  const unit = jfif === 6 ? bytes[jfif + 7] : 0;
  if (unit === 1 || unit === 2) {
    const scale = unit === 1 ? 1 : 2.54;
    const ppi = {
      x: bytes.readUInt16BE(jfif + 8) * scale,
      y: bytes.readUInt16BE(jfif + 10) * scale,
    };
    return ppi.x > 1 && ppi.y > 1 ? ppi : null;
  }
  const exif = metadata.exif && metadata.density ? metadata.density : null;
  return exif ? { x: exif, y: exif } : null;
}

/** Blocking on the middle of the picture, at most about a megapixel of it. */
async function blockingOf(raw: string, jpeg: JpegFacts | null) {
  const source = await openRaw(raw);
  try {
    const width = Math.min(1024, source.size.width);
    const height = Math.min(1024, source.size.height);
    const x = (source.size.width - width) >> 1;
    const y = (source.size.height - height) >> 1;
    const raster = await source.read({ x, y, width, height });
    return measureBlocking(
      luminance(raster),
      { width, height },
      (jpeg?.gridX ?? 0) - x,
      (jpeg?.gridY ?? 0) - y,
    );
  } finally {
    await source.close();
  }
}
