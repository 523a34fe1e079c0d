import { readFile } from 'node:fs/promises';
import { beforeAll, describe, expect, it } from 'vitest';
import { MODELS, type ModelName } from '@/core/learned/models';
import { ModelProblem, type Network } from '@/core/learned/network';
import { random } from '@/core/testing';
import { loadNetwork, networksFrom, useRuntime } from './network';

const PLANES = 12;
const SIDE = 96;
/** What lies about a result that its value depends on. */
const RIM = 20;

const modelOf = async (name: ModelName) =>
  new Uint8Array(await readFile(`models/${MODELS[name].file}`));

beforeAll(() => {
  const wasm = 'node_modules/onnxruntime-web/dist/ort-wasm-simd-threaded.wasm';
  useRuntime({ wasm: async () => new Uint8Array(await readFile(wasm)).buffer });
});

describe.each(['compression', 'noise'] as const)('the model against %s', (name) => {
  let network: Network;
  const next = random(3);
  const planes = Float32Array.from({ length: PLANES * SIDE * SIDE }, () => next());
  const part = (x: number, y: number, width: number, height: number): Float32Array => {
    const result = new Float32Array(PLANES * width * height);
    for (let c = 0; c < PLANES; c++)
      for (let v = 0; v < height; v++)
        for (let u = 0; u < width; u++)
          result[(c * height + v) * width + u] = planes[(c * SIDE + y + v) * SIDE + x + u]!;
    return result;
  };

  beforeAll(async () => {
    network = await loadNetwork(await modelOf(name));
  });

  it('adds finite, small numbers to three planes', async () => {
    const added = await network.run(planes, SIDE, SIDE);
    expect(added).toHaveLength(3 * SIDE * SIDE);
    expect(added.every(Number.isFinite)).toBe(true);
    expect(added.some((value) => value !== 0)).toBe(true);
  });

  it('gives the same bits however the planes are cut', async () => {
    const all = await network.run(planes, SIDE, SIDE);
    for (const [x, y, width, height] of [
      [0, 0, 60, 60],
      [10, 24, 80, 52],
      [30, 2, 46, 94],
    ] as const) {
      const some = await network.run(part(x, y, width, height), width, height);
      for (let c = 0; c < 3; c++)
        for (let v = RIM; v < height - RIM; v++)
          for (let u = RIM; u < width - RIM; u++)
            expect(some[(c * height + v) * width + u]).toBe(all[(c * SIDE + y + v) * SIDE + x + u]);
    }
  });

  it('answers several at a time, each with its own', async () => {
    const small = part(0, 0, 48, 48);
    const [a, b, c] = await Promise.all([
      network.run(small, 48, 48),
      network.run(part(40, 40, 48, 48), 48, 48),
      network.run(small, 48, 48),
    ]);
    expect(c).toEqual(a);
    expect(b).not.toEqual(a);
  });
});

describe('loading', () => {
  it('says in words that bytes are no model', async () => {
    await expect(loadNetwork(new Uint8Array(400))).rejects.toThrow(ModelProblem);
    await expect(loadNetwork(new Uint8Array(400))).rejects.toThrow(/could not be loaded/);
  });

  it('happens once for a digest, and again after it failed', async () => {
    const asked: string[] = [];
    const networks = networksFrom(async (digest) => {
      asked.push(digest);
      if (asked.length === 1) throw new ModelProblem('not there yet');
      return modelOf('noise');
    });
    await expect(networks('a')).rejects.toThrow('not there yet');
    const first = await networks('a');
    expect(await networks('a')).toBe(first);
    expect(asked).toEqual(['a', 'a']);
  });
});
