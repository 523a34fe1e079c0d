import sharp from 'sharp';
import { buildPdf, jpegObject } from '../src/server/testing/pdf';
import { testPixels } from '../src/server/testing/shop';
import type { Random } from './random';

/** A file to begin with, in one of the formats that are read. */
export interface Sample {
  name: string;
  bytes: Buffer;
}

/** Whole files of every format that is read, in several of its forms. */
export async function samples(): Promise<Sample[]> {
  const picture = () => testPixels(180, 120);
  const clear = () => picture().ensureAlpha(0.5);
  const made: [string, () => Promise<Buffer>][] = [
    ['plain.jpg', () => picture().jpeg({ quality: 70 }).toBuffer()],
    ['profile.jpg', () => picture().withIccProfile('p3').jpeg().toBuffer()],
    [
      'turned.jpg',
      () => picture().withMetadata({ orientation: 6, density: 240 }).jpeg().toBuffer(),
    ],
    ['progressive.jpg', () => picture().jpeg({ progressive: true }).toBuffer()],
    ['cmyk.jpg', () => picture().toColourspace('cmyk').jpeg().toBuffer()],
    ['grey.jpg', () => picture().greyscale().jpeg().toBuffer()],
    ['plain.png', () => picture().png().toBuffer()],
    ['deep.png', () => picture().toColourspace('rgb16').png().toBuffer()],
    ['clear.png', () => clear().png().toBuffer()],
    ['palette.png', () => picture().png({ palette: true }).toBuffer()],
    ['woven.png', () => picture().png({ progressive: true }).toBuffer()],
    ['lzw.tif', () => picture().tiff({ compression: 'lzw' }).toBuffer()],
    [
      'deflate.tif',
      () => picture().tiff({ compression: 'deflate', predictor: 'horizontal' }).toBuffer(),
    ],
    ['tiled.tif', () => picture().tiff({ tile: true, compression: 'none' }).toBuffer()],
    ['jpeg.tif', () => picture().tiff({ compression: 'jpeg' }).toBuffer()],
    ['deep.tif', () => picture().toColourspace('rgb16').tiff().toBuffer()],
    ['lossy.webp', () => clear().webp().toBuffer()],
    ['lossless.webp', () => picture().webp({ lossless: true }).toBuffer()],
    ['small.avif', () => picture().avif({ effort: 0 }).toBuffer()],
    ['few.gif', () => picture().gif().toBuffer()],
    ['drawing.svg', () => Promise.resolve(Buffer.from(DRAWING))],
    ['shapes.pdf', () => Promise.resolve(shapesPdf())],
    ['photograph.pdf', photographPdf],
  ];
  return Promise.all(made.map(async ([name, make]) => ({ name, bytes: await make() })));
}

