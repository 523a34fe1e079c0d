import sharp, { type Sharp } from 'sharp';
import { beforeAll, describe, expect, it } from 'vitest';
import { memorySource, random } from '../testing';
import { fromSamples } from '../raster/samples';
import { findingsInWords } from './words';
import { inspectPixels, type PixelFindings } from './inspect';
import { readJpegHeader } from './jpeg';
import { enlargedBefore } from './enlarged-before';
import { repeatedCells } from './repeated';
import { testFindings } from '../testing';

const SIDE = { width: 512, height: 384 };

/** A made-up photograph: soft light, hard edges at many angles, texture. */
function scene({ width, height } = SIDE, grain = 0, seed = 3): Sharp {
  const next = random(seed);
  const pixels = Buffer.alloc(width * height * 3);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const cell = (Math.floor((x + y / 3) / 37) * 7 + Math.floor((y - x / 5) / 29) * 13) % 11;
      const light = 70 + 60 * Math.sin(x / 90) * Math.cos(y / 70) + 9 * cell;
      const texture = 14 * Math.sin(x * 0.9) * Math.sin(y * 1.1 + x * 0.2) * (cell % 3);
      for (let c = 0; c < 3; c++) {
        const noise = grain * (next() + next() + next() + next() - 2) * Math.sqrt(3);
        const value = light + texture + 6 * c * (cell % 2) + noise;
        pixels[(y * width + x) * 3 + c] = Math.max(0, Math.min(255, Math.round(value)));
      }
    }
  return sharp(pixels, { raw: { width, height, channels: 3 } });
}

async function inspected(image: Sharp | Buffer): Promise<PixelFindings> {
  const { data, info } = await (Buffer.isBuffer(image) ? sharp(image) : image)
    .toColourspace('srgb')
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const raster = fromSamples(data, info.width, info.height, 3, 8);
  return (await inspectPixels(memorySource(raster))).findings;
}

describe('the estimated JPEG quality', () => {
  it.each(['4:4:4', '4:2:0'] as const)(
    'is within 2 of the encoder’s from 5 to 98, %s',
    async (chromaSubsampling) => {
      const small = await scene({ width: 64, height: 64 }).png().toBuffer();
      for (let quality = 5; quality <= 98; quality++) {
        const bytes = await sharp(small).jpeg({ quality, chromaSubsampling }).toBuffer();
        const found = readJpegHeader(bytes)!.facts!;
        expect(
          Math.abs((found.quality ?? -99) - quality),
          `quality ${quality}`,
        ).toBeLessThanOrEqual(2);
        expect([found.samplingX, found.samplingY]).toEqual(
          chromaSubsampling === '4:4:4' ? [1, 1] : [2, 2],
        );
      }
    },
  );

  it('holds for samples that are halved across alone, and for grey', async () => {
    const small = await scene({ width: 64, height: 64 }).png().toBuffer();
    for (let quality = 5; quality <= 98; quality++) {
      const bytes = await sharp(small).jpeg({ quality, chromaSubsampling: '4:2:0' }).toBuffer();
      // The frame header says how samples are laid out: 2 x 1 in place of 2 x 2.
      const frame = bytes.indexOf(Buffer.from([0xff, 0xc0]));
      bytes[frame + 11] = 0x21;
      const found = readJpegHeader(bytes)!.facts!;
      expect(Math.abs((found.quality ?? -99) - quality)).toBeLessThanOrEqual(2);
      expect([found.samplingX, found.samplingY]).toEqual([2, 1]);
      const grey = await sharp(small).toColourspace('b-w').jpeg({ quality }).toBuffer();
      expect(Math.abs(readJpegHeader(grey)!.facts!.quality! - quality)).toBeLessThanOrEqual(2);
    }
  });

  it('is none where tables are not the common ones', async () => {
    const bytes = await scene({ width: 64, height: 64 })
      .jpeg({ quality: 60, quantisationTable: 3 })
      .toBuffer();
    expect(readJpegHeader(bytes)!.facts!.quality).toBeNull();
  });
});

