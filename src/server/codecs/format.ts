import { Problem } from '../problem';

/** Formats that are read, by what their content begins with. */
export type InputFormat = 'jpeg' | 'png';

const begins = (bytes: Uint8Array, text: string, at = 0): boolean =>
  [...text].every((letter, i) => bytes[at + i] === letter.charCodeAt(0));

/** Formats that are recognised and refused, with what the customer can send instead. */
const refused: { name: string; is(bytes: Uint8Array): boolean }[] = [
  { name: 'a TIFF', is: (b) => begins(b, 'II*\0') || begins(b, 'MM\0*') },
  { name: 'a WebP', is: (b) => begins(b, 'RIFF') && begins(b, 'WEBP', 8) },
  { name: 'an AVIF or HEIF', is: (b) => begins(b, 'ftyp', 4) },
  { name: 'a GIF', is: (b) => begins(b, 'GIF8') },
  { name: 'a PDF', is: (b) => begins(b, '%PDF') },
  {
    name: 'an SVG or other text',
    is: (b) => /^\s*<(\?xml|svg|!doctype)/i.test(new TextDecoder().decode(b.subarray(0, 256))),
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
  if (bytes[0] === 0xff && bytes[1] === 0xd8) return 'jpeg';
  if (begins(bytes, '\x89PNG\r\n\x1a\n')) return 'png';
  const other = refused.find((format) => format.is(bytes));
  throw new Problem(
    'input',
    other
      ? `${name} is ${other.name}, which is not read yet. Ask for a JPEG or a PNG.`
      : `${name} is not a picture, whatever its name ends in. Ask for a JPEG or a PNG.`,
  );
}
