import type { Knex } from 'knex';
import type { Source } from '@/core/raster/source';
import type { Recipe } from '@/core/recipe/recipe';
import { openRaw } from '../codecs/raw';
import { drawnSource } from '../codecs/shapes/drawn-source';
import { drawingOf } from '../codecs/shapes/drawing';
import { store } from '../files/store';
import { decodedPath, inspectedPage } from '../files/take-in';
import { treatedFiles } from '../files/treated';

/** The pixels that a recipe begins with, read as they are wanted, and the profile of their file. */
export interface OpenSource {
  source: Source;
  profile: Buffer | null;
  close(): Promise<void>;
}

export async function sourceOf(db: Knex, recipe: Recipe, signal: AbortSignal): Promise<OpenSource> {
  const { digest, page } = recipe.original;
  const { name, profile } = await inspectedPage(db, digest, page);
  if (recipe.original.drawn) {
    const treated = await treatedFiles(db, recipe.original.drawn.placed, signal);
    return {
      source: drawnSource(drawingOf(recipe, store.original(digest), name, treated)),
      profile,
      close: async () => {},
    };
  }
  const source = await openRaw(await decodedPath(digest, name, page));
  return { source, profile, close: () => source.close() };
}
