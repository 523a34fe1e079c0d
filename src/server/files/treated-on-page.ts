import { LRUCache } from 'lru-cache';
import type { Knex } from 'knex';
import { digestOfValue } from '@/core/recipe/canonical';
import type { PlacedRecipe } from '@/core/recipe/recipe';
import { RESULT_LIMIT } from '@/core/measure/plan';
import type { TreatedFile } from '../codecs/shapes/drawing';
import { Problem } from '../problem';
import { treatedFiles } from './treated';

/** Sets of treated pictures that pages are looked at with. */
const KEPT = 200;

// Next loads route handlers in separate bundles; they share what was noted through this one.
const shared = globalThis as { lontanoTreated?: LRUCache<string, PlacedRecipe[]> };
const noted = (): LRUCache<string, PlacedRecipe[]> =>
  (shared.lontanoTreated ??= new LRUCache({ max: KEPT }));

/** Notes treated pictures of a page, so that an address can name them. */
export function noteTreated(placed: PlacedRecipe[]): string {
  for (const { recipe } of placed) {
    const { width, height } = recipe.target;
    if (width * height > RESULT_LIMIT.pixels) {
      throw new Problem('usage', 'A picture on this page would be larger than what can be made.');
    }
  }
  const name = digestOfValue(placed);
  noted().set(name, placed);
  return name;
}

/**
 * The files of treated pictures of a page, made now where they are not there.
 * @throws Problem where nobody said what their name stands for: the server was started anew meanwhile
 */
export async function readyFiles(
  db: Knex,
  name: string,
  signal?: AbortSignal,
): Promise<TreatedFile[]> {
  const placed = noted().get(name);
  if (!placed) throw new Problem('missing', 'It is not known how the pictures here are treated.');
  return treatedFiles(db, placed, signal);
}
