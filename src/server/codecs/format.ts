import { Problem } from '../problem';

/** Formats that are read, by what their content begins with. */
export type InputFormat = 'jpeg' | 'png' | 'tiff' | 'webp' | 'avif' | 'gif' | 'svg' | 'pdf';

/** What is read, for sentences. */
export const READABLE = 'a JPEG, PNG, TIFF, WebP, AVIF, GIF, SVG or PDF';

const begins = (bytes: Uint8Array, text: string, at = 0): boolean =>
  [...text].every((letter, i) => bytes[at + i] === letter.charCodeAt(0));

const brand = (bytes: Uint8Array): string =>
  begins(bytes, 'ftyp', 4) ? String.fromCharCode(...bytes.subarray(8, 12)) : '';

const head = (bytes: Uint8Array): string => new TextDecoder().decode(bytes.subarray(0, 2048));

const readable: Record<InputFormat, (bytes: Uint8Array) => boolean> = {
  jpeg: (b) => b[0] === 0xff && b[1] === 0xd8,
  png: (b) => begins(b, '\x89PNG\r\n\x1a\n'),
  tiff: (b) => ['II*\0', 'MM\0*', 'II+\0', 'MM\0+'].some((mark) => begins(b, mark)),
  webp: (b) => begins(b, 'RIFF') && begins(b, 'WEBP', 8),
  avif: (b) => /^avi[fs]$/.test(brand(b)),
  gif: (b) => begins(b, 'GIF8'),
  // Some programs put a few bytes before the first mark.
  pdf: (b) => new TextDecoder('latin1').decode(b.subarray(0, 1024)).includes('%PDF-'),
  svg: (b) => /^[\s\uFEFF]*<(\?xml|svg\b|!--|!doctype\s+svg)/i.test(head(b)),
};

/** Formats that are recognised and refused, with what the customer can send instead. */
const refused: { name: string; instead: string; is(bytes: Uint8Array): boolean }[] = [
  {
    name: 'a HEIF as phones make it',
    instead: 'Ask for a JPEG; the phone can send one.',
    is: (b) => brand(b) !== '',
  },
  {
    name: 'a layered working file',
    instead: 'Ask for a flattened TIFF of it.',
    is: (b) => begins(b, '8BPS'),
  },
  {
    name: 'a JPEG 2000 or JPEG XL',
    instead: 'Ask for a TIFF or PNG.',
    is: (b) =>
      begins(b, 'jP  ', 4) ||
      begins(b, 'JXL ', 4) ||
      (b[0] === 0xff && [0x0a, 0x4f].includes(b[1]!)),
  },
  { name: 'a BMP', instead: 'Ask for a PNG or TIFF.', is: (b) => begins(b, 'BM') },
  { name: 'PostScript', instead: 'Ask for a PDF of it.', is: (b) => begins(b, '%!PS') },
  {
    name: 'an archive or an office document',
    instead: 'Ask for the picture itself.',
    is: (b) => begins(b, 'PK\x03\x04') || (b[0] === 0x1f && b[1] === 0x8b),
  },
];

/**
 * The format of a file by its content; its name doesn't matter.
 * @throws Problem that names what the file is instead, and what to ask for
 */
export function formatOf(bytes: Uint8Array, name: string): InputFormat {
  if (bytes.length === 0) {
    throw new Problem('input', `${name} is empty. Ask for the file again; it was lost on its way.`);
  }
  for (const [format, is] of Object.entries(readable)) if (is(bytes)) return format as InputFormat;
  const other = refused.find((format) => format.is(bytes));
  throw new Problem(
    'input',
    other
      ? `${name} is ${other.name}, which is not read. ${other.instead}`
      : `${name} is not a picture, whatever its name ends in. Ask for ${READABLE}.`,
  );
}
