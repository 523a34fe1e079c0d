import { randomUUID } from 'node:crypto';
import { rename, rm, stat, statfs } from 'node:fs/promises';
import { dirname } from 'node:path';
import sharp, { type Metadata, type Sharp } from 'sharp';
import { FINDINGS_VERSION, type Findings } from '@/core/inspect/findings';
import { formatBytes } from '@/core/measure/format';
import { inspectPixels } from '@/core/inspect/inspect';
import { orientJpeg, readJpegHeader, type JpegFacts } from '@/core/inspect/jpeg';
import { config } from '../config';
import { isDiskFull, Problem } from '../problem';
import { LIMITS, turnFor, type Limits } from '../sandbox/limits';
import { profileSpace, screenTable } from './colour';
import { NeedsTurn, type Decoded, type DecodeTask } from './decoded';
import { READABLE, type InputFormat } from './format';
import { profileName } from './profile';
import { openRaw } from './raw';
import { ppiOf } from './resolution';

/** Longest side that is taken in; JPEG's own limit, and enough for any scan. */
const SIDE_LIMIT = 65_535;

/** What a file says of itself, before its pixels are looked at. */
export type Told = Pick<
  Findings,
  | 'format'
  | 'ppi'
  | 'bitDepth'
  | 'channels'
  | 'alpha'
  | 'profile'
  | 'orientation'
  | 'jpeg'
  | 'notes'
> & { pages: number };

/**
 * Decodes a file of pixels.
 * @param input its path, or its bytes where it came out of another file
 */
export async function decodePixels(
  input: string | Buffer,
  header: Uint8Array,
  format: InputFormat,
  task: DecodeTask,
  { told = {}, limits }: { told?: Partial<Told>; limits?: Limits } = {},
): Promise<Decoded> {
  const { name, page } = task;
  const metadata = await readMetadata(input, name);
  const pages = format === 'tiff' ? (metadata.pages ?? 1) : 1;
  refusePage(page, pages, name);
  const own = pages > 1 ? await readMetadata(input, name, page) : metadata;
  refuseTooLarge(own, format, name);
  refuseUnlessGiven(own, format, limits);

  const depth = own.depth === 'ushort' ? 16 : 8;
  const isRgb = own.space === 'srgb' || own.space === 'rgb16' || own.space === 'rgb';
  await refuseWithoutRoom(own, depth, task);
  const { profile, notes } = await usableProfile(own, isRgb);
  if (format === 'gif' && (metadata.pages ?? 1) > 1) {
    notes.push(`The first of ${metadata.pages} frames is taken.`);
  }
  const open = (failOn: 'truncated' | 'none') => {
    let image = sharp(input, {
      limitInputPixels: false,
      failOn,
      ignoreIcc: isRgb,
      sequentialRead: true,
      page: page - 1,
    }).autoOrient();
    if (!own.hasAlpha) image = image.removeAlpha();
    return image.toColourspace(depth === 16 ? 'rgb16' : 'srgb');
  };
  const whole = await writeRaw(open('truncated'), task.raw);
  const size = whole ?? (await writeRaw(open('none'), task.raw));
  if (!size) throw hopeless(name);
  const damaged = whole ? 0 : await missingShare(task.raw);
  if (damaged > HOPELESS) {
    await rm(task.raw, { force: true });
    throw hopeless(name);
  }
  if (damaged > 0) {
    notes.push(
      `The file is cut off or damaged: about ${Math.max(1, Math.round(damaged * 100))} % of the picture is missing. Ask for it again.`,
    );
  }
  if (task.thumbnail) await writeThumbnail(input, page, task.thumbnail);
  const orientation = own.orientation ?? 1;
  const source = await openRaw(task.raw);
  try {
    const jpeg = format === 'jpeg' ? jpegFacts(header, orientation) : null;
    const begin = (at: number) => ((at % 8) + 8) % 8;
    const grid = jpeg ? { x: begin(jpeg.gridX), y: begin(jpeg.gridY) } : undefined;
    const { findings, maps } = await inspectPixels(source, grid);
    return {
      profile,
      maps,
      findings: {
        version: FINDINGS_VERSION,
        page,
        pages,
        ...size,
        megapixels: (size.width * size.height) / 1e6,
        bytes: (await stat(task.file)).size,
        format,
        ppi: ppiOf(header, format, own),
        bitDepth: depth,
        channels: own.channels ?? 3,
        alpha: own.hasAlpha ?? false,
        profile: own.icc && profileSpace(own.icc) ? profileName(own.icc) : null,
        orientation,
        jpeg,
        damaged,
        vector: null,
        ...findings,
        ...told,
        notes: [...(told.notes ?? []), ...notes],
      },
    };
  } finally {
    await source.close();
  }
}

