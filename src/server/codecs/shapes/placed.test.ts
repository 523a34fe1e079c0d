import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { inverseOf, spotOn } from '@/core/placed/place';
import type { PlacedPicture } from '@/core/placed/placed';
import { cells, whole, type Size } from '@/core/raster/region';
import { buildPdf, jpegObject, type PdfObject } from '../../testing/pdf';
import { testPixels } from '../../testing/shop';
import { decode } from '../decode';
import { decodeTask } from '../decoded';
import { CELL, type TreatedFile } from './drawing';
import { drawCell } from './drawn';
import { takeOut } from './take-out';

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lontano-placed-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

let count = 0;
async function place(bytes: Buffer | string, ending: string): Promise<string> {
  const file = join(folder, `${++count}.${ending}`);
  await writeFile(file, bytes);
  return file;
}

const PAGE = { width: 300, height: 200 };
const NOMINAL = { width: 30_000, height: 20_000 };
const OWN = { width: 24, height: 16 };
const own = () => testPixels(OWN.width, OWN.height);

/** A picture's pixels as an object, with a mask that is clear in its left half or without one. */
async function pictureObjects(masked: boolean): Promise<PdfObject[]> {
  const image = (colours: string, more: string, stream: Buffer): PdfObject => ({
    dictionary: `/Type/XObject/Subtype/Image/Width 24/Height 16/ColorSpace/${colours}/BitsPerComponent 8${more}`,
    stream,
  });
  const mask = Buffer.from(Array.from({ length: 24 * 16 }, (_, i) => (i % 24 < 12 ? 40 : 255)));
  return [
    image('DeviceRGB', masked ? '/SMask 2 0 R' : '', await own().raw().toBuffer()),
    image('DeviceGray', '', mask),
  ];
}

const GROUND = '0.9 0.95 0.8 rg 0 0 300 200 re f';

async function pdfWith(content: string, masked = false): Promise<string> {
  const page = { ...PAGE, content: `${GROUND} ${content}`, resources: '/XObject<</P 1 0 R>>' };
  return place(buildPdf([page], await pictureObjects(masked)), 'pdf');
}

const at = (matrix: string) => `q ${matrix} cm /P Do Q`;

async function svgWith(image: string, before = '', after = ''): Promise<string> {
  const data = (await own().png().toBuffer()).toString('base64');
  const href = `href="data:image/png;base64,${data}"`;
  return place(
    `<svg xmlns="http://www.w3.org/2000/svg" width="300pt" height="200pt" viewBox="0 0 300 200"><rect width="300" height="200" fill="#e6f2cc"/>${before}<image ${image} ${href}/>${after}</svg>`,
    'svg',
  );
}

const picturesOf = async (file: string): Promise<PlacedPicture[]> =>
  (await decode(decodeTask(file, `${file}.raw`))).findings.vector!.pictures;

/** A treated picture that has a colour of its own in every pixel. */
async function treatedOf({ width, height }: Size): Promise<{ samples: Buffer; file: string }> {
  const samples = Buffer.alloc(width * height * 3);
  for (let i = 0; i < samples.length; i++) samples[i] = (i * 7919 + (i >> 8) * 31) % 256;
  const file = join(folder, `${++count}.tif`);
  await sharp(samples, { raw: { width, height, channels: 3 } })
    .tiff({ compression: 'none' })
    .toFile(file);
  return { samples, file };
}

const FULL = { x: 0, y: 0, ...NOMINAL };

async function drawAll(file: string, size: Size, treated?: TreatedFile[], side = CELL) {
  const drawing = {
    ...{ file, name: 'p', page: 1, size, channels: 3 as const },
    ...{ drawn: { source: FULL, turn: 0 as const }, ...(treated && { treated }) },
  };
  const all = Buffer.alloc(size.width * size.height * 3);
  for (const cell of cells(whole(size), side, size)) {
    const samples = await drawCell(drawing, cell);
    for (let y = 0; y < cell.height; y++) {
      const to = ((cell.y + y) * size.width + cell.x) * 3;
      samples.copy(all, to, y * cell.width * 3, (y + 1) * cell.width * 3);
    }
  }
  return all;
}

