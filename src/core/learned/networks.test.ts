import { readFile } from 'node:fs/promises';
import { describe, expect, it } from 'vitest';
import { MODELS } from './models';
import { ModelProblem } from './network';
import { networksFrom } from './networks';

const noise = readFile(`models/${MODELS.noise.file}`);

describe('loading', () => {
  it('says in words that bytes are no model', async () => {
    const networks = networksFrom(async () => new Uint8Array(400));
    await expect(networks(MODELS.art.digest)).rejects.toThrow(ModelProblem);
    await expect(networks(MODELS.art.digest)).rejects.toThrow(/could not be read/);
  });

  it('happens once for a digest, and again after it failed', async () => {
    const asked: string[] = [];
    const networks = networksFrom(async (digest) => {
      asked.push(digest);
      if (asked.length === 1) throw new ModelProblem('not there yet');
      return noise;
    });
    const { digest } = MODELS.noise;
    await expect(networks(digest)).rejects.toThrow('not there yet');
    const first = await networks(digest);
    expect(await networks(digest)).toBe(first);
    expect(asked).toEqual([digest, digest]);
  });

  it('makes of each what it is for: the same size, or four times as large', async () => {
    const networks = networksFrom((digest) =>
      readFile(`models/${Object.values(MODELS).find((one) => one.digest === digest)!.file}`),
    );
    const clean = await networks(MODELS.noise.digest);
    expect(clean.run(new Float32Array(12 * 40 * 40), 40, 40, 4)).toHaveLength(3 * 32 * 32);
    const enlarge = await networks(MODELS.art.digest);
    expect(enlarge.run(new Float32Array(5 * 40 * 41), 40, 41, 4)).toHaveLength(48 * 32 * 33);
  });

  it('does not run a model whose digest is none of ours', async () => {
    const networks = networksFrom(() => noise);
    await expect(networks('f'.repeat(64))).rejects.toThrow(/not here/);
  });
});
