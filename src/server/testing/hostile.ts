import { deflateSync } from 'node:zlib';
import sharp from 'sharp';
import { buildPdf, jpegObject, type PdfObject } from './pdf';
import { pngHeader } from '../output/png-chunks';
import { pngOf } from './png';

/** Files that would hang a decoder, fill its memory or never end, each in a few kilobytes. */

const svg = (inside: string, side = 1400): Buffer =>
  Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="${side}" height="${side}">${inside}</svg>`,
  );

/** A convolution of 60 x 60 and a dilation of radius 200, used by 200 rectangles. */
export function filteredSvg(): Buffer {
  const kernel = Array.from({ length: 3600 }, (_, i) => (i % 7) + 1).join(' ');
  const rects = Array.from(
    { length: 200 },
    (_, i) =>
      `<rect x="${i}" y="${i}" width="1100" height="1100" fill="#${100 + i}" filter="url(#f)"/>`,
  ).join('');
  return svg(
    `<filter id="f" x="0" y="0" width="1400" height="1400" filterUnits="userSpaceOnUse"><feConvolveMatrix order="60 60" kernelMatrix="${kernel}"/><feMorphology operator="dilate" radius="200"/></filter>${rects}`,
  );
}

/** Megabytes of text, every letter in an element of its own. */
export function textSvg(megabytes: number): Buffer {
  const one = '<text x="9" y="99">a<tspan dx="1">b</tspan></text>';
  return svg(one.repeat(Math.round((megabytes * 1e6) / one.length)));
}

/** A PNG of one colour, many megapixels in a few kilobytes. */
export const hugePng = (side: number): Buffer =>
  pngOf([
    ['IHDR', pngHeader(side, side, { colour: 0 })],
    ['IDAT', deflateSync(Buffer.alloc((side + 1) * side), { level: 9 })],
    ['IEND', Buffer.alloc(0)],
  ]);

/** A drawing around a PNG that is a few kilobytes, and hundreds of megapixels. */
export const svgAroundPng = (side: number): Buffer =>
  svg(
    `<image width="1400" height="1400" xlink:href="data:image/png;base64,${hugePng(side).toString('base64')}"/>`,
  );

const page = { width: 200, height: 200 };

/** A form that draws itself. */
export function selfDrawingPdf(): Buffer {
  const form: PdfObject = {
    dictionary: '/Type/XObject/Subtype/Form/BBox[0 0 9 9]/Resources<</XObject<</F 1 0 R>>>>',
    stream: Buffer.from('/F Do '.repeat(2)),
  };
  return buildPdf([{ ...page, content: '/F Do', resources: '/XObject<</F 1 0 R>>' }], [form]);
}

/** Forms that each draw the next one many times. */
export function nestedPdf(depth = 12, times = 20): Buffer {
  const forms = Array.from({ length: depth }, (_, i): PdfObject => ({
    dictionary: `/Type/XObject/Subtype/Form/BBox[0 0 200 200]/Resources<</XObject<</F ${i + 2} 0 R>>>>`,
    stream: Buffer.from(i === depth - 1 ? '0 0 9 9 re f ' : '/F Do '.repeat(times)),
  }));
  return buildPdf([{ ...page, content: '/F Do', resources: '/XObject<</F 1 0 R>>' }], forms);
}

/** Content that unpacks to a thousand times its size. */
export function inflatingPdf(megabytes: number): Buffer {
  const text = Buffer.alloc(megabytes * 1e6, 'q 1 0 0 1 0 0 cm ');
  const packed: PdfObject = { dictionary: '/Filter/FlateDecode', stream: deflateSync(text) };
  const form = {
    dictionary: `/Type/XObject/Subtype/Form/BBox[0 0 9 9]${packed.dictionary}`,
    stream: packed.stream,
  };
  return buildPdf([{ ...page, content: '/F Do', resources: '/XObject<</F 1 0 R>>' }], [form]);
}

/** A page that draws so many rectangles. */
export const crowdedPdf = (objects: number): Buffer =>
  buildPdf([{ ...page, content: '0 0 9 9 re f\n'.repeat(objects) }]);

/** A page of many pictures, each of several megapixels. */
export async function picturesPdf(count: number, side = 1800): Promise<Buffer> {
  const jpeg = await sharp({
    create: { width: side, height: side, channels: 3, background: '#765' },
  })
    .jpeg({ quality: 20 })
    .toBuffer();
  const objects = Array.from({ length: count }, () => jpegObject(jpeg, side, side));
  const names = objects.map((_, i) => `/P${i} ${i + 1} 0 R`).join('');
  const content = objects
    .map((_, i) => `q 9 0 0 9 ${(i % 20) * 10} ${Math.floor(i / 20) * 10} cm /P${i} Do Q`)
    .join('\n');
  return buildPdf([{ ...page, content, resources: `/XObject<<${names}>>` }], objects);
}

/** One file of each kind, named. */
export const hostileFiles = async (): Promise<[string, Buffer][]> => [
  ['filter.svg', filteredSvg()],
  ['text.svg', textSvg(5)],
  ['around.svg', svgAroundPng(20_000)],
  ['self.pdf', selfDrawingPdf()],
  ['nested.pdf', nestedPdf()],
  ['inflate.pdf', inflatingPdf(400)],
  ['crowd.pdf', crowdedPdf(2_000_000)],
  ['pictures.pdf', await picturesPdf(400)],
];