/** Where a pixel of a picture of a size lies, for the eight ways in which it can be upright. */
const WAYS: [string, string, (x: number, y: number, size: Size) => [number, number]][] = [
  ['upright', '100 0 0 60.3 20.2 70.7', (x, y) => [x, y]],
  ['mirrored', '-100.4 0 0 60 130.1 70', (x, y, { width }) => [width - 1 - x, y]],
  ['upside down', '100 0 0 -60 20 130.9', (x, y, { height }) => [x, height - 1 - y]],
  ['turned to the left', '0 100 -60.6 0 130 40', (x, y, { width }) => [y, width - 1 - x]],
  ['turned to the right', '0 -90 60 0 30.3 170.2', (x, y, { height }) => [height - 1 - y, x]],
  [
    'turned round',
    '-100 0 0 -60 130 130',
    (x, y, { width, height }) => [width - 1 - x, height - 1 - y],
  ],
];

describe('a treated picture on a page', () => {
  it.each(WAYS)(
    'of a PDF, %s, is there pixel by pixel, however it is cut',
    async (_, matrix, to) => {
      const file = await pdfWith(at(matrix));
      const [picture] = await picturesOf(file);
      const size = { width: 1100, height: 733 };
      const spot = spotOn(picture!.place!, NOMINAL, { source: FULL, turn: 0 }, size);
      const { samples, file: tiff } = await treatedOf(spot.pixels);
      const drawn = await drawAll(file, size, [{ picture: 1, file: tiff }], 256);
      const cornered = spot.at!;
      for (let y = 0; y < spot.pixels.height; y++) {
        for (let x = 0; x < spot.pixels.width; x++) {
          const [dx, dy] = to(x, y, spot.pixels);
          const i = ((cornered.y + dy) * size.width + cornered.x + dx) * 3;
          const from = (y * spot.pixels.width + x) * 3;
          if (drawn.compare(samples, from, from + 3, i, i + 3) !== 0) {
            expect([x, y, ...drawn.subarray(i, i + 3)]).toEqual([
              x,
              y,
              ...samples.subarray(from, from + 3),
            ]);
          }
        }
      }
      // Beside it nothing is changed.
      const plain = await drawAll(file, size);
      let changed = 0;
      for (let y = 0; y < size.height; y++) {
        for (let x = 0; x < size.width; x++) {
          const beside =
            x < cornered.x - 1 ||
            y < cornered.y - 1 ||
            x > cornered.x + cornered.width ||
            y > cornered.y + cornered.height;
          const i = (y * size.width + x) * 3;
          if (beside && drawn.compare(plain, i, i + 3, i, i + 3) !== 0) changed++;
        }
      }
      expect(changed).toBe(0);
    },
  );

  it.each([
    ['', 'x="20.2" y="69" width="100" height="60.3" preserveAspectRatio="none"', ''],
    ['<g transform="translate(10 20) scale(2)">', 'width="45" height="30"', '</g>'],
  ])('of an SVG %s is there pixel by pixel, however it is cut', async (before, image, after) => {
    const file = await svgWith(image, before, after);
    const [picture] = await picturesOf(file);
    const size = { width: 1100, height: 733 };
    const spot = spotOn(picture!.place!, NOMINAL, { source: FULL, turn: 0 }, size);
    const { samples, file: tiff } = await treatedOf(spot.pixels);
    const drawn = await drawAll(file, size, [{ picture: 1, file: tiff }], 256);
    const { x, y, width, height } = spot.at!;
    let off = 0;
    for (let v = 0; v < height; v++) {
      for (let u = 0; u < 3 * width; u++) {
        const there = drawn[((y + v) * size.width + x) * 3 + u]!;
        off = Math.max(off, Math.abs(there - samples[v * width * 3 + u]!));
      }
    }
    // The drawing's own colours are multiplied and divided by their alpha.
    expect(off).toBeLessThanOrEqual(1);
  });

  it.each([
    ['PDF', () => pdfWith(at('90 30 -20 70 60 40'))],
    [
      'SVG',
      () =>
        svgWith(
          'width="90" height="60"',
          '<g transform="rotate(-20 50 90) translate(60 60)">',
          '</g>',
        ),
    ],
  ])('at an angle in a %s is where it was, without seams', async (_, make) => {
    const file = await make();
    const [picture] = await picturesOf(file);
    const size = { width: 900, height: 600 };
    const spot = spotOn(picture!.place!, NOMINAL, { source: FULL, turn: 0 }, size);
    expect(spot.at).toBeNull();
    const larger = join(folder, `${++count}.tif`);
    await own()
      .resize(spot.pixels.width, spot.pixels.height, { fit: 'fill', kernel: 'linear' })
      .tiff({ compression: 'none' })
      .toFile(larger);
    const treated = [{ picture: 1, file: larger }];
    const cut = await drawAll(file, size, treated, 256);
    const uncut = await drawAll(file, size, treated);
    // Along its own edges a page's drawing depends on how it is cut, whatever it shows.
    const back = inverseOf(spot.map)!;
    let worst = 0;
    cut.forEach((value, i) => {
      const x = (Math.floor(i / 3) % size.width) + 0.5;
      const y = Math.floor(i / 3 / size.width) + 0.5;
      const u = x * back[0] + y * back[2] + back[4];
      const v = x * back[1] + y * back[3] + back[5];
      const inside = Math.min(u, v) > 0.02 && Math.max(u, v) < 0.98;
      if (inside) worst = Math.max(worst, Math.abs(value - uncut[i]!));
    });
    expect(worst).toBeLessThanOrEqual(6);
    const plain = await drawAll(file, size);
    let off = 0;
    cut.forEach((value, i) => (off += Math.abs(value - plain[i]!)));
    // The page enlarges it in its own way, to the same place.
    expect(off / cut.length).toBeLessThan(4);
    expect(cut.equals(plain)).toBe(false);
  });

  it('shown several times is treated in all of its places', async () => {
    const file = await pdfWith(`${at('60 0 0 40 10 10')} ${at('120 0 0 80 100 100')}`);
    const [picture, ...others] = await picturesOf(file);
    expect(others).toEqual([]);
    expect(picture).toMatchObject({ times: 2, widthPt: 120, heightPt: 80 });
    const { file: tiff } = await treatedOf({ width: 240, height: 160 });
    const size = { width: 600, height: 400 };
    const drawn = await drawAll(file, size, [{ picture: 1, file: tiff }], 128);
    const plain = await drawAll(file, size);
    const changedIn = (left: number, top: number, width: number, height: number) => {
      let changed = 0;
      for (let y = top; y < top + height; y++) {
        for (let x = left; x < left + width; x++) {
          const i = (y * size.width + x) * 3;
          if (drawn.compare(plain, i, i + 3, i, i + 3) !== 0) changed++;
        }
      }
      return changed / (width * height);
    };
    expect(changedIn(20, 300, 120, 80)).toBeGreaterThan(0.9);
    expect(changedIn(200, 40, 240, 160)).toBeGreaterThan(0.9);
  });
});

