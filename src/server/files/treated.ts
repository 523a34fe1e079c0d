import { randomUUID } from 'node:crypto';
import { access } from 'node:fs/promises';
import type { Knex } from 'knex';
import { digestOfValue } from '@/core/recipe/canonical';
import type { PlacedRecipe, Recipe } from '@/core/recipe/recipe';
import type { TreatedFile } from '../codecs/shapes/drawing';
import { Problem } from '../problem';
import { renderFile } from '../render/render-file';
import { noteUse } from './room';
import { makeFolderOf, store } from './store';
import { decodedPath, inspectedPage } from './take-in';

/** A picture that is being treated, for all who wait for it. */
interface Making {
  made: Promise<string>;
  stop: AbortController;
  waiting: number;
  share: number;
}

const making = new Map<string, Making>();

/**
 * The file of a picture on a page as it was treated: an uncompressed TIFF that is kept as long as there is room. Whoever
 * waits may give up; the last one to do so stops it.
 * @param onProgress share of the work that is done, 0–1
 * @throws Problem where it can't be made; the signal's reason where aborted
 */
export async function treatedPath(
  db: Knex,
  recipe: Recipe,
  signal?: AbortSignal,
  onProgress?: (share: number) => void,
): Promise<string> {
  const path = await makeFolderOf(store.treated(recipe.original.digest, digestOfValue(recipe)));
  const isThere = await access(path).then(
    () => true,
    () => false,
  );
  if (isThere) {
    await noteUse(path);
    return path;
  }
  signal?.throwIfAborted();
  const under = making.get(path) ?? begin(db, recipe, path);
  under.waiting++;
  const told = onProgress && setInterval(() => onProgress(under.share), 250);
  try {
    return await orAborted(under.made, signal);
  } finally {
    clearInterval(told);
    if (--under.waiting === 0) {
      // Whoever comes now begins anew, rather than to hear that it was given up.
      forget(path, under);
      under.stop.abort(new DOMException('not wanted', 'AbortError'));
    }
  }
}

function forget(path: string, one: Making): void {
  if (making.get(path) === one) making.delete(path);
}

function begin(db: Knex, recipe: Recipe, path: string): Making {
  const stop = new AbortController();
  const one: Making = { stop, waiting: 0, share: 0, made: make() };
  making.set(path, one);
  return one;

  async function make(): Promise<string> {
    try {
      const { digest } = recipe.original;
      const { name, findings } = await inspectedPage(db, digest, 1);
      const { width, height } = recipe.original;
      if (width !== findings.width || height !== findings.height) {
        throw new Problem('usage', `${name} has other pixels than its treatment is made for.`);
      }
      await renderFile({
        original: {
          ...{ file: store.original(digest), name },
          raw: () => decodedPath(digest, name, 1),
        },
        // What it becomes lies on a page, in the page's own colours.
        ...{ recipe, profile: null, out: path, claim: randomUUID(), signal: stop.signal },
        onProgress: (share) => (one.share = share),
      });
      return path;
    } finally {
      forget(path, one);
    }
  }
}

/** What is waited for, or the signal's reason as soon as that is aborted. */
async function orAborted<T>(awaited: Promise<T>, signal?: AbortSignal): Promise<T> {
  if (!signal) return awaited;
  let given = () => {};
  const aborted = new Promise<never>((_, reject) => {
    given = () => reject(signal.reason as Error);
    signal.addEventListener('abort', given, { once: true });
  });
  try {
    return await Promise.race([awaited, aborted]);
  } finally {
    signal.removeEventListener('abort', given);
    // Whoever gives up needs not hear how it ends.
    awaited.catch(() => {});
  }
}

/** The files of all treated pictures of a page. @param onProgress share of all of them, 0–1 */
export async function treatedFiles(
  db: Knex,
  placed: readonly PlacedRecipe[],
  signal?: AbortSignal,
  onProgress?: (share: number) => void,
): Promise<TreatedFile[]> {
  const files: TreatedFile[] = [];
  for (const [i, { picture, recipe }] of placed.entries()) {
    if (recipe.original.drawn) throw new Problem('usage', 'A picture on a page holds pixels.');
    const file = await treatedPath(db, recipe, signal, (share) =>
      onProgress?.((i + share) / placed.length),
    );
    files.push({ picture, file });
  }
  return files;
}
