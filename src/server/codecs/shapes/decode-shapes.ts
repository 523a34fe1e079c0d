import sharp from 'sharp';
import { FINDINGS_VERSION } from '@/core/inspect/findings';
import { inspectPixels } from '@/core/inspect/inspect';
import type { Size } from '@/core/raster/region';
import { fromSamples } from '@/core/raster/samples';
import { cut } from '@/core/raster/raster';
import { Problem } from '../../problem';
import type { Decoded, DecodeTask } from '../decoded';
import { decodePixels, refusePage } from '../decode-pixels';
import { writeThumbnail } from '../thumbnail';
import type { PlacedPicture } from '@/core/placed/placed';
import { toNominal } from './nominal';
import { shapesOfPdf, shapesOfSvg, type Shapes } from './open-shapes';
import { openPdf, type StoredPicture } from './pdf';
import { asTiff } from './take-out';
import { readSvg, SIDE_POINTS } from './svg';

/** Longest side of the drawing that a page of shapes is looked at by. */
const LOOK_SIDE = 1400;
/** Most pages of a document that can be chosen from. */
const PAGE_LIMIT = 10_000;

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
    const only = page.alone ? pdf.picture(task.page, 1) : null;
    // One with a mask is more than its samples.
    if (only && only.channels !== 4) {
      return await onlyPicture(only, page.pictures[0]!, pdf.pages, task);
    }
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
  picture: StoredPicture,
  placed: PlacedPicture,
  pages: number,
  task: DecodeTask,
): Promise<Decoded> {
  const { jpeg } = picture;
  const bytes = jpeg ? Buffer.from(jpeg) : await asTiff(picture);
  return decodePixels(
    bytes,
    bytes,
    jpeg ? 'jpeg' : 'tiff',
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

async function drawnPage(
  shapes: Shapes,
  pictures: PlacedPicture[],
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
      textured: 0,
      ringing: 0,
      fringes: 0,
      grid: null,
      damaged: 0,
      vector: { widthPt: width, heightPt: height, pictures },
      notes,
    },
  };
}
