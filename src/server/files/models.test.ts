import { copyFile, mkdir, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { ALL_MODELS, MODELS, NO_MODELS } from '@/core/learned/models';
import { modelBytes, usableModels } from './models';

let folder: string;
beforeEach(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lontano-models-'));
});
afterEach(async () => {
  vi.unstubAllEnvs();
  await rm(folder, { recursive: true, force: true });
});

describe('models', () => {
  it('that ship are the ones that the core names, within five megabytes', async () => {
    expect(await usableModels()).toEqual(ALL_MODELS);
    const sizes = await Promise.all(
      Object.values(MODELS).map(async ({ digest }) => (await modelBytes(digest)).length),
    );
    expect(sizes.reduce((sum, bytes) => sum + bytes, 0)).toBeLessThan(5e6);
  });

  it('have their figures and sources on a card', async () => {
    const card = await readFile('models/README.md', 'utf8');
    for (const { file } of Object.values(MODELS)) expect(card).toContain(file);
  });

  it('that are missing or damaged are not used, and it is said why', async () => {
    vi.stubEnv('LONTANO_ROOT', folder);
    const { file, digest } = MODELS.noise;
    await expect(modelBytes(digest)).rejects.toThrow(`models/${file} is missing`);
    await mkdir(join(folder, 'models'));
    await writeFile(join(folder, 'models', file), 'not a model');
    await expect(modelBytes(digest)).rejects.toThrow(`models/${file} is damaged`);
    const good = MODELS.compression;
    await copyFile(`models/${good.file}`, join(folder, 'models', good.file));
    expect(await usableModels()).toEqual({ ...NO_MODELS, compression: good.digest });
  });

  it('of other versions are not here', async () => {
    await expect(modelBytes('e'.repeat(64))).rejects.toThrow(/a model that is not here/);
  });
});
