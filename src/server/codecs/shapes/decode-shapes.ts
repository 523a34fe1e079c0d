import { readFile } from 'node:fs/promises';
import sharp from 'sharp';
import { FINDINGS_VERSION, type Findings } from '@/core/inspect/findings';
import { inspectPixels } from '@/core/inspect/inspect';
import type { Rect } from '@/core/frame/framing';
import type { Size } from '@/core/raster/region';
import { fromSamples } from '@/core/raster/samples';
import { cut } from '@/core/raster/raster';
import { Problem } from '../../problem';
import type { Decoded, DecodeTask } from '../decoded';
import { decodePixels, refusePage } from '../decode-pixels';
import { writeThumbnail } from '../thumbnail';
import { openPdf, type OnePicture, type Pdf, type PdfPage } from './pdf';
import { drawSvg, readSvg, SIDE_POINTS, type Svg } from './svg';

/** Nominal pixels a point: parts of a page are named in hundredths of points, as files hold them. */
const NOMINAL = 100;
/** Longest side of the drawing that a page of shapes is looked at by. */
const LOOK_SIDE = 1400;
/** Most pages of a document that can be chosen from. */
const PAGE_LIMIT = 10_000;

/** A page of shapes that can be drawn at any size. */
export interface Shapes {
  /** in points */
  size: Size;
  pages: number;
  /** draws a part of the page, in points from its upper left corner, to RGBA samples */
  draw(part: Rect, size: Size): Promise<Buffer>;
}

/** The documents last drawn from, since a page is asked for piece by piece. */
const opened = new Map<string, { svg: Svg } | { pdf: Pdf }>();
const OPENED = 2;

/** Opens a file of shapes by its path; the last two stay open. */
export async function openShapes(file: string, name: string, page: number): Promise<Shapes> {
  let known = opened.get(file);
  opened.delete(file);
  if (!known) {
    const bytes = await readFile(file);
    known = isPdf(bytes)
      ? { pdf: await openPdf(bytes, name) }
      : { svg: await readSvg(bytes, name) };
  }
  opened.set(file, known);
  for (const [oldest, document] of opened) {
    if (opened.size <= OPENED) break;
    opened.delete(oldest);
    if ('pdf' in document) document.pdf.close();
  }
  if ('svg' in known) return shapesOfSvg(known.svg, name);
  refusePage(page, known.pdf.pages, name);
  return shapesOfPdf(known.pdf, known.pdf.page(page).size, page);
}

const isPdf = (bytes: Buffer): boolean => bytes.subarray(0, 1024).includes('%PDF-');

/** CSS pixels a point. */
const CSS = 96 / 72;

function shapesOfSvg(svg: Svg, name: string): Shapes {
  return {
    size: { width: svg.size.width / CSS, height: svg.size.height / CSS },
    pages: 1,
    draw: async ({ x, y, width, height }, size) => {
      const part = { x: x * CSS, y: y * CSS, width: width * CSS, height: height * CSS };
      try {
        return await drawSvg(svg, part, size);
      } catch {
        throw new Problem(
          'input',
          `${name} can't be drawn: something in it is damaged or never ends. Ask for it saved again, or as PDF.`,
        );
      }
    },
  };
}

const shapesOfPdf = (pdf: Pdf, size: Size, page: number): Shapes => ({
  size,
  pages: pdf.pages,
  draw: (part, pixels) => Promise.resolve(pdf.draw(page, part, pixels)),
});

/** A nominal grid's pixels to points of a page; the whole grid covers the whole page exactly. */
export function toPoints({ x, y, width, height }: Rect, page: Size): Rect {
  const nominal = toNominal(page);
  const across = page.width / nominal.width;
  const down = page.height / nominal.height;
  return { x: x * across, y: y * down, width: width * across, height: height * down };
}

/** Size of the nominal grid of a page. */
export const toNominal = ({ width, height }: Size): Size => ({
  width: Math.max(1, Math.round(width * NOMINAL)),
  height: Math.max(1, Math.round(height * NOMINAL)),
});

/**
 * Takes in a page of shapes. Where a PDF's page is nothing but one picture, that picture itself is
 * taken, untouched.
 */
