import { open, type FileHandle } from 'node:fs/promises';
import sharp from 'sharp';
import type { Transform } from '@/core/colour/engine';
import { COLOURS, type DeviceSpace } from '@/core/colour/space';
import { INKS, type Ink } from '@/core/device/protocol';
import { MM_PER_INCH } from '@/core/measure/units';
import { formatOfName, type Format } from '@/core/output/formats';
import type { Size } from '@/core/raster/region';
import { fromSamples, samplesIn, toSamples } from '@/core/raster/samples';
import { formOf } from '@/core/colour/form';
import { levelSize } from '@/core/raster/tiles';
import { rawHeader, writeRawRows } from '@/server/codecs/raw';
import { readDescription } from '@/server/output/described';
import { pdfRows, readPdf } from '@/server/output/pdf-read';
import { decodedRows, tiffRows } from '@/server/output/pixels';
import { RowMeans } from '@/server/output/row-means';
import type { ReadRow, SampleForm } from '@/server/output/samples';
import type { Inks } from './inks';
import { Refused } from './machine';
import type { PageRead } from './memory';
import type { Model } from './models';

/** A page is kept halved so many times too, to be looked at from afar. */
export const FAR_LEVEL = 3;

/** Where the ink of a page lies on the disk: what is printed, and an eighth of it. */
export interface PageFiles {
  near: string;
  far: string;
}

interface Page {
  form: SampleForm;
  ppi: { x: number; y: number };
  profile: Uint8Array | null;
  rows(): AsyncIterable<ReadRow>;
}

/**
 * Reads a file as a device does: brings each page to what the device resolves, and its colours to amounts of ink.
 * @param fileName says its format by its ending
 * @throws Refused where it can't be printed from
 */
export async function readFileFor(
  { ppi, screen }: Model,
  inks: Inks,
  file: { path: string; fileName: string },
  filesOf: (page: number) => PageFiles,
): Promise<PageRead[]> {
  const pages = await pagesOf(file.path, formatOfName(file.fileName), file.fileName);
  const read: PageRead[] = [];
  for (const [i, page] of pages.entries()) {
    const { size } = page.form;
    const width = (size.width / page.ppi.x) * MM_PER_INCH;
    const height = (size.height / page.ppi.y) * MM_PER_INCH;
    const resolved = {
      width: Math.max(1, Math.round(size.width * Math.min(1, ppi / page.ppi.x))),
      height: Math.max(1, Math.round(size.height * Math.min(1, ppi / page.ppi.y))),
    };
    const toInk = await inks.from(page.form.space, page.profile);
    const coverage = await keepInk(page, resolved, toInk, filesOf(i + 1));
    const dots = (mm: number) => Math.max(1, Math.round((mm / MM_PER_INCH) * screen.dpi));
    read.push({ width, height, coverage, dots: { width: dots(width), height: dots(height) } });
  }
  return read;
}

/** Others get their turn after so many rows. */
const PAUSE_ROWS = 16;

/** Writes the ink of a page, and returns the mean amount of each. */
async function keepInk(
  { form, rows }: Page,
  resolved: Size,
  toInk: Transform | null,
  files: PageFiles,
): Promise<Record<Ink, number>> {
  const far = levelSize(resolved, FAR_LEVEL);
  const inked: SampleForm = { size: resolved, depth: 8, channels: INKS.length, space: 'cmyk' };
  const sums = new Float64Array(INKS.length);
  const [near, small] = [await open(files.near, 'w'), await open(files.far, 'w')];
  const means = new RowMeans(form, resolved);
  const farther = new RowMeans(inked, far);
  const put = (to: FileHandle, one: ReadRow | null) =>
    one && writeRawRows(to, one.row, one.y, one.row.length);
  const take = (one: ReadRow | null) => {
    if (!one) return;
    const row = inkOf(one.row, form, resolved.width, toInk);
    for (let i = 0; i < row.length; i++) sums[i % INKS.length]! += row[i]!;
    put(near, { y: one.y, row });
    put(small, farther.add({ y: one.y, row }));
  };
  try {
    await near.write(rawHeader(resolved, INKS.length, 8), 0);
    await small.write(rawHeader(far, INKS.length, 8), 0);
    let passed = 0;
    for await (const one of rows()) {
      take(means.add(one));
      // Rows come without a pause; whoever asks how it stands is to be answered.
      if (++passed % PAUSE_ROWS === 0) await new Promise((resolve) => setImmediate(resolve));
    }
    take(means.end());
    put(small, farther.end());
  } finally {
    await Promise.all([near.close(), small.close()]);
  }
  const most = 255 * resolved.width * resolved.height;
  return Object.fromEntries(INKS.map((ink, i) => [ink, sums[i]! / most])) as Record<Ink, number>;
}

/** A row's amounts of ink, 8 bits each; what is transparent stays bare. */
function inkOf(
  row: Uint8Array,
  { channels, depth, space }: SampleForm,
  width: number,
  toInk: Transform | null,
): Uint8Array {
  const colours = COLOURS[space];
  const planes = fromSamples(samplesIn(row, depth), width, 1, channels, depth);
  const alpha = channels > colours ? planes.planes[colours]! : null;
  const own = { ...planes, form: formOf(space, false), planes: planes.planes.slice(0, colours) };
  const ink = toInk ? toInk.apply(own) : own;
  if (alpha) {
    for (const plane of ink.planes) for (let i = 0; i < width; i++) plane[i]! *= alpha[i]!;
  }
  return toSamples(ink, 8);
}

/** What pictures that aren't RGB are called where they are decoded. */
const SPACES: Record<string, DeviceSpace> = { cmyk: 'cmyk', 'b-w': 'grey', grey16: 'grey' };
const MOST_CHANNELS = 4;

async function pagesOf(path: string, format: Format | null, fileName: string): Promise<Page[]> {
  if (!format) throw new Refused(`${fileName} is of no format that it prints.`);
  try {
    if (format === 'pdf') {
      return Array.from({ length: readPdf(path).pages }, (_, i) => {
        const { width, height, depth, space, ppi, profile } = readPdf(path, i);
        const form: SampleForm = {
          ...{ size: { width, height }, channels: COLOURS[space], space },
          depth: depth === 16 ? 16 : 8,
        };
        return { form, ppi: ppi!, profile, rows: () => pdfRows(path, form, undefined, i) };
      });
    }
    const { width, height, ppi, profile } = await readDescription(path, format);
    if (!ppi) throw new Refused(`${fileName} does not say how large it prints.`);
    const {
      space: name = '',
      channels,
      depth,
    } = await sharp(path, { limitInputPixels: false }).metadata();
    const space: DeviceSpace = SPACES[name] ?? 'rgb';
    if (channels > MOST_CHANNELS) throw new Refused(`${fileName} has more colours than it prints.`);
    const form: SampleForm = {
      ...{ size: { width, height }, channels, space },
      depth: depth === 'ushort' ? 16 : 8,
    };
    return [{ form, ppi, profile, rows: () => rowsOf(path, format, form) }];
  } catch (error) {
    if (error instanceof Refused) throw error;
    throw new Refused(`${fileName} can't be read.`);
  }
}

/** Every row of a picture: as it lies in a plain TIFF, else as it is decoded. */
async function* rowsOf(path: string, format: Format, form: SampleForm): AsyncGenerator<ReadRow> {
  let plain = 0;
  if (format === 'tiff') {
    for await (const one of tiffRows(path, form)) {
      plain++;
      yield one;
    }
  }
  if (plain === 0) yield* decodedRows(path, form);
}
