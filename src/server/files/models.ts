import { createHash } from 'node:crypto';
import { readFile, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { MODELS, type ModelName, type Models } from '@/core/learned/models';
import { ModelProblem } from '@/core/learned/network';
import { root } from '../root';

const pathOf = (name: ModelName): string => join(root(), 'models', MODELS[name].file);

const names = Object.keys(MODELS) as ModelName[];

/**
 * The bytes of the model with a digest.
 * @throws ModelProblem where there is none, or its file is missing or damaged
 */
export async function modelBytes(digest: string): Promise<Uint8Array> {
  const name = names.find((one) => MODELS[one].digest === digest);
  if (!name) throw new ModelProblem('This treatment was made with a model that is not here.');
  const bytes = await readFile(pathOf(name)).catch(() => null);
  const file = `models/${MODELS[name].file}`;
  if (!bytes) throw new ModelProblem(`${file} is missing. Put it back from the delivery.`);
  if (createHash('sha256').update(bytes).digest('hex') !== digest) {
    throw new ModelProblem(`${file} is damaged. Put it back from the delivery.`);
  }
  return bytes;
}

/** Which models can be used as they lie there. */
export async function usableModels(): Promise<Models> {
  const found = await Promise.all(
    names.map(async (name) => [name, (await isUsable(name)) ? MODELS[name].digest : null] as const),
  );
  return Object.fromEntries(found) as Models;
}

/** What was known of a model's file when it was last read, and what it was then. */
const known = new Map<ModelName, { size: number; mtimeMs: number; usable: boolean }>();

/** A file that nobody touched since it was read is what it was. */
async function isUsable(name: ModelName): Promise<boolean> {
  const facts = await stat(pathOf(name)).catch(() => null);
  if (!facts) return false;
  const { size, mtimeMs } = facts;
  const before = known.get(name);
  if (before?.size === size && before.mtimeMs === mtimeMs) return before.usable;
  const usable = await modelBytes(MODELS[name].digest).then(
    () => true,
    () => false,
  );
  known.set(name, { size, mtimeMs, usable });
  return usable;
}
