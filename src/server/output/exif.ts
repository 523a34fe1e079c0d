import { open } from 'node:fs/promises';
import ExifReader from 'exifreader';

/** What is kept of an original's EXIF: who made it with what and when; never where. */
export interface KeptExif {
  /** tags of the picture, and of how it was taken, by their names (EXIF 2.32, 4.6) */
  IFD0: Record<string, string>;
  IFD2: Record<string, string>;
}

const PICTURE = ['Make', 'Model', 'Artist', 'Copyright'] as const;
const TAKEN = ['DateTimeOriginal', 'LensModel'] as const;
/** EXIF stands before the pixels; no tag that is kept is longer. */
const HEAD_BYTES = 4 << 20;
const LONGEST = 200;

/** What is kept of a file's EXIF; null where it has none that is, or can't be read. */
export async function keptExif(path: string): Promise<KeptExif | null> {
  let tags: ExifReader.ExpandedTags;
  try {
    const file = await open(path, 'r');
    try {
      const { size } = await file.stat();
      const head = Buffer.alloc(Math.min(size, HEAD_BYTES));
      const { bytesRead } = await file.read(head, 0, head.length, 0);
      tags = ExifReader.load(head.subarray(0, bytesRead), { expanded: true });
    } finally {
      await file.close();
    }
  } catch {
    return null;
  }
  const of = (names: readonly string[]) =>
    Object.fromEntries(
      names.flatMap((name) => {
        const words = wordsOf((tags.exif as Record<string, unknown> | undefined)?.[name]);
        return words ? [[name, words]] : [];
      }),
    );
  const kept = { IFD0: of(PICTURE), IFD2: of(TAKEN) };
  return Object.keys({ ...kept.IFD0, ...kept.IFD2 }).length > 0 ? kept : null;
}

/** A tag's text: one line, of bearable length. */
function wordsOf(tag: unknown): string {
  const value: unknown = (tag as { value?: unknown } | undefined)?.value;
  const text = Array.isArray(value)
    ? value.filter((one) => typeof one === 'string').join(' ')
    : value;
  if (typeof text !== 'string') return '';
  return text
    .replace(/[\p{C}]/gu, ' ')
    .trim()
    .slice(0, LONGEST);
}

const NUMBERS: Record<string, number> = {
  ...{ Make: 271, Model: 272, Artist: 315, Copyright: 33_432 },
  ...{ DateTimeOriginal: 0x9003, LensModel: 0xa434 },
};
const EXIF_DIRECTORY = 0x8769;
const ASCII = 2;
const LONG = 4;

/** Texts of a directory in the order of their tags, as TIFF keeps them. */
export const textTags = (tags: Record<string, string>): { id: number; text: string }[] =>
  Object.entries(tags)
    .map(([name, text]) => ({ id: NUMBERS[name]!, text }))
    .sort((one, other) => one.id - other.id);

/** EXIF as a block of its own, as PNG holds it (EXIF 2.32, 4.5). */
export function exifBlock({ IFD0, IFD2 }: KeptExif): Buffer {
  const taken = textTags(IFD2);
  // The number of the directory of how it was taken is the highest of all.
  const first = textTags(IFD0);
  const hasTaken = taken.length > 0;
  const entries = first.length + (hasTaken ? 1 : 0);
  const second = 8 + directoryBytes(entries);
  const texts = second + (hasTaken ? directoryBytes(taken.length) : 0);
  const parts: Buffer[] = [];
  let free = texts;
  const put = (text: string): { count: number; at: number } => {
    const bytes = Buffer.from(`${text}\0`, 'utf8');
    const at = free;
    parts.push(bytes, Buffer.alloc(bytes.length & 1));
    free += bytes.length + (bytes.length & 1);
    return { count: bytes.length, at };
  };
  const block = Buffer.alloc(texts);
  block.write('II*\0', 0, 'latin1');
  block.writeUInt32LE(8, 4);
  const list = (at: number, count: number) => {
    block.writeUInt16LE(count, at);
    return (i: number, id: number, type: number, length: number, value: number) => {
      const entry = at + 2 + 12 * i;
      block.writeUInt16LE(id, entry);
      block.writeUInt16LE(type, entry + 2);
      block.writeUInt32LE(length, entry + 4);
      block.writeUInt32LE(value, entry + 8);
    };
  };
  const one = list(8, entries);
  first.forEach(({ id, text }, i) => {
    const { count, at } = put(text);
    one(i, id, ASCII, count, at);
  });
  if (hasTaken) {
    one(first.length, EXIF_DIRECTORY, LONG, 1, second);
    const two = list(second, taken.length);
    taken.forEach(({ id, text }, i) => {
      const { count, at } = put(text);
      two(i, id, ASCII, count, at);
    });
  }
  return Buffer.concat([block, ...parts]);
}

const directoryBytes = (entries: number): number => 2 + 12 * entries + 4;