describe('taking a picture out of a page', () => {
  const out = () => join(folder, `${++count}.out`);
  const takenOut = async (file: string) => {
    const to = out();
    await takeOut({ file, name: 'p', page: 1, picture: 1, out: to });
    return readFile(to);
  };

  it('gives a JPEG byte for byte', async () => {
    const jpeg = await testPixels(120, 80).jpeg({ quality: 60 }).toBuffer();
    const page = {
      ...PAGE,
      content: `${GROUND} ${at('60 0 0 40 20 30')}`,
      resources: '/XObject<</P 1 0 R>>',
    };
    const pdf = await place(buildPdf([page], [jpegObject(jpeg, 120, 80)]), 'pdf');
    expect((await takenOut(pdf)).equals(jpeg)).toBe(true);
  });

  it('gives what the page shows, where it shows it otherwise than it is stored', async () => {
    const jpeg = await testPixels(120, 80).jpeg({ quality: 90 }).toBuffer();
    const { stream } = jpegObject(jpeg, 120, 80) as Exclude<PdfObject, string>;
    const turned: PdfObject = {
      dictionary:
        '/Type/XObject/Subtype/Image/Width 120/Height 80/ColorSpace/DeviceRGB/BitsPerComponent 8/Filter/DCTDecode/Decode[1 0 1 0 1 0]',
      stream,
    };
    const page = {
      ...PAGE,
      content: `${GROUND} ${at('60 0 0 40 20 30')}`,
      resources: '/XObject<</P 1 0 R>>',
    };
    const pdf = await place(buildPdf([page], [turned]), 'pdf');
    const got = await sharp(await takenOut(pdf))
      .raw()
      .toBuffer();
    const shown = await sharp(jpeg).negate().raw().toBuffer();
    let off = 0;
    got.forEach((value, i) => (off += Math.abs(value - shown[i]!)));
    expect(off / got.length).toBeLessThan(2);
  });

  it('keeps its mask as alpha, and puts it back under it', async () => {
    const file = await pdfWith(at('120 0 0 80 20 60'), true);
    const got = await sharp(await takenOut(file))
      .raw()
      .toBuffer({ resolveWithObject: true });
    expect(got.info).toMatchObject({ ...OWN, channels: 4 });
    expect([got.data[3], got.data[4 * 23 + 3]]).toEqual([40, 255]);
    const [picture] = await picturesOf(file);
    const size = { width: 300, height: 200 };
    const spot = spotOn(picture!.place!, NOMINAL, { source: FULL, turn: 0 }, size);
    const larger = join(folder, `${++count}.tif`);
    await sharp(got.data, { raw: got.info })
      .resize(spot.pixels.width, spot.pixels.height, { fit: 'fill', kernel: 'nearest' })
      .tiff({ compression: 'none' })
      .toFile(larger);
    const drawn = await drawAll(file, size, [{ picture: 1, file: larger }]);
    const plain = await drawAll(file, size);
    let off = 0;
    drawn.forEach((value, i) => (off += Math.abs(value - plain[i]!)));
    expect(off / drawn.length).toBeLessThan(2);
  });

  it('gives what lies in an SVG as it is', async () => {
    const bytes = await own().png().toBuffer();
    expect((await takenOut(await svgWith('width="90" height="60"'))).equals(bytes)).toBe(true);
  });

  it('is refused in words where there is no such picture', async () => {
    const file = await pdfWith('');
    await expect(takenOut(file)).rejects.toThrow(/Picture 1 of p can't be taken out/);
    await expect(
      takenOut(await place('<svg xmlns="http://www.w3.org/2000/svg"/>', 'svg')),
    ).rejects.toThrow(/no picture 1/);
  });

  it('says which pictures stay as they are: stencils, and what an SVG shows by reference', async () => {
    const stencil: PdfObject = {
      dictionary: '/Type/XObject/Subtype/Image/Width 8/Height 8/ImageMask true/BitsPerComponent 1',
      stream: Buffer.from([170, 85, 170, 85, 170, 85, 170, 85]),
    };
    const page = {
      ...PAGE,
      content: `1 0 0 rg ${at('60 0 0 40 20 30')}`,
      resources: '/XObject<</P 1 0 R>>',
    };
    const [inPdf] = await picturesOf(await place(buildPdf([page], [stencil]), 'pdf'));
    expect(inPdf?.kept).toMatch(/stencil/);
    const used = await svgWith('id="p" width="90" height="60"', '', '<use href="#p" x="100"/>');
    expect((await picturesOf(used))[0]?.kept).toMatch(/by reference/);
    const coloured = await svgWith(
      'width="90" height="60"',
      '<style>.a{fill:red;stroke-width:2}</style>',
    );
    expect((await picturesOf(coloured))[0]?.kept).toBeNull();
    const moved = await svgWith('width="90" height="60"', '<style>image { width: 50px }</style>');
    expect((await picturesOf(moved))[0]?.kept).toMatch(/by a style/);
    const cut = await svgWith('width="90" height="90" preserveAspectRatio="xMidYMid slice"');
    expect((await picturesOf(cut))[0]?.kept).toMatch(/not followed/);
  });
});

it('keeps pictures as they are that a page shows more often than can be compared', async () => {
  const bytes = Buffer.alloc(2_400_000, 90);
  const large: PdfObject = {
    dictionary:
      '/Type/XObject/Subtype/Image/Width 1000/Height 800/ColorSpace/DeviceRGB/BitsPerComponent 8',
    stream: bytes,
  };
  const content = Array.from({ length: 40 }, (_, i) =>
    at(`20 0 0 16 ${10 + (i % 10) * 25} ${20 + i * 3}`),
  ).join(' ');
  const page = { ...PAGE, content, resources: '/XObject<</P 1 0 R>>' };
  const pictures = await picturesOf(await place(buildPdf([page], [large]), 'pdf'));
  expect(pictures).toHaveLength(40);
  for (const { kept } of pictures) expect(kept).toMatch(/so many times/);
});
