import type { Knex } from 'knex';
import { followsRecipe, tryRecipe, type NamedContent } from '@/core/house/apply';
import type { Applied } from '@/core/house/applying';
import { trialOf } from '@/core/recipe/trials';
import { TRIALS } from '@/core/recipe/work';
import type { Author } from '@/core/shop/author';
import { patchBetween } from '@/core/shop/change';
import { Problem } from '../problem';
import { changePiece, readPiece } from './pieces';

/** A piece that somebody changes at the same moment is tried so often. */
const TRIES = 3;

/**
 * Begins a trial by a recipe on each of some pictures, beside those that they have. A picture that has one which still
 * follows the recipe keeps that. What goes wrong with one picture is said, and the others go on.
 */
export async function applyHouse(
  db: Knex,
  recipe: NamedContent,
  pieces: readonly number[],
  author: Author | null,
): Promise<Applied[]> {
  const applied: Applied[] = [];
  for (const piece of pieces) {
    applied.push(
      await applyTo(db, recipe, piece, author).catch((error: unknown) => {
        if (!(error instanceof Problem)) throw error;
        return { piece, trial: null, outcome: 'failed' as const, words: error.message };
      }),
    );
  }
  return applied;
}

async function applyTo(
  db: Knex,
  recipe: NamedContent,
  id: number,
  author: Author | null,
): Promise<Applied> {
  for (let tries = 1; ; tries++) {
    const { work, revision } = await readPiece(db, id);
    const had = work.trials.find(
      (one) =>
        one.house?.id === recipe.id &&
        one.house.version === recipe.version &&
        followsRecipe(one, recipe.content),
    );
    if (had) return { piece: id, trial: had.id, outcome: 'had it', words: null };
    const after = structuredClone(work);
    const trial = tryRecipe(after, trialOf(after, null), recipe);
    if (!trial) {
      const words = `It has ${TRIALS} trials already. Delete one of them first.`;
      return { piece: id, trial: null, outcome: 'failed', words };
    }
    const label = `${trial.name}, by house recipe`;
    const patch = patchBetween(work, after);
    try {
      await changePiece(db, id, { revision, label, patch, author });
      return { piece: id, trial: trial.id, outcome: 'begun', words: null };
    } catch (error) {
      const again = error instanceof Problem && error.kind === 'conflict' && tries < TRIES;
      if (!again) throw error;
    }
  }
}
