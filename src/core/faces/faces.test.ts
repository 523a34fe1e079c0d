import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { MODELS } from '../learned/models';
import { ModelProblem } from '../learned/network';
import { readAnyConvolutions, type Convolution } from '../learned/onnx';
import { RGB } from '../raster/form';
import { emptyRaster, type Raster } from '../raster/raster';
import { fromSamples } from '../raster/samples';
import type { SampleSource } from '../raster/source';
import { memorySource, random, testPicture } from '../testing';
import { drawnFace } from '../testing/face';
import { faceDetector } from './detector';
import { findFaces } from './find';
import { doubledPlanes, halvedPlanes, reducedBy } from './reduced';
import { facesFound } from './words';

const convolutions = readAnyConvolutions(readFileSync(`models/${MODELS.faces.file}`));
const detector = faceDetector(convolutions);
const find = (raster: Raster) => findFaces(memorySource(raster), detector);

/** What the network answers, in double precision, as it is defined. */
function reference(planes: readonly Float32Array[], width: number, height: number): number[][] {
  let channels = planes.map((plane) => Float64Array.from(plane));
  let [w, h] = [width, height];
  const last = convolutions.length - 1;
  convolutions.forEach(({ inputs, outputs, weights, biases }, layer) => {
    const side = Math.sqrt(weights.length / inputs / outputs);
    const alone = inputs === 1;
    const rim = (side - 1) / 2;
    const next = Array.from({ length: outputs }, (_, o) => {
      const plane = new Float64Array(w * h);
      for (let y = 0; y < h; y++) {
        for (let x = 0; x < w; x++) {
          let sum = biases[o]!;
          for (let i = 0; i < inputs; i++) {
            const from = channels[alone ? o : i]!;
            for (let v = -rim; v <= rim; v++) {
              for (let u = -rim; u <= rim; u++) {
                if (x + u < 0 || y + v < 0 || x + u >= w || y + v >= h) continue;
                const at = ((o * inputs + i) * side + v + rim) * side + u + rim;
                sum += weights[at]! * from[(y + v) * w + x + u]!;
              }
            }
          }
          plane[y * w + x] = sum < 0 && !alone && layer < last ? 0.1 * sum : sum;
        }
      }
      return plane;
    });
    channels = next;
    if (alone || layer === last) return;
    const step = layer === last - 1 ? 1 : 2;
    const [over, down] = [w / step, h / step];
    channels = channels.map((plane) =>
      Float64Array.from({ length: over * down }, (_, at) => {
        const [x, y] = [(at % over) * step, Math.floor(at / over) * step];
        const value = (u: number, v: number) =>
          plane[Math.min(h - 1, y + v) * w + Math.min(w - 1, x + u)]!;
        return Math.max(value(0, 0), value(1, 0), value(0, 1), value(1, 1));
      }),
    );
    [w, h] = [over, down];
  });
  return channels.map((plane) => [...plane]);
}

/** What the network is not given of R, G, B: it is told by its package. */
const MEAN = [117.001, 114.697, 97.404];

describe('the detector', () => {
  it('answers as its network is defined, in double precision', () => {
    const size = { width: 96, height: 64 };
    const next = random(11);
    const planes = [0, 1, 2].map(() => Float32Array.from({ length: 96 * 64 }, next));
    const { values, width, height } = detector(planes, size);
    expect([width, height]).toEqual([3, 2]);
    const wanted = reference(
      planes.map((plane, c) => plane.map((value) => value - MEAN[c]! / 255)),
      96,
      64,
    ).flat();
    expect(values.length).toBe(wanted.length);
    wanted.forEach((value, i) => expect(values[i]).toBeCloseTo(value, 3));
  });

  it('takes pictures of any size', () => {
    const plane = new Float32Array(50 * 33).fill(0.2);
    const { width, height } = detector([plane, plane, plane], { width: 50, height: 33 });
    expect([width, height]).toEqual([2, 2]);
  });

  it.each<[string, (layers: Convolution[]) => Convolution[]]>([
    ['a layer less', (layers) => layers.slice(0, -1)],
    ['layers in another order', (layers) => [...layers].reverse()],
    ['a layer twice', (layers) => [layers[0]!, ...layers]],
  ])('refuses a model with %s', (_, changed) => {
    expect(() => faceDetector(changed(convolutions))).toThrow(ModelProblem);
  });
});

