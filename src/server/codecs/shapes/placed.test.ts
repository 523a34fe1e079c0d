import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { deflateSync } from 'node:zlib';
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

  it.each([
    [
      'by reference',
      '<defs>',
      'id="p" width="90" height="60"',
      '</defs><use href="#p" x="50" y="40"/>',
    ],
    [
      'within what is referred to',
      '<defs><g id="g" transform="translate(10 0)">',
      'x="20" width="90" height="60"',
      '</g></defs><g transform="scale(1 1)"><use href="#g" x="20" y="40"/></g>',
    ],
    [
      'in a symbol of its own scale',
      '<symbol id="s" viewBox="0 0 9 6">',
      'width="9" height="6"',
      '</symbol><use href="#s" x="50" y="40" width="90" height="60"/>',
    ],
    [
      'in a drawing in the drawing',
      '<svg x="50" y="40" width="30%" height="60" viewBox="5 0 9 6">',
      'x="5" width="100%" height="100%"',
      '</svg>',
    ],
    ['by percentages', '', 'x="16.6666666%" y="20%" width="30%" height="30%"', ''],
    ['as large as it is, scaled', '<g transform="translate(50 40) scale(3.75)">', '', '</g>'],
    [
      'cut by its box',
      '',
      'x="50" y="40" width="90" height="60" preserveAspectRatio="xMidYMid slice"',
      '',
    ],
  ])('of an SVG is found and put back where it is shown %s', async (_, before, image, after) => {
    const file = await svgWith(image, before, after);
    const [picture, ...others] = await picturesOf(file);
    expect(others).toEqual([]);
    expect(picture).toMatchObject({ times: 1, kept: null });
    expect(picture!.widthPt).toBeCloseTo(90, 3);
    expect(picture!.heightPt).toBeCloseTo(60, 3);
    const size = { width: 600, height: 400 };
    const { file: tiff, samples } = await treatedOf({ width: 180, height: 120 });
    const drawn = await drawAll(file, size, [{ picture: 1, file: tiff }], 128);
    const plain = await drawAll(file, size);
    let [off, beside] = [0, 0];
    for (let y = 0; y < 400; y++)
      for (let x = 0; x < 600; x++)
        for (let c = 0; c < 3; c++) {
          const i = (y * 600 + x) * 3 + c;
          const [u, v] = [x - 100, y - 80];
          if (u >= 0 && v >= 0 && u < 180 && v < 120)
            off = Math.max(off, Math.abs(drawn[i]! - samples[(v * 180 + u) * 3 + c]!));
          else beside = Math.max(beside, Math.abs(drawn[i]! - plain[i]!));
        }
    expect([off <= 1, beside]).toEqual([true, 0]);
  });

  it('of an SVG that is only cut to its box is put back whole, and cut as it was', async () => {
    const file = await svgWith(
      'x="50" y="40" width="60" height="60" preserveAspectRatio="xMidYMid slice"',
    );
    const [picture] = await picturesOf(file);
    expect(picture).toMatchObject({ kept: null });
    expect(picture!.widthPt).toBeCloseTo(90, 6);
    const { file: tiff } = await treatedOf({ width: 180, height: 120 });
    const size = { width: 600, height: 400 };
    const drawn = await drawAll(file, size, [{ picture: 1, file: tiff }]);
    const plain = await drawAll(file, size);
    const changed = (x: number, y: number) =>
      drawn.compare(
        plain,
        (y * 600 + x) * 3,
        (y * 600 + x) * 3 + 3,
        (y * 600 + x) * 3,
        (y * 600 + x) * 3 + 3,
      ) !== 0;
    expect([changed(90, 140), changed(110, 140), changed(210, 140), changed(230, 140)]).toEqual([
      ...[false, true, true, false],
    ]);
  });

  it('of an SVG that refers to it twice is treated in both places, and what only masks is none', async () => {
    const use =
      '<use href="#p" transform="translate(20 20)"/><use href="#p" transform="translate(150 60) scale(1.5)"/>';
    const twice = await svgWith('id="p" width="90" height="60"', '<defs>', `</defs>${use}`);
    const pictures = await picturesOf(twice);
    expect(pictures).toMatchObject([{ times: 2, kept: null }]);
    expect(pictures[0]!.widthPt).toBeCloseTo(135, 6);
    const { file: tiff } = await treatedOf({ width: 270, height: 180 });
    const size = { width: 600, height: 400 };
    const drawn = await drawAll(twice, size, [{ picture: 1, file: tiff }], 128);
    const plain = await drawAll(twice, size);
    for (const [x, y] of [
      [60, 60],
      [200, 140],
      [320, 140],
      [550, 280],
    ] as const) {
      const i = (y * 600 + x) * 3;
      expect(drawn.compare(plain, i, i + 3, i, i + 3)).not.toBe(0);
    }
    const masked = '<rect width="90" height="60" mask="url(#m)"/>';
    const mask = await svgWith('width="90" height="60"', '<mask id="m">', `</mask>${masked}`);
    expect(await picturesOf(mask)).toEqual([]);
  });

  it('of an SVG whose references never end, or multiply, is looked for only so far', async () => {
    const round = '<g id="a"><use href="#b"/></g><g id="b"><use href="#a"/>';
    const [endless] = await picturesOf(await svgWith('width="9" height="6"', round, '</g>'));
    expect(endless!.times).toBeLessThan(5);
    const doubled = Array.from(
      { length: 12 },
      (_, i) => `<g id="d${i + 1}"><use href="#d${i}"/><use href="#d${i}" x="1"/></g>`,
    );
    const many = await svgWith(
      'id="d0" width="9" height="6"',
      '<defs>',
      `${doubled.join('')}</defs><use href="#d12"/>`,
    );
    expect((await picturesOf(many))[0]!.kept).toMatch(/not followed/);
    // … also where none of them is ever drawn.
    const chain = Array.from(
      { length: 40 },
      (_, i) => `<g id="d${i + 1}"><use href="#d${i}"/><use href="#d${i}" x="1"/></g>`,
    );
    const hidden = `<defs>${chain.join('')}</defs>`;
    const never = await svgWith('id="d0" width="9" height="6"', '<defs>', `</defs>${hidden}`);
    expect((await picturesOf(never))[0]!.kept).toMatch(/not followed/);
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

  /** Clipped to a circle beside its middle, laid at half its strength. */
  const CLIPPED =
    'q 100 60 m 100 80 60 80 60 60 c 60 40 100 40 100 60 c h W n /G gs 120 0 0 80 20 30 cm /P Do Q';
  const clipped = async () => {
    const resources = '/XObject<</P 1 0 R>>/ExtGState<</G<</ca 0.5>>>>';
    const page = { ...PAGE, content: `${GROUND} ${CLIPPED}`, resources };
    return place(buildPdf([page], await pictureObjects(false)), 'pdf');
  };

  it('leaves what its place clips, and how it is laid there, to its place', async () => {
    const file = await clipped();
    const got = await sharp(await takenOut(file))
      .raw()
      .toBuffer({ resolveWithObject: true });
    expect(got.info).toMatchObject({ ...OWN, channels: 3 });
    expect(got.data.equals(await own().raw().toBuffer())).toBe(true);
    const black = join(folder, `${++count}.tif`);
    await sharp({ create: { width: 240, height: 160, channels: 3, background: '#000' } })
      .tiff({ compression: 'none' })
      .toFile(black);
    const size = { width: 600, height: 400 };
    const [drawn, plain] = [
      await drawAll(file, size, [{ picture: 1, file: black }]),
      await drawAll(file, size),
    ];
    const at = (x: number, y: number) => [
      ...drawn.subarray((y * 600 + x) * 3, (y * 600 + x) * 3 + 3),
    ];
    // Half of the ground shows through the middle of the circle, all of it beyond.
    expect(at(160, 280)).toEqual([115, 121, 102]);
    expect(at(60, 280)).toEqual([230, 242, 204]);
    let changed = 0;
    for (let i = 0; i < drawn.length; i += 3) if (drawn[i] !== plain[i]) changed++;
    // A circle whose curves bulge less than a true one's: 80 x 60 pixels of the drawing.
    expect(changed / (80 * 60)).toBeGreaterThan(0.6);
    expect(changed / (80 * 60)).toBeLessThan(1);
  });

  it('gives a JPEG that is wrapped once more as it is', async () => {
    const jpeg = await testPixels(120, 80).jpeg({ quality: 60 }).toBuffer();
    const wrapped: PdfObject = {
      dictionary:
        '/Type/XObject/Subtype/Image/Width 120/Height 80/ColorSpace/DeviceRGB/BitsPerComponent 8/Filter[/FlateDecode/DCTDecode]',
      stream: deflateSync(jpeg),
    };
    const content = `${GROUND} ${at('60 0 0 40 20 30')}`;
    const page = { ...PAGE, content, resources: '/XObject<</P 1 0 R>>' };
    expect((await takenOut(await place(buildPdf([page], [wrapped]), 'pdf'))).equals(jpeg)).toBe(
      true,
    );
  });

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

  it('says which pictures stay as they are: stencils, and what an SVG shows as a pattern or by a style', async () => {
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
    const pattern = '<pattern id="t" width="9" height="6" patternUnits="userSpaceOnUse">';
    const paint = '<rect width="90" height="60" fill="url(#t)"/>';
    const tiled = await svgWith('width="9" height="6"', pattern, `</pattern>${paint}`);
    expect((await picturesOf(tiled))[0]?.kept).toMatch(/as a pattern/);
    const coloured = await svgWith(
      'width="90" height="60"',
      '<style>.a{fill:red;stroke-width:2}</style>',
    );
    expect((await picturesOf(coloured))[0]?.kept).toBeNull();
    const moved = await svgWith('width="90" height="60"', '<style>image { width: 50px }</style>');
    expect((await picturesOf(moved))[0]?.kept).toMatch(/by a style/);
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