describe('findings in pixels', () => {
  let clean: PixelFindings;
  beforeAll(async () => {
    clean = await inspected(scene());
  });

  it('of a clean picture are next to nothing', () => {
    expect(clean.blocking.strength).toBeLessThan(4);
    expect(clean.noise.luma).toBeLessThan(1);
    expect(clean.detail).toBeGreaterThan(0.8);
    expect(clean.banding).toBeLessThan(0.05);
    expect(clean.grid).toBeNull();
    expect(clean.kind).toBe('photograph');
  });

  it.each([2, 5, 10])(
    'tell noise of %d levels, a little too high where there is texture',
    async (grain) => {
      const { noise } = await inspected(scene(SIDE, grain));
      // Luminance is a weighted sum of three channels with noise of their own.
      const luma = grain * Math.hypot(0.299, 0.587, 0.114);
      expect(noise.luma / luma).toBeGreaterThan(0.8);
      expect(noise.luma / luma).toBeLessThan(1.4);
      expect(noise.colour).toBeGreaterThan(0.2 * grain);
    },
  );

  it.each([
    [2, 0.17, 0.5],
    [3, 0.06, 0.25],
    [4, 0.03, 0.15],
  ])('unmask a picture that was enlarged %d times', async (factor, least, most) => {
    const sharpOne = await scene({
      width: Math.round(512 / factor),
      height: Math.round(384 / factor),
    })
      .resize(512, 384, { kernel: 'cubic', fit: 'fill' })
      .png()
      .toBuffer();
    const { detail } = await inspected(sharpOne);
    expect(detail).toBeGreaterThan(least);
    expect(detail).toBeLessThan(most);
  });

  it('do not take a soft background for a soft picture, and the map shows where it is', async () => {
    const left = await scene()
      .blur(6)
      .extract({ left: 0, top: 0, width: 384, height: 384 })
      .png()
      .toBuffer();
    const half = await sharp(await scene().png().toBuffer())
      .composite([{ input: left, left: 0, top: 0 }])
      .png()
      .toBuffer();
    const { data } = await sharp(half).removeAlpha().raw().toBuffer({ resolveWithObject: true });
    const raster = fromSamples(data, 512, 384, 3, 8);
    const { findings, maps } = await inspectPixels(memorySource(raster));
    expect(findings.detail).toBeGreaterThan(0.7);
    const mean = (from: number, to: number) => {
      const values = maps.sharpness.filter((value, i): value is number => {
        const column = i % maps.columns;
        return value !== null && column >= from && column < to;
      });
      return values.reduce((sum, value) => sum + value, 0) / values.length;
    };
    expect(maps.columns).toBe(8);
    expect(mean(0, 5)).toBeLessThan(50);
    expect(mean(6, 8)).toBeGreaterThan(80);
  });

  it('see blocks in a PNG that was made from a JPEG, and ringing beside its edges', async () => {
    const jpeg = await scene().jpeg({ quality: 20 }).toBuffer();
    const { blocking, ringing } = await inspected(await sharp(jpeg).png().toBuffer());
    expect(blocking).toMatchObject({ offsetX: 0, offsetY: 0 });
    expect(blocking.strength).toBeGreaterThan(15);
    expect(ringing).toBeGreaterThan(clean.ringing);
  });

  it('count what is clipped and what climbs in steps', async () => {
    const flat = Buffer.alloc(256 * 128 * 3);
    flat.forEach((_, i) => {
      const x = Math.floor(i / 3) % 256;
      flat[i] = x < 64 ? 0 : x < 96 ? 255 : 40 + Math.floor((x - 96) / 20) * 5;
    });
    const { clipped, banding } = await inspected(
      sharp(flat, { raw: { width: 256, height: 128, channels: 3 } }),
    );
    expect(clipped.dark).toBeCloseTo(0.25, 1);
    expect(clipped.bright).toBeCloseTo(0.125, 1);
    expect(banding).toBeGreaterThan(0.3);
  });

  it('are said in a figure and a plain sentence each', async () => {
    const words = findingsInWords(testFindings(SIDE, clean));
    expect(words.map((finding) => finding.name)).toEqual([
      'Detail',
      'Blur',
      'Blocking',
      'Noise',
      'Ringing',
      'Halos',
      'Fringes',
      'Banding',
      'Clipped',
    ]);
    for (const { figure, sentence } of words) {
      expect(figure).not.toMatch(/NaN|undefined/);
      expect(sentence).toMatch(/\.$/);
    }
    const shifted = findingsInWords(
      testFindings(SIDE, {
        detail: 0.3,
        blocking: { ratio: 1.6, strength: 40, offsetX: 3, offsetY: 5 },
      }),
    );
    expect(shifted[0]!.sentence).toMatch(
      /About 30 % of its pixels hold detail: it was enlarged before/,
    );
    expect(shifted[2]!.sentence).toMatch(/begins at 3, 5: it was a JPEG before/);
  });
});