/** With more than this missing there is nothing to work with. */
const HOPELESS = 0.97;

const hopeless = (name: string): Problem =>
  new Problem(
    'input',
    `${name} is cut off or damaged: its header is there, but next to none of its pixels can be read. Ask for the file again, best in an archive so that it arrives whole.`,
  );

async function readMetadata(input: string | Buffer, name: string, page = 1): Promise<Metadata> {
  try {
    return await sharp(input, { limitInputPixels: false, page: page - 1 }).metadata();
  } catch {
    throw new Problem(
      'input',
      `${name} has a damaged header and can't be read. Ask for the file again, best in an archive so that it arrives whole, as ${READABLE}.`,
    );
  }
}

/** @throws Problem where a file has no such page */
export function refusePage(page: number, pages: number, name: string): void {
  if (page <= pages) return;
  throw new Problem(
    'input',
    pages === 1
      ? `${name} has one page only.`
      : `${name} has ${pages} pages; there is no page ${page}.`,
  );
}

function refuseTooLarge(
  { width, height, isProgressive }: Metadata,
  format: InputFormat,
  name: string,
): void {
  const most = config().picturePixels;
  const held = heldWhole(format, Boolean(isProgressive));
  const limit = Math.min(most, held === 0 ? most : WHOLE_MEMORY / held);
  if (width * height <= limit && Math.max(width, height) <= SIDE_LIMIT) return;
  const whole = limit < most;
  const what = whole ? 'more than is taken in of such a file' : 'more than is taken in';
  const instead = whole ? 'Ask for a TIFF of it, or for' : 'Ask for a smaller file or';
  throw new Problem(
    'input',
    `${name} says it is ${width} x ${height} pixels, ${what} (${Math.floor(limit / 1e6)} megapixels). ${instead} a part of it.`,
  );
}

/** What a process takes that decodes row by row, in bytes. */
const BASE_MEMORY = 130e6;
/** Memory for a file that its decoder can only hold all at once. */
const WHOLE_MEMORY = LIMITS.pixels.heavy.memory - BASE_MEMORY;

/**
 * Bytes a pixel that a decoder holds at once, as measured; 0 where it comes row by row. (Coefficients of a
 * progressive JPEG are 16 bits each.)
 */
function heldWhole(format: InputFormat, progressive: boolean): number {
  if (format === 'avif') return 20;
  if (format === 'webp') return 11;
  if (format === 'gif') return 7;
  if (!progressive) return 0;
  return format === 'png' ? 7 : 7.6;
}

/** Milliseconds of CPU a megapixel, three times what a slow format took on a slow machine. */
const CPU_MS: Partial<Record<InputFormat, number>> = { avif: 600, webp: 300 };
const USUAL_CPU_MS = 60;

/** @throws NeedsTurn where a file needs more than it is given now */
function refuseUnlessGiven(
  { width, height, isProgressive }: Metadata,
  format: InputFormat,
  limits: Limits | undefined,
): void {
  if (!limits) return;
  const megapixels = (width * height) / 1e6;
  const needs = {
    memory: BASE_MEMORY + megapixels * 1e6 * heldWhole(format, Boolean(isProgressive)),
    cpu: megapixels * (CPU_MS[format] ?? USUAL_CPU_MS),
  };
  if (needs.memory <= limits.memory && needs.cpu <= limits.cpu) return;
  throw new NeedsTurn(turnFor('pixels', needs) ?? 'heavy');
}

