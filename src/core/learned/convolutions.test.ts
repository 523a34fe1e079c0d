import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { random, withoutMargin } from '../testing';
import { residualNetwork, type Form } from './convolutions';
import { REACH } from './enlarger';
import { MODELS, type ModelName } from './models';
import { readConvolutions, type Convolution } from './onnx';

const next = random(5);
const layer = (inputs: number, outputs: number): Convolution => ({
  inputs,
  outputs,
  weights: Float32Array.from({ length: inputs * outputs * 9 }, () => (next() - 0.5) * 0.3),
  biases: Float32Array.from({ length: outputs }, () => (next() - 0.5) * 0.5),
});
const chain = [layer(5, 8), layer(8, 8), layer(8, 8), layer(8, 8), layer(8, 8), layer(8, 12)];
const plainForm: Form = { unshuffle: 1, shuffle: 2 };

type Planes = Float64Array[];

/** A convolution as the textbook has it, in double precision, zeros beyond the borders. */
function convolved(planes: Planes, of: Convolution, width: number, height: number): Planes {
  return Array.from({ length: of.outputs }, (_, o) => {
    const sums = new Float64Array(width * height).fill(of.biases[o]!);
    for (let c = 0; c < of.inputs; c++)
      for (let ky = -1; ky <= 1; ky++)
        for (let kx = -1; kx <= 1; kx++) {
          const weight = of.weights[((o * of.inputs + c) * 3 + ky + 1) * 3 + kx + 1]!;
          for (let y = Math.max(0, -ky); y < Math.min(height, height - ky); y++)
            for (let x = Math.max(0, -kx); x < Math.min(width, width - kx); x++)
              sums[y * width + x]! += weight * planes[c]![(y + ky) * width + x + kx]!;
        }
    return sums;
  });
}

const bent = (planes: Planes): Planes => planes.map((p) => p.map((v) => Math.max(v, 0.1 * v)));
const added = (a: Planes, b: Planes): Planes => a.map((p, c) => p.map((v, i) => v + b[c]![i]!));

/** The whole network in double precision: a value of one of the three planes it makes. */
function reference(
  of: Convolution[],
  { unshuffle, shuffle }: Form,
  input: Float32Array,
  wide: number,
  high: number,
): (plane: number, x: number, y: number) => number {
  const width = wide / unshuffle;
  const height = high / unshuffle;
  const planes = Array.from({ length: of[0]!.inputs }, (_, channel) => {
    const c = Math.floor(channel / unshuffle ** 2);
    const v = Math.floor(channel / unshuffle) % unshuffle;
    return Float64Array.from({ length: width * height }, (__, i) => {
      const x = (i % width) * unshuffle + (channel % unshuffle);
      return input[(c * high + Math.floor(i / width) * unshuffle + v) * wide + x]!;
    });
  });
  const run = (from: Planes, k: number) => convolved(from, of[k]!, width, height);
  const features = bent(run(planes, 0));
  let body = features;
  for (let k = 1; k < of.length - 1; k += 2) body = added(body, run(bent(run(body, k)), k + 1));
  const last = run(added(features, body), of.length - 1);
  return (plane, x, y) => {
    const channel = (plane * shuffle + (y % shuffle)) * shuffle + (x % shuffle);
    return last[channel]![Math.floor(y / shuffle) * width + Math.floor(x / shuffle)]!;
  };
}

/** How far off double precision its results are, but for a margin. */
function offReference(
  of: Convolution[],
  form: Form,
  planes: Float32Array,
  width: number,
  height: number,
  margin: number,
): Float32Array {
  const expected = reference(of, form, planes, width, height);
  const found = residualNetwork(of, form).run(planes, width, height, margin);
  const scale = form.shuffle / form.unshuffle;
  const [wide, high] = [scale * (width - 2 * margin), scale * (height - 2 * margin)];
  return found.map((value, i) => {
    const x = (i % wide) + scale * margin;
    const y = (Math.floor(i / wide) % high) + scale * margin;
    return Math.abs(value - expected(Math.floor(i / wide / high), x, y));
  });
}

const WIDTH = 45;
const HEIGHT = 34;
const input = Float32Array.from({ length: 5 * WIDTH * HEIGHT }, () => next());

