import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { random } from '../testing';
import { residualNetwork } from './convolutions';
import { CONVOLUTIONS } from './enlarger';
import { MODELS } from './models';
import { readConvolutions, type Convolution } from './onnx';

const next = random(5);
const layer = (inputs: number, outputs: number): Convolution => ({
  inputs,
  outputs,
  weights: Float32Array.from({ length: inputs * outputs * 9 }, () => (next() - 0.5) * 0.5),
  biases: Float32Array.from({ length: outputs }, () => next() - 0.5),
});
const chain = [layer(5, 8), layer(8, 8), layer(8, 8), layer(8, 8), layer(8, 8), layer(8, 12)];

type Planes = Float64Array[];

/** A convolution as the textbook has it, in double precision, zeros beyond the borders. */
function convolved(planes: Planes, of: Convolution, width: number, height: number): Planes {
  return Array.from({ length: of.outputs }, (_, o) =>
    Float64Array.from({ length: width * height }, (__, i) => {
      let sum = of.biases[o]!;
      for (let c = 0; c < of.inputs; c++)
        for (let ky = 0; ky < 3; ky++)
          for (let kx = 0; kx < 3; kx++) {
            const x = (i % width) + kx - 1;
            const y = Math.floor(i / width) + ky - 1;
            if (x < 0 || y < 0 || x >= width || y >= height) continue;
            sum +=
              of.weights[((o * of.inputs + c) * 3 + ky) * 3 + kx]! * planes[c]![y * width + x]!;
          }
      return sum;
    }),
  );
}

const bent = (planes: Planes): Planes => planes.map((p) => p.map((v) => Math.max(v, 0.1 * v)));
const added = (a: Planes, b: Planes): Planes => a.map((p, c) => p.map((v, i) => v + b[c]![i]!));

function reference(
  input: Float32Array,
  width: number,
  height: number,
): (x: number, y: number) => number {
  const count = width * height;
  const planes = Array.from({ length: 5 }, (_, c) =>
    Float64Array.from(input.subarray(c * count, (c + 1) * count)),
  );
  const run = (from: Planes, k: number) => convolved(from, chain[k]!, width, height);
  const features = bent(run(planes, 0));
  let body = features;
  for (const k of [1, 3]) body = added(body, run(bent(run(body, k)), k + 1));
  const last = run(added(features, body), 5);
  // Twelve channels: two by two pixels of three planes; the second plane is looked at.
  return (x, y) => last[4 + (y % 2) * 2 + (x % 2)]![(y >> 1) * width + (x >> 1)]!;
}

const WIDTH = 45;
const HEIGHT = 60;
const input = Float32Array.from({ length: 5 * WIDTH * HEIGHT }, () => next());
/** So far from a border nothing of what lies beyond it is seen. */
const RIM = 6;

describe('a network of convolutions', () => {
  it('computes what the textbook does', async () => {
    const expected = reference(input, WIDTH, HEIGHT);
    const found = await residualNetwork(chain).run(input, WIDTH, HEIGHT);
    const wide = 2 * WIDTH;
    let worst = 0;
    for (let y = 2 * RIM; y < 2 * (HEIGHT - RIM); y++)
      for (let x = 2 * RIM; x < 2 * (WIDTH - RIM); x++) {
        const value = found[2 * HEIGHT * wide + y * wide + x]!;
        worst = Math.max(worst, Math.abs(value - expected(x, y)));
      }
    expect(worst).toBeLessThan(1e-4);
    expect(found.every(Number.isFinite)).toBe(true);
  });

  it('gives the same bits however the rows and columns about a place are cut', async () => {
    const network = residualNetwork(chain);
    const all = await network.run(input, WIDTH, HEIGHT);
    // Six convolutions: six columns, and six times four rows that are rounded together.
    const part = { x: 11, y: 4, width: 31, height: 52 };
    const cut = Float32Array.from({ length: 5 * part.width * part.height }, (_, i) => {
      const c = Math.floor(i / (part.width * part.height));
      const y = Math.floor((i / part.width) % part.height);
      return input[(c * HEIGHT + part.y + y) * WIDTH + part.x + (i % part.width)]!;
    });
    const small = await network.run(cut, part.width, part.height);
    for (let y = 48; y < 2 * part.height - 48; y++)
      for (let x = 12; x < 2 * part.width - 12; x++) {
        const there = all[(y + 2 * part.y) * 2 * WIDTH + x + 2 * part.x]!;
        expect(small[y * 2 * part.width + x]).toBe(there);
      }
  });

  it('does not see what the kernels computed before', async () => {
    const network = residualNetwork(chain);
    const first = await network.run(input, WIDTH, HEIGHT);
    await residualNetwork([layer(5, 16), layer(16, 12)]).run(
      input.map(() => NaN),
      WIDTH,
      HEIGHT,
    );
    expect(await network.run(input, WIDTH, HEIGHT)).toEqual(first);
  });

  it('refuses layers that do not follow one another', () => {
    expect(() => residualNetwork([layer(5, 8), layer(12, 12)])).toThrow(/do not follow/);
    expect(() => residualNetwork([layer(5, 8), layer(8, 8), layer(8, 12)])).toThrow(
      /do not follow/,
    );
    expect(() => residualNetwork([layer(5, 6), layer(6, 12)])).toThrow(/groups/);
  });
});

describe('the convolutions of a file', () => {
  it.each(['photo', 'art'] as const)('are read for %s', (name) => {
    const list = readConvolutions(readFileSync(`models/${MODELS[name].file}`));
    expect(list).toHaveLength(CONVOLUTIONS);
    expect([list[0]!.inputs, list.at(-1)!.outputs]).toEqual([5, 48]);
    for (const { inputs, outputs, weights, biases } of list) {
      expect(weights).toHaveLength(inputs * outputs * 9);
      expect(biases).toHaveLength(outputs);
      expect(weights.every((weight) => Math.abs(weight) < 20)).toBe(true);
    }
  });

  it.each([
    ['nothing', new Uint8Array()],
    ['text', new TextEncoder().encode('not a model, but a long enough text')],
    ['half a model', readFileSync(`models/${MODELS.photo.file}`).subarray(0, 20_000)],
  ])('are not read from %s', (_, bytes) => {
    expect(() => readConvolutions(bytes)).toThrow(/could not be read/);
  });
});