/** Disk that is left alone, in bytes. */
const SPARED = 500e6;

/** A small file can hold many pixels; decoded they must find room on the disk. */
async function refuseWithoutRoom(
  { width, height, hasAlpha }: Metadata,
  depth: 8 | 16,
  { raw, name }: DecodeTask,
): Promise<void> {
  const needed = (width * height * (hasAlpha ? 4 : 3) * depth) / 8;
  const { bavail, bsize } = await statfs(dirname(raw));
  if (needed + SPARED <= bavail * bsize) return;
  throw new Problem(
    'full',
    `${name} needs ${formatBytes(needed)} on disk to be worked on. ${formatBytes(bavail * bsize)} are free, of which ${formatBytes(SPARED)} are kept back for the shop's records. Nothing was kept; free some space and take it in again.`,
  );
}

const SYSTEMS: Record<string, string> = { cmyk: 'CMYK', 'b-w': 'Grey', grey16: 'Grey', lab: 'Lab' };

/** The profile that goes on to the output, and what happens to colours, in sentences. */
async function usableProfile(
  { icc, space }: Metadata,
  isRgb: boolean,
): Promise<{ profile: Buffer | null; notes: string[] }> {
  const broken = 'Its colour profile is broken and was set aside';
  if (isRgb) {
    if (!icc) return { profile: null, notes: ['No colour profile: taken as sRGB.'] };
    const usable = (await screenTable(icc)) !== null;
    return usable
      ? { profile: icc, notes: [] }
      : { profile: null, notes: [`${broken}: taken as sRGB.`] };
  }
  const system = SYSTEMS[space ?? ''] ?? space ?? 'Its colour';
  if (icc && profileSpace(icc)) {
    return { profile: null, notes: [`${system} became sRGB through its own profile.`] };
  }
  const how = system === 'CMYK' ? ' through a general one' : '';
  return {
    profile: null,
    notes: [
      icc
        ? `${broken}: ${system} became sRGB${how}.`
        : system === 'CMYK'
          ? 'CMYK without a profile became sRGB through a general one.'
          : `${system} became sRGB.`,
    ],
  };
}

/**
 * Decodes into libvips' own file form: a 64-byte header, then the samples, interleaved. Null where
 * the pixels can't be read whole.
 */
async function writeRaw(image: Sharp, raw: string) {
  // Two processes may come to decode the same page.
  const part = `${raw}.${randomUUID()}.part.v`;
  try {
    const { width, height } = await image.toFile(part);
    await rename(part, raw);
    return { width, height };
  } catch (error) {
    await rm(part, { force: true });
    if (isDiskFull(error)) throw error;
    return null;
  }
}

/** The share of rows at the end that hold nothing but what a decoder fills in. */
async function missingShare(raw: string): Promise<number> {
  const source = await openRaw(raw);
  const { width, height } = source.size;
  try {
    let rows = 0;
    const last = await source.samples({ x: 0, y: height - 1, width, height: 1 });
    for (let y = height - 1; y >= 0; y--, rows++) {
      const row = await source.samples({ x: 0, y, width, height: 1 });
      if (!row.equals(last)) break;
    }
    return Math.min(1, Math.max(0.01, rows / height));
  } finally {
    await source.close();
  }
}

/** Longest side of a thumbnail, in pixels. */
const THUMBNAIL = 264;

/** A small upright picture for the board, in sRGB. */
export async function writeThumbnail(
  input: string | Buffer,
  page: number,
  path: string,
): Promise<void> {
  const part = `${path}.${randomUUID()}.part`;
  try {
    await sharp(input, { limitInputPixels: false, failOn: 'none', page: page - 1 })
      .autoOrient()
      .resize(THUMBNAIL, THUMBNAIL, { fit: 'inside', withoutEnlargement: true })
      .png()
      .toFile(part);
    await rename(part, path);
  } catch (error) {
    await rm(part, { force: true });
    throw error;
  }
}

function jpegFacts(header: Uint8Array, orientation: number): JpegFacts | null {
  const read = readJpegHeader(header);
  return read?.facts ? orientJpeg(read.facts, orientation, read.width, read.height) : null;
}
