import { rm, stat } from 'node:fs/promises';
import sharp, { type Metadata } from 'sharp';
import type { z } from 'zod';
import { tracedBack } from '@/core/evidence/traced-back';
import { Findings, FINDINGS_VERSION, type Maps } from '@/core/inspect/findings';
import { knownEnlarged } from '@/core/inspect/history';
import { inspectPixels } from '@/core/inspect/inspect';
import { coarserTables } from '@/core/inspect/jpeg-quality';
import { orientJpeg, readJpegHeader, type JpegFacts } from '@/core/inspect/jpeg';
import type { SampleSource } from '@/core/raster/source';
import { Problem } from '../problem';
import type { Limits } from '../sandbox/limits';
import { profileSpace, screenTable } from './colour';
import type { Decoded, DecodeTask } from './decoded';
import { extraSamples, type ExtraSamples } from './extra-samples';
import { facesOfPixels } from './faces';
import { READABLE, type InputFormat } from './format';
import { historyOfPixels } from './history';
import { refuseSamples, refuseTooLarge, refuseUnlessGiven, refuseWithoutRoom } from './needs';
import { profileName } from './profile';
import { openRaw } from './raw';
import { ppiOf } from './resolution';
import { writeThumbnail } from './thumbnail';
import { missingShare, strengthsOf, writeJoined, writeRaw } from './write-raw';

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
  refuseTooLarge(own, format, task);
  refuseUnlessGiven(own, format, limits);

  refuseSamples(own, name);
  const depth = own.depth === 'ushort' ? 16 : 8;
  const extra: ExtraSamples =
    format === 'tiff' && typeof input === 'string'
      ? await extraSamples(input, page, own)
      : { alpha: own.hasAlpha ? 0 : null, others: 0 };
  const alpha = extra.alpha !== null;
  const isRgb = own.space === 'srgb' || own.space === 'rgb16' || own.space === 'rgb';
  await refuseWithoutRoom({ ...own, hasAlpha: alpha }, depth, task);
  const { profile, notes } = await usableProfile(own, isRgb);
  if (format === 'gif' && (metadata.pages ?? 1) > 1) {
    notes.push(`The first of ${metadata.pages} frames is taken.`);
  }
  if (extra.others > 0) {
    notes.push(
      `${extra.others === 1 ? 'One channel' : `${extra.others} channels`} beside its colours${alpha ? ' and transparency' : ''}, such as a spot colour, ${extra.others === 1 ? 'was' : 'were'} left out.`,
    );
  }
  const open = (failOn: 'truncated' | 'none') => {
    let image = sharp(input, {
      limitInputPixels: false,
      failOn,
      ignoreIcc: isRgb,
      sequentialRead: true,
      page: page - 1,
    }).autoOrient();
    if (!alpha || extra.others > 0) image = image.removeAlpha();
    return image.toColourspace(depth === 16 ? 'rgb16' : 'srgb');
  };
  const pixels = (failOn: 'truncated' | 'none') =>
    alpha && extra.others > 0
      ? writeJoined(open(failOn), strengthsOf(input, page, extra.alpha!, depth), task.raw)
      : writeRaw(open(failOn), task.raw);
  const whole = await pixels('truncated');
  const size = whole ?? (await pixels('none'));
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
    const { found, maps } = task.pixelsOnly ? NOTHING_FOUND : await lookAt(source, jpeg);
    return {
      profile,
      maps,
      findings: Findings.parse({
        version: FINDINGS_VERSION,
        page,
        pages,
        ...size,
        megapixels: (size.width * size.height) / 1e6,
        bytes: (await stat(task.file)).size,
        format,
        ppi: ppiOf(header, format, own),
        bitDepth: depth,
        channels: (own.channels ?? 3) - extra.others,
        alpha,
        profile: own.icc && profileSpace(own.icc) ? profileName(own.icc) : null,
        orientation,
        jpeg,
        damaged,
        vector: null,
        ...found,
        ...told,
        notes: [...(told.notes ?? []), ...notes],
      } satisfies z.input<typeof Findings>),
    };
  } finally {
    await source.close();
  }
}

/** What is found of a picture beyond what its file says. */
interface Found {
  found: Partial<z.input<typeof Findings>> & Pick<Findings, 'blocking'>;
  maps: Maps | null;
}

/** Of a picture that nobody looks at. */
const NOTHING_FOUND: Found = {
  found: { blocking: { ratio: 1, strength: 0, offsetX: 0, offsetY: 0 } },
  maps: null,
};

/** What a picture suffers from, and happened to it. */
async function lookAt(source: SampleSource, jpeg: JpegFacts | null): Promise<Found> {
  const { findings, maps } = await inspectPixels(source, jpeg);
  const { kind, compressedBefore } = findings;
  const coarser = jpeg && compressedBefore && coarserTables(jpeg, compressedBefore.quality);
  const measured = await historyOfPixels(source, kind, coarser ?? jpeg);
  const history = measured && knownEnlarged(measured, findings.enlarged);
  const faces = await facesOfPixels(source, kind);
  return {
    found: { ...findings, history, faces, tracedBack: await tracedBack(source, kind) },
    maps,
  };
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
  } catch (error) {
    if (/lab/i.test(String(error))) {
      throw new Problem(
        'input',
        `${name} is in Lab colours, in a form that is not read. Ask for it in RGB, as ${READABLE}.`,
      );
    }
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

function jpegFacts(header: Uint8Array, orientation: number): JpegFacts | null {
  const read = readJpegHeader(header);
  return read?.facts ? orientJpeg(read.facts, orientation, read.width, read.height) : null;
}