const DRAWING = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 300 200" width="300" height="200">
<defs><linearGradient id="g"><stop offset="0" stop-color="#236"/><stop offset="1" stop-color="#c84"/></linearGradient>
<filter id="b"><feGaussianBlur stdDeviation="3"/></filter></defs>
<rect width="300" height="200" fill="url(#g)"/><circle cx="90" cy="80" r="40" fill="#fff" filter="url(#b)"/>
<path d="M10 190 C 80 20 200 20 290 190" stroke="#000" stroke-width="4" fill="none"/><text x="20" y="180" font-size="24">Vespra</text></svg>`;

const shapesPdf = (): Buffer =>
  buildPdf([
    {
      width: 300,
      height: 200,
      content: '0.2 0.3 0.5 rg 20 20 120 90 re f 1 0 0 RG 3 w 9 9 m 200 150 l S',
    },
    { width: 200, height: 300, content: '0 1 0 rg 5 5 50 50 re f' },
  ]);

const photographPdf = async (): Promise<Buffer> =>
  pageWith(await testPixels(180, 120).jpeg().toBuffer(), { width: 180, height: 120 });

/** A page that a photograph fills, with a line over it. */
const pageWith = (jpeg: Buffer, { width, height }: { width: number; height: number }): Buffer =>
  buildPdf(
    [
      {
        ...{ width, height, resources: '/XObject<</P 1 0 R>>' },
        content: `q ${width} 0 0 ${height} 0 0 cm /P Do Q 1 0 0 RG 2 w 9 9 m 90 70 l S`,
      },
    ],
    [jpegObject(jpeg, width, height)],
  );

/** A whole page with a photograph on it that no other has. */
export const goodPage = async (seed: number): Promise<Buffer> =>
  pageWith(await goodPicture(seed), { width: 300, height: 200 });

/** What can happen to a file: each changes a copy of it. */
const WAYS: ((bytes: Buffer, random: Random, other: Buffer) => Buffer)[] = [
  // a few bits, anywhere or in the header
  (bytes, random) => {
    const reach = random.below(2) ? bytes.length : Math.min(bytes.length, 256);
    for (let i = 1 + random.below(12); i > 0; i--)
      bytes[random.below(reach)]! ^= 1 << random.below(8);
    return bytes;
  },
  // cut off
  (bytes, random) => bytes.subarray(0, 1 + random.below(bytes.length)),
  // a hole, or something put in
  (bytes, random) => {
    const at = random.below(bytes.length);
    const length = 1 + random.below(64);
    return random.below(2)
      ? Buffer.concat([bytes.subarray(0, at), bytes.subarray(at + length)])
      : Buffer.concat([
          bytes.subarray(0, at),
          Buffer.alloc(length, random.below(256)),
          bytes.subarray(at),
        ]);
  },
  // a number at its extreme
  (bytes, random) => {
    const extremes = [0, 1, 0x7fffffff, 0x80000000, 0xffffffff, 0xffff, 0x10000];
    const at = random.below(Math.max(1, Math.min(bytes.length, 512) - 4));
    const value = random.pick(extremes);
    if (bytes.length >= at + 4) {
      if (random.below(2)) bytes.writeUInt32BE(value, at);
      else bytes.writeUInt32LE(value, at);
    }
    return bytes;
  },
  // a part twice
  (bytes, random) => {
    const from = random.below(bytes.length);
    const part = bytes.subarray(from, from + 1 + random.below(2000));
    return Buffer.concat([bytes.subarray(0, from), part, bytes.subarray(from)]);
  },
  // the beginning of one file, the end of another
  (bytes, random, other) =>
    Buffer.concat([
      bytes.subarray(0, 1 + random.below(bytes.length)),
      other.subarray(random.below(other.length)),
    ]),
  // another number in text
  (bytes, random) => {
    const numbers = ['0', '-1', '1e9', '99999999999', '0.0000001', 'NaN', '', '2147483648'];
    const text = bytes.toString('latin1');
    const places = [...text.matchAll(/\d+/g)];
    if (places.length === 0) return bytes;
    const place = random.pick(places);
    const after = text.slice(place.index + place[0].length);
    return Buffer.from(text.slice(0, place.index) + random.pick(numbers) + after, 'latin1');
  },
];

/** A file that something happened to, once to three times over. */
export function mutated(of: readonly Sample[], random: Random): Sample {
  const { name, bytes } = random.pick(of);
  let now = Buffer.from(bytes);
  for (let times = 1 + random.below(3); times > 0 && now.length > 0; times--) {
    now = Buffer.from(random.pick(WAYS)(now, random, random.pick(of).bytes));
  }
  return { name: `mutated-${name}`, bytes: now };
}

/** A good picture that no other one is equal to. */
export async function goodPicture(seed: number): Promise<Buffer> {
  const { data, info } = await testPixels(300, 200).raw().toBuffer({ resolveWithObject: true });
  const random = (i: number) => ((seed * 7919 + i * 104_729) % 97) / 97;
  for (let i = 0; i < 400; i++)
    data[Math.floor(random(i) * data.length)] = Math.floor(random(i + 1) * 255);
  const { width, height } = info;
  return sharp(data, { raw: { width, height, channels: 3 } })
    .withMetadata({ exif: { IFD0: { ImageDescription: `picture ${seed}` } } })
    .jpeg({ quality: 60 + (seed % 30) })
    .toBuffer();
}