describe('faces', () => {
  const size = { width: 400, height: 320 };

  it.each([36, 48, 60, 120])('of %i pixels are found where they are', async (width) => {
    const faces = await find(drawnFace(size, { x: 170, y: 130, width }));
    expect(faces).toHaveLength(1);
    const [face] = faces;
    expect(Math.abs(face!.x + face!.width / 2 - 170)).toBeLessThan(0.25 * width);
    expect(Math.abs(face!.y + face!.height / 2 - 130)).toBeLessThan(0.35 * width);
    expect(face!.width / width).toBeGreaterThan(0.7);
    expect(face!.width / width).toBeLessThan(1.7);
    expect(face!.sure).toBeGreaterThanOrEqual(0.75);
  });

  it('of five pixels are none', async () => {
    expect(await find(drawnFace(size, { x: 170, y: 130, width: 5 }))).toEqual([]);
  });

  it('are found on a picture that is too large to be looked at whole', async () => {
    const large = { width: 1900, height: 860 };
    const [face] = await find(drawnFace(large, { x: 900, y: 400, width: 240 }));
    expect(Math.abs(face!.x + face!.width / 2 - 900)).toBeLessThan(50);
    expect(face!.x + face!.width).toBeLessThanOrEqual(large.width);
  });

  it.each([
    ['one colour', () => emptyRaster(300, 200, RGB)],
    ['a test picture', () => testPicture({ width: 300, height: 200 })],
    ['eight pixels a side', () => testPicture({ width: 8, height: 8 })],
    ['one row', () => testPicture({ width: 5000, height: 1 })],
    [
      'noise alone',
      () => {
        const next = random(5);
        const raster = emptyRaster(300, 200, RGB);
        for (const plane of raster.planes) plane.forEach((_, i) => (plane[i] = next()));
        return raster;
      },
    ],
  ])('are not found on %s', async (_, made) => {
    expect(await find(made())).toEqual([]);
  });

  it('are told of in a sentence', async () => {
    expect(facesFound([])).toBe('No face was found on this picture.');
    const face = { x: 1, y: 1, width: 40, height: 51.4, sure: 1 };
    expect(facesFound([face])).toBe('One face was found, 51 px high.');
    expect(facesFound([face, { ...face, width: 20, height: 24 }])).toBe(
      '2 faces were found, 24 to 51 px high.',
    );
  });
});

describe('smaller and larger planes', () => {
  it('are means of squares, and straight lines between middles', async () => {
    const raster = emptyRaster(5, 4, RGB);
    raster.planes[0]!.forEach((_, i) => (raster.planes[0]![i] = i % 5));
    const half = await reducedBy(memorySource(raster), 2);
    expect([half.width, half.height]).toEqual([2, 2]);
    expect([...half.planes[0]!]).toEqual([0.5, 2.5, 0.5, 2.5]);
    const whole = await reducedBy(memorySource(raster), 1);
    expect([...halvedPlanes(whole).planes[0]!]).toEqual([0.5, 2.5, 0.5, 2.5]);
    const twice = doubledPlanes(half);
    expect([twice.width, twice.height]).toEqual([4, 4]);
    expect([...twice.planes[0]!.subarray(0, 4)]).toEqual([0.5, 1, 2, 2.5]);
  });

  it.each([
    [8, 3],
    [8, 4],
    [16, 4],
  ] as const)(
    'are the same of samples of %i bits as a file of %i channels holds them',
    async (depth, channels) => {
      const next = random(5);
      const size = { width: 23, height: 140 };
      const values = Array.from({ length: size.width * size.height * channels }, () =>
        Math.floor(next() * (depth === 8 ? 256 : 65536)),
      );
      const samples = depth === 8 ? Uint8Array.from(values) : Uint16Array.from(values);
      const planes = memorySource(fromSamples(samples, size.width, size.height, channels, depth));
      const file: SampleSource = {
        ...{ size, depth, channels, read: planes.read },
        samples: async ({ x, y, width, height }) => {
          const pixel = (channels * depth) / 8;
          const bytes = new Uint8Array(samples.buffer);
          const rows = Array.from({ length: height }, (_, row) => {
            const at = ((y + row) * size.width + x) * pixel;
            return [...bytes.subarray(at, at + width * pixel)];
          });
          return Uint8Array.from(rows.flat());
        },
      };
      const [one, other] = [await reducedBy(file, 3), await reducedBy(planes, 3)];
      expect(one.planes).toHaveLength(3);
      one.planes.forEach((plane, c) => {
        expect(plane).toHaveLength(7 * 46);
        plane.forEach((value, i) => expect(value).toBeCloseTo(other.planes[c]![i]!, 5));
      });
    },
  );
});