export async function decodeShapes(
  bytes: Buffer,
  format: 'svg' | 'pdf',
  task: DecodeTask,
): Promise<Decoded> {
  if (format === 'svg') {
    refusePage(task.page, 1, task.name);
    const svg = await readSvg(bytes, task.name);
    const notes = ['No colour profile: drawn in sRGB.'];
    if (svg.text) notes.push('It holds text: fonts that this machine has not are replaced.');
    return drawnPage(shapesOfSvg(svg, task.name), svg.pictures, format, bytes.length, task, notes);
  }
  const pdf = await openPdf(bytes, task.name);
  try {
    if (pdf.pages > PAGE_LIMIT) {
      throw new Problem(
        'input',
        `${task.name} has ${pdf.pages} pages, more than can be chosen from. Ask for the page alone.`,
      );
    }
    refusePage(task.page, pdf.pages, task.name);
    const page = pdf.page(task.page);
    refuseSize(page.size, task.name);
    if (page.only) return await onlyPicture(page.only, pdf.pages, task);
    const shapes = shapesOfPdf(pdf, page.size, task.page);
    return await drawnPage(shapes, page.pictures, format, bytes.length, task, ['Drawn in sRGB.']);
  } finally {
    pdf.close();
  }
}

function refuseSize({ width, height }: Size, name: string): void {
  if (width > 0 && height > 0 && Math.max(width, height) <= SIDE_POINTS) return;
  throw new Problem(
    'input',
    `${name} has a page of ${width} x ${height} points, which can't be drawn. Ask for it with its real size.`,
  );
}

async function onlyPicture(
  { picture, placed }: NonNullable<PdfPage['only']>,
  pages: number,
  task: DecodeTask,
): Promise<Decoded> {
  const bytes = picture.as === 'jpeg' ? Buffer.from(picture.bytes) : await asTiff(picture);
  return decodePixels(
    bytes,
    bytes,
    picture.as === 'jpeg' ? 'jpeg' : 'tiff',
    { ...task, page: 1 },
    {
      told: {
        format: 'pdf',
        pages,
        ppi: {
          x: (placed.width * 72) / placed.widthPt,
          y: (placed.height * 72) / placed.heightPt,
        },
        notes: ['The page holds one picture and nothing else: the picture itself was taken out.'],
      },
    },
  ).then((decoded) => ({
    ...decoded,
    findings: { ...decoded.findings, page: task.page },
  }));
}

const asTiff = ({ size, channels, samples }: Extract<OnePicture, { as: 'samples' }>) =>
  sharp(samples, { raw: { ...size, channels }, limitInputPixels: false })
    .tiff({ compression: 'none' })
    .toBuffer();

async function drawnPage(
  shapes: Shapes,
  pictures: NonNullable<Findings['vector']>['pictures'],
  format: 'svg' | 'pdf',
  bytes: number,
  task: DecodeTask,
  notes: string[],
): Promise<Decoded> {
  const { width, height } = shapes.size;
  const scale = LOOK_SIDE / Math.max(width, height);
  const size = {
    width: Math.max(1, Math.round(width * scale)),
    height: Math.max(1, Math.round(height * scale)),
  };
  const samples = await shapes.draw({ x: 0, y: 0, width, height }, size);
  if (task.thumbnail) {
    const png = await sharp(samples, { raw: { ...size, channels: 4 } })
      .png()
      .toBuffer();
    await writeThumbnail(png, 1, task.thumbnail);
  }
  const raster = fromSamples(samples, size.width, size.height, 4, 8);
  const look = await inspectPixels({
    size,
    read: (region) => Promise.resolve(cut({ region: { x: 0, y: 0, ...size }, raster }, region)),
  });
  const alpha = format === 'svg' && raster.planes[3]!.some((value) => value < 1);
  return {
    profile: null,
    maps: null,
    findings: {
      ...look.findings,
      version: FINDINGS_VERSION,
      page: task.page,
      pages: shapes.pages,
      ...toNominal(shapes.size),
      megapixels: 0,
      bytes,
      format,
      ppi: null,
      bitDepth: 8,
      channels: alpha ? 4 : 3,
      alpha,
      profile: null,
      orientation: 1,
      jpeg: null,
      history: null,
      faces: [],
      enlarged: null,
      tracedBack: null,
      blur: null,
      blocking: { ratio: 1, strength: 0, offsetX: 0, offsetY: 0 },
      noise: { luma: 0, colour: 0 },
      detail: null,
      banding: 0,
      ringing: 0,
      fringes: 0,
      grid: null,
      damaged: 0,
      vector: { widthPt: width, heightPt: height, pictures },
      notes,
    },
  };
}
