import { closeSync, createReadStream, createWriteStream, fstatSync, openSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import { inflateSync } from 'node:zlib';
import type { DeviceSpace } from '@/core/colour/space';
import type { Rect } from '@/core/frame/framing';
import { POINTS } from '@/core/output/page';
import { readWhole } from '../files/whole-io';
import type { PpiTag } from '../codecs/resolution';
import { decodedRows } from './pixels';
import { summedRows } from './stream-rows';
import type { ReadRow, SampleForm } from './samples';

/** What a PDF of one picture says of itself. */
export interface PdfDescription {
  width: number;
  height: number;
  depth: number;
  pages: number;
  /** as its page lays it out */
  ppi: PpiTag;
  profile: Uint8Array | null;
  /** its page's boxes, in points */
  boxes: { media: Rect; bleed: Rect; trim: Rect };
  /** what its samples are amounts of */
  space: DeviceSpace;
  /** where the picture's stream lies, and how it is packed */
  data: { start: number; length: number; filter: string };
}

/** What a picture's samples are: by how many colours its profile has, or by the name that stands in its place. */
const SPACES: Record<string, DeviceSpace> = {
  ...{ 1: 'grey', 3: 'rgb', 4: 'cmyk' },
  ...{ Gray: 'grey', RGB: 'rgb', CMYK: 'cmyk' },
};

/** More than any object but a stream takes. */
const OBJECT_BYTES = 1 << 16;
/** The end, which says where the table of objects is. */
const TAIL_BYTES = 1 << 10;

/**
 * Reads a page of a PDF by its own table of objects.
 * @param index of the page, from 0
 * @throws Error where something that a page needs is missing
 */
export function readPdf(path: string, index = 0): PdfDescription {
  const file = openSync(path, 'r');
  try {
    const objects = new Objects(file);
    const catalog = objects.dictionary(objects.root);
    const pages = objects.dictionary(reference(catalog, 'Pages'));
    const kids = [...match(pages, /\/Kids \[([^\]]+)\]/).matchAll(/(\d+) 0 R/g)];
    if (!kids[index]) throw new Error(`the written PDF has no page ${index + 1}`);
    const page = objects.dictionary(Number(kids[index][1]));
    const unit = Number(/\/UserUnit ([\d.]+)/.exec(page)?.[1] ?? 1);
    const box = (name: string): Rect => {
      const values = match(page, new RegExp(`/${name} \\[([^\\]]+)\\]`))
        .split(' ')
        .map((value) => Number(value) * unit);
      const [left, bottom, right, top] = values as [number, number, number, number];
      return { x: left, y: bottom, width: right - left, height: top - bottom };
    };
    const picture = objects.stream(reference(page, 'Picture'));
    const number = (name: string) => Number(match(picture.entries, new RegExp(`/${name} (\\d+)`)));
    const [width, height] = [number('Width'), number('Height')];
    const icc = /\/ICCBased (\d+) 0 R/.exec(picture.entries)?.[1];
    const content = objects.bytes(reference(page, 'Contents')).toString('latin1');
    const placed = placedIn(content, unit);
    return {
      ...{ width, height, depth: number('BitsPerComponent'), pages: kids.length },
      ppi: { x: (width / placed.width) * POINTS, y: (height / placed.height) * POINTS },
      profile: icc ? objects.bytes(Number(icc)) : null,
      space: SPACES[icc ? objects.colours(Number(icc)) : match(picture.entries, /\/Device(\w+)/)]!,
      boxes: { media: box('MediaBox'), bleed: box('BleedBox'), trim: box('TrimBox') },
      data: {
        start: picture.start,
        length: picture.length,
        filter: match(picture.entries, /\/Filter \/(\w+)/),
      },
    };
  } finally {
    closeSync(file);
  }
}

/**
 * Every row of a PDF's picture; of a JPEG inside by decoding it on its own. A row's bytes hold until the next one is
 * asked for.
 */
export async function* pdfRows(
  path: string,
  form: SampleForm,
  signal?: AbortSignal,
  index = 0,
): AsyncGenerator<ReadRow> {
  const { start, length, filter } = readPdf(path, index).data;
  const stream = createReadStream(path, {
    ...{ start, end: start + length - 1, highWaterMark: 1 << 20 },
    ...(signal && { signal }),
  });
  if (filter === 'FlateDecode') return yield* summedRows(stream, form);
  const inside = `${path}.inside.jpg`;
  try {
    await pipeline(stream, createWriteStream(inside));
    yield* decodedRows(inside, form, signal);
  } finally {
    await rm(inside, { force: true });
  }
}

/** How large a content lays the picture out, in points. */
function placedIn(content: string, unit: number): { width: number; height: number } {
  const found = /([\d.]+) 0 0 ([\d.]+) [\d.]+ [\d.]+ cm \/Picture Do/.exec(content);
  if (!found) throw new Error('its page does not show the picture');
  const scale = Number(/^q\s+([\d.]+) 0 0 [\d.]+ 0 0 cm/.exec(content)?.[1] ?? 1);
  return { width: Number(found[1]) * scale * unit, height: Number(found[2]) * scale * unit };
}

function match(text: string, pattern: RegExp): string {
  const found = pattern.exec(text)?.[1];
  if (found === undefined) throw new Error(`the written PDF has no ${pattern.source}`);
  return found;
}

const reference = (entries: string, name: string): number =>
  Number(match(entries, new RegExp(`/${name} (\\d+) 0 R`)));

/** The objects of a PDF, found by its table. */
class Objects {
  readonly root: number;
  private readonly starts: number[];
  private readonly bytesInAll: number;

  constructor(private readonly file: number) {
    this.bytesInAll = fstatSync(file).size;
    const tail = this.text(Math.max(0, this.bytesInAll - TAIL_BYTES), TAIL_BYTES);
    const table = this.text(Number(match(tail, /startxref\s+(\d+)/)), this.bytesInAll);
    this.root = reference(table, 'Root');
    this.starts = [...table.matchAll(/^(\d{10}) \d{5} [nf]/gm)].map((line) => Number(line[1]));
  }

  private text(start: number, most: number): string {
    const bytes = Buffer.alloc(Math.min(most, this.bytesInAll - start));
    readWhole(this.file, bytes, start);
    return bytes.toString('latin1');
  }

  private at(id: number): { start: number; text: string } {
    const start = this.starts[id];
    if (!start) throw new Error(`the written PDF has no object ${id}`);
    const text = this.text(start, OBJECT_BYTES);
    if (!text.startsWith(`${id} 0 obj`)) throw new Error(`object ${id} is not in its place`);
    return { start, text };
  }

  dictionary(id: number): string {
    const { text } = this.at(id);
    return text.slice(0, text.indexOf('endobj'));
  }

  stream(id: number): { entries: string; start: number; length: number } {
    const { start, text } = this.at(id);
    const begins = text.indexOf('stream\n') + 'stream\n'.length;
    const entries = text.slice(0, begins);
    const length = Number(match(this.dictionary(reference(entries, 'Length')), /obj\s+(\d+)/));
    return { entries, start: start + begins, length };
  }

  /** How many colours a profile is for. */
  colours(id: number): string {
    return match(this.stream(id).entries, /\/N (\d)/);
  }

  /** What a small stream holds. */
  bytes(id: number): Buffer {
    const { start, length } = this.stream(id);
    const bytes = Buffer.alloc(length);
    readWhole(this.file, bytes, start);
    return inflateSync(bytes);
  }
}
