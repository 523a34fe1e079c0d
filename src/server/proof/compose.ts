import { MM_PER_INCH } from '@/core/measure/units';
import { BLACK, Canvas } from '@/core/output/canvas';
import { layColours, layLines, layStar, LINES, solidsOf, wedgesOf } from '@/core/output/patches';
import { SETTING_LINE, type ProofSheet } from '@/core/output/proof-sheet';
import type { Rect } from '@/core/frame/framing';
import type { DeviceSpace } from '@/core/colour/space';
import type { Region, Size } from '@/core/raster/region';
import type { ProofWords } from '@/core/shop/proof';
import { lineMask } from './line-mask';

/** A result whose parts a proof shows: the samples of its file, 8 bits each, in the proof's colours. */
export interface ProofPicture {
  size: Size;
  ppi: number;
  samples(region: Region): Promise<Uint8Array>;
}

/** Heights of letters, in millimetres. */
const LARGE = 3.6;
const SMALL = 2.3;

/** A proof at the resolution of its print. */
export async function composeProof(
  sheet: Extract<ProofSheet, { ok: true }>,
  words: ProofWords,
  { pictures, space, ppi }: { pictures: readonly ProofPicture[]; space: DeviceSpace; ppi: number },
  onProgress: (share: number) => Promise<void> = async () => {},
): Promise<Canvas> {
  const pixels = (mm: number) => Math.round((mm / MM_PER_INCH) * ppi);
  const canvas = new Canvas({ width: pixels(sheet.width), height: pixels(sheet.height) }, space);
  const line = async (text: string, x: number, y: number, size: number, length: number) => {
    const mask = await lineMask(text, pixels(size), pixels(length));
    if (mask) canvas.cover(mask.mask, mask, pixels(x), pixels(y), BLACK[space]);
  };
  const { heading, foot } = sheet;
  await line(words.heading, heading.x, heading.y, LARGE, heading.width);
  await line(words.print, heading.x, heading.y + 5.4, SMALL, heading.width);
  for (const [i, { stop, trial, at, words: below }] of sheet.pictures.entries()) {
    await layPicture(canvas, pictures[trial]!, words.stops[stop]!, at, { pixels, ppi });
    const { title } = words.stops[stop]!;
    const name = words.trials[trial]!.name;
    await line(`${stop + 1}  ${title} · ${name}`, below.x, below.y, SMALL, below.width);
    await onProgress((i + 1) / sheet.pictures.length);
  }
  for (const { trial, at } of sheet.settings) {
    const { name, settings } = words.trials[trial]!;
    for (const [i, text] of [name, ...settings].entries()) {
      if ((i + 1) * SETTING_LINE > at.height + 0.01) break;
      await line(text, at.x, at.y + i * SETTING_LINE, SMALL, at.width);
    }
  }
  await layFoot(canvas, foot, pixels, line);
  return canvas;
}

/** Lays a part of a picture about a place, pixel for pixel where it has the proof's own resolution. */
async function layPicture(
  canvas: Canvas,
  picture: ProofPicture,
  about: { x: number; y: number },
  at: Rect,
  { pixels, ppi }: { pixels(mm: number): number; ppi: number },
): Promise<void> {
  const scale = picture.ppi / ppi;
  const across = span(about.x, picture.size.width, pixels(at.width) * scale);
  const down = span(about.y, picture.size.height, pixels(at.height) * scale);
  const region = { x: across.first, y: down.first, width: across.count, height: down.count };
  const samples = await picture.samples(region);
  const size = { width: Math.round(across.count / scale), height: Math.round(down.count / scale) };
  const laid = scale === 1 ? samples : repeated(samples, region, size, canvas.channels);
  canvas.put(laid, size, pixels(at.x), pixels(at.y));
}

/** The whole pixels of a part about a place, moved onto the picture near its rim. */
function span(share: number, side: number, length: number): { first: number; count: number } {
  const count = Math.min(side, Math.max(1, Math.round(length)));
  const first = Math.round(share * side - count / 2);
  return { first: Math.min(side - count, Math.max(0, first)), count };
}

/** A picture of another resolution, each of the new pixels one of its own. */
function repeated(samples: Uint8Array, from: Size, to: Size, channels: number): Uint8Array {
  const result = new Uint8Array(to.width * to.height * channels);
  for (let y = 0, at = 0; y < to.height; y++) {
    const row = Math.floor(((y + 0.5) * from.height) / to.height) * from.width;
    for (let x = 0; x < to.width; x++) {
      const pixel = (row + Math.floor(((x + 0.5) * from.width) / to.width)) * channels;
      for (let c = 0; c < channels; c++) result[at++] = samples[pixel + c]!;
    }
  }
  return result;
}

/** Millimetres: a wedge, a patch of lines, the star, and the scale whose length is measured on the print. */
const WEDGE = { width: 100, height: 5 };
const PATCH = 9;
const STAR = 16;
const SCALE = 100;
const BETWEEN = 2;

type Line = (text: string, x: number, y: number, size: number, length: number) => Promise<void>;

/** Wedges, full colours, a scale; and lines and a star that say how fine the print is. */
async function layFoot(
  canvas: Canvas,
  foot: Rect,
  pixels: (mm: number) => number,
  line: Line,
): Promise<void> {
  const onCanvas = ({ x, y, width, height }: Rect): Region => ({
    ...{ x: pixels(x), y: pixels(y), width: pixels(width), height: pixels(height) },
  });
  const { space } = canvas;
  const rows = [...wedgesOf(space), solidsOf(space)].filter((row) => row.length > 0);
  for (const [i, row] of rows.entries()) {
    const y = foot.y + i * (WEDGE.height + 0.8);
    layColours(canvas, row, onCanvas({ x: foot.x, y, ...WEDGE }));
  }
  const ruler = foot.y + foot.height - 6;
  const ink = BLACK[space];
  const hair = Math.max(1, pixels(0.15));
  canvas.fill({ ...onCanvas({ x: foot.x, y: ruler, width: SCALE, height: 0 }), height: hair }, ink);
  for (let mm = 0; mm <= SCALE; mm += 10) {
    const long = mm % 50 === 0 ? 2 : 1.2;
    const tick = onCanvas({ x: foot.x + mm, y: ruler - long, width: 0, height: long });
    canvas.fill({ ...tick, width: hair }, ink);
  }
  const measure = `As large as the print: printed at 100 % this line is ${SCALE} mm long.`;
  await line(measure, foot.x, ruler + 1, SMALL, SCALE);
  const right = foot.x + WEDGE.width + 2 * BETWEEN;
  for (const [i, pixel] of LINES.entries()) {
    const x = right + i * (PATCH + BETWEEN);
    layLines(canvas, pixel, onCanvas({ x, y: foot.y, width: PATCH, height: PATCH }));
    await line(`${pixel} px`, x, foot.y + PATCH + 0.4, SMALL, PATCH);
  }
  const x = right + LINES.length * (PATCH + BETWEEN);
  layStar(canvas, onCanvas({ x, y: foot.y, width: STAR, height: STAR }));
}