describe('repeated pixels', () => {
  const small = () => scene({ width: 83, height: 61 }, 4).png().toBuffer();

  it.each([
    [332, 244],
    [249, 183],
    [290, 213],
    [207, 152],
    [410, 330],
  ])('are taken back to 83 x 61 from %d x %d', async (width, height) => {
    const blown = sharp(await small()).resize(width, height, { kernel: 'nearest', fit: 'fill' });
    const { grid, kind, blocking } = await inspected(blown);
    expect(grid).toEqual({ width: 83, height: 61 });
    expect(kind).toBe('pixel squares');
    expect(blocking.strength).toBe(0);
  });

  it('are found though they were compressed afterwards', async () => {
    const blown = await sharp(await small())
      .resize(415, 305, { kernel: 'nearest', fit: 'fill' })
      .jpeg({ quality: 92, chromaSubsampling: '4:4:4' })
      .toBuffer();
    expect((await inspected(blown)).grid).toEqual({ width: 83, height: 61 });
  });

  it.each([
    [3, 100, { left: 4, top: 2 }],
    [4, 70, { left: 5, top: 7 }],
    [5, 70, { left: 0, top: 0 }],
    [6, 80, { left: 3, top: 1 }],
    [8, 70, { left: 9, top: 3 }],
    [19, 70, { left: 8, top: 4 }],
    [24, 80, { left: 5, top: 9 }],
    [40, 90, { left: 11, top: 6 }],
  ])('%d times as large are found on a crop at JPEG quality %d', async (times, quality, cut) => {
    const blown = await sharp(await small())
      .resize(83 * times, 61 * times, { kernel: 'nearest' })
      .toBuffer();
    const size = { width: 83 * times - 21, height: 61 * times - 17 };
    const cropped = sharp(blown).extract({ ...cut, ...size });
    const { grid } = await inspected(await cropped.jpeg({ quality }).toBuffer());
    const covers = grid!.covers ?? { x: 0, y: 0, ...size };
    // Cells lie where they lay, and no more than half of one is left out or made up.
    expect((((covers.x + cut.left) % times) + times) % times).toBe(0);
    expect((((covers.y + cut.top) % times) + times) % times).toBe(0);
    expect(covers.width).toBe(grid!.width * times);
    expect(covers.height).toBe(grid!.height * times);
    expect(Math.abs(covers.x)).toBeLessThanOrEqual(times / 2);
    expect(Math.abs(covers.x + covers.width - size.width)).toBeLessThanOrEqual(times / 2);
    expect(Math.abs(covers.y + covers.height - size.height)).toBeLessThanOrEqual(times / 2);
  });

  it.each([20, 50, 90])('are not blocks of compression, at JPEG quality %d', async (quality) => {
    for (const seed of [3, 4]) {
      expect(
        (await inspected(await scene(SIDE, seed).jpeg({ quality }).toBuffer())).grid,
      ).toBeNull();
    }
  });

  it('are not told by chance: not on a few pixels, nor where small squares were enlarged smoothly', async () => {
    const next = random(9);
    const noise = (side: number) =>
      sharp(
        Buffer.alloc(side * side * 3).map(() => 256 * next()),
        { raw: { width: side, height: side, channels: 3 } },
      );
    for (const side of [1, 8, 16]) {
      for (let tries = 0; tries < 20; tries++)
        expect((await inspected(noise(side))).grid).toBeNull();
    }
    const small = await noise(120).png().toBuffer();
    for (const kernel of ['cubic', 'lanczos3', 'mitchell'] as const) {
      const smooth = sharp(small).resize(360, 360, { kernel });
      expect((await inspected(smooth)).grid, kernel).toBeNull();
    }
  });

  it('are not seen where pictures are smooth, sharp, or merely regular', async () => {
    expect((await inspected(scene(SIDE, 3))).grid).toBeNull();
    const smooth = sharp(await small()).resize(332, 244, { kernel: 'cubic', fit: 'fill' });
    expect((await inspected(smooth)).grid).toBeNull();
    expect(repeatedCells({ all: new Float64Array(300), strong: new Float64Array(300) })).toBeNull();
  });
});