describe('a network of convolutions', () => {
  it('computes what the textbook does', () => {
    const off = offReference(chain, plainForm, input, WIDTH, HEIGHT, chain.length);
    expect(off).toHaveLength(12 * (WIDTH - 12) * (HEIGHT - 12));
    expect(Math.max(...off)).toBeLessThan(2e-3);
  });

  it('leaves a margin out', () => {
    const network = residualNetwork(chain, plainForm);
    const all = network.run(input, WIDTH, HEIGHT, 0);
    const size = { width: 2 * WIDTH, height: 2 * HEIGHT };
    expect(network.run(input, WIDTH, HEIGHT, 7)).toEqual(withoutMargin(all, size, 14));
  });

  it('gives the same bits however the rows and columns about a place are cut', () => {
    const network = residualNetwork(chain, plainForm);
    const all = network.run(input, WIDTH, HEIGHT, 0);
    const part = { x: 11, y: 3, width: 31, height: 29 };
    const cut = Float32Array.from({ length: 5 * part.width * part.height }, (_, i) => {
      const c = Math.floor(i / (part.width * part.height));
      const y = Math.floor((i / part.width) % part.height);
      return input[(c * HEIGHT + part.y + y) * WIDTH + part.x + (i % part.width)]!;
    });
    // As many pixels to either side as there are convolutions.
    const small = network.run(cut, part.width, part.height, chain.length);
    const wide = 2 * (part.width - 2 * chain.length);
    expect(small.length).toBeGreaterThan(1000);
    small.forEach((value, i) => {
      const y = (Math.floor(i / wide) % (2 * (part.height - 2 * chain.length))) + 2 * chain.length;
      const plane = Math.floor(i / wide / 2 / (part.height - 2 * chain.length));
      const x = (i % wide) + 2 * (chain.length + part.x);
      expect(value).toBe(all[(plane * 2 * HEIGHT + y + 2 * part.y) * 2 * WIDTH + x]);
    });
  });

  it('stays finite and does not see what was computed before', () => {
    const network = residualNetwork(chain, plainForm);
    const first = network.run(input, WIDTH, HEIGHT, 0);
    const wild = residualNetwork([layer(5, 16), layer(16, 12)], plainForm);
    const huge = input.map((_, i) => [NaN, Infinity, -1e30, 1e9][i % 4]!);
    expect(wild.run(huge, WIDTH, HEIGHT, 0).every(Number.isFinite)).toBe(true);
    expect(network.run(input, WIDTH, HEIGHT, 0)).toEqual(first);
  });

  it('keeps its sums where weights and values are as large as they can be', () => {
    const strong = [layer(5, 8), layer(8, 12)];
    for (const { weights, biases } of strong) {
      weights.fill(90);
      biases.fill(0);
    }
    const full = new Float32Array(5 * 12 * 12).fill(100);
    const found = residualNetwork(strong, plainForm).run(full, 12, 12, 2);
    // Features are cut off at four, are added once more, and meet 72 weights.
    found.forEach((value) => expect(value / (4 * 72 * 90)).toBeCloseTo(1, 2));
  });

  it('refuses layers that do not follow one another', () => {
    const made = (...layers: Convolution[]) => residualNetwork(layers, plainForm);
    expect(() => made(layer(5, 8), layer(12, 12))).toThrow(/do not follow/);
    expect(() => made(layer(5, 8), layer(8, 8), layer(8, 12))).toThrow(/do not follow/);
    expect(() => made(layer(5, 6), layer(6, 12))).toThrow(/groups/);
    expect(() => made(layer(5, 8), layer(8, 16))).toThrow(/whole pixels/);
  });
});

describe('the models that ship', () => {
  const names = (Object.keys(MODELS) as ModelName[]).filter((name) => MODELS[name].form);

  it.each(names)('are read for %s', (name) => {
    const list = readConvolutions(readFileSync(`models/${MODELS[name].file}`));
    expect(list.length).toBeLessThanOrEqual(REACH);
    for (const { inputs, outputs, weights, biases } of list) {
      expect(weights).toHaveLength(inputs * outputs * 9);
      expect(biases).toHaveLength(outputs);
      expect(weights.every((weight) => Math.abs(weight) < 20)).toBe(true);
    }
  });

  // Eleven bits behind the point cost about a tenth of a level.
  it.each(names)('lose nothing to whole numbers: %s', (name) => {
    const { file, form } = MODELS[name] as { file: string; form: Form };
    const list = readConvolutions(readFileSync(`models/${file}`));
    const margin = form.unshuffle * list.length;
    const side = 8 * form.unshuffle + 2 * margin;
    const count = list[0]!.inputs / form.unshuffle ** 2;
    // Hard edges, soft slopes and noise; what it is told of the damage does not change.
    const planes = Float32Array.from({ length: count * side * side }, (_, i) => {
      const x = i % side;
      const y = Math.floor(i / side) % side;
      const plane = Math.floor(i / side / side);
      if (plane > 2) return 0.02 * plane;
      return x + y < side ? x / side : x > side / 2 ? (y % 3 ? 0.9 : 0.1) : 0.5 + 0.1 * next();
    });
    const off = offReference(list, form, planes, side, side, margin);
    const squares = off.reduce((sum, value) => sum + value ** 2, 0);
    expect(255 * Math.sqrt(squares / off.length)).toBeLessThan(0.15);
    expect(255 * Math.max(...off)).toBeLessThan(0.8);
  });
});

describe('the convolutions of a file', () => {
  it.each([
    ['nothing', new Uint8Array()],
    ['text', new TextEncoder().encode('not a model, but a long enough text')],
    ['half a model', readFileSync(`models/${MODELS.photo.file}`).subarray(0, 20_000)],
  ])('are not read from %s', (_, bytes) => {
    expect(() => readConvolutions(bytes)).toThrow(/could not be read/);
  });
});