describe('earlier enlargement', () => {
  /** A sharp scene of so many pixels, made larger. */
  const enlarged = async (side: number, to: number, kernel: 'cubic' | 'lanczos3' | 'mitchell') => {
    const sharply = await scene({ width: 1200, height: 1200 }, 2)
      .resize(side, side, { kernel: 'lanczos3' })
      .png()
      .toBuffer();
    return sharp(sharply).resize(to, to, { kernel });
  };

  it.each([
    [400, 600, 'cubic', 1.5],
    [300, 600, 'lanczos3', 2],
    [300, 600, 'mitchell', 2],
    [200, 600, 'cubic', 3],
  ] as const)('of %i to %i pixels by %s is told as %f times', async (side, to, kernel, factor) => {
    const { enlarged: told, detail } = await inspected(await enlarged(side, to, kernel));
    expect(told).toBeCloseTo(factor, 1);
    expect(detail).toBeLessThanOrEqual(1 / factor ** 2 + 0.01);
  });

  it.each([0, 30, 75, 92])(
    'is not told where there was none, at JPEG quality %i',
    async (quality) => {
      for (const seed of [3, 4, 5]) {
        const plain = scene({ width: 500, height: 400 }, 3, seed);
        const file = quality ? await plain.jpeg({ quality }).toBuffer() : plain;
        expect((await inspected(file)).enlarged).toBeNull();
      }
    },
  );

  it('is not told of what is small, flat, or reduced', async () => {
    expect((await inspected(await enlarged(50, 100, 'cubic'))).enlarged).toBeNull();
    const flat = sharp({ create: { width: 300, height: 300, channels: 3, background: '#789' } });
    expect((await inspected(flat)).enlarged).toBeNull();
    expect(
      (await inspected(scene({ width: 900, height: 700 }, 2).resize(450, 350))).enlarged,
    ).toBeNull();
  });

  it('needs both sides to agree, and tells sizes of one rhythm apart by detail', () => {
    expect(enlargedBefore(0.5, null, 0.5)).toBeNull();
    expect(enlargedBefore(0.5, 0.4, 0.5)).toBeNull();
    expect(enlargedBefore(1 / 3, 1 / 3, 0.36)).toBeCloseTo(3, 6);
    expect(enlargedBefore(1 / 3, 1 / 3, 0.7)).toBeCloseTo(1.5, 6);
    // Between the two, and beyond both, nothing is said.
    expect(enlargedBefore(1 / 3, 1 / 3, 0.495)).toBeNull();
    expect(enlargedBefore(0.5, 0.5, 0.9)).toBeNull();
    expect(enlargedBefore(0.5, 0.5, null)).toBeNull();
  });
});
