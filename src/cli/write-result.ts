import type { Recipe } from '@/core/recipe/recipe';
import { resolveRecipe } from '@/core/recipe/resolve';
import { Problem } from '@/server/problem';
import { renderFile, type Rendered, type RenderJob } from '@/server/render/render-file';
import type { Input } from './input';
import { factsOfInput } from './output';
import { renderOnPage } from './placed';
import type { Prepared } from './prepared';

/** What a prepared picture is made by. @throws Problem where its print can't be made */
export function recipeOf({ original, work, models }: Prepared): Recipe {
  const resolved = resolveRecipe(original, work, work.trials[0]!, models);
  if (!resolved.ok) throw new Problem('usage', resolved.reason);
  return resolved.recipe;
}

/** Writes a prepared picture's print file. */
export const writeResult = (
  { file, name, raw, profile }: Input,
  { masks, pictures, given, work }: Prepared,
  recipe: Recipe,
  how: Pick<RenderJob, 'out' | 'onProgress' | 'signal' | 'together'>,
): Promise<Rendered> =>
  renderFile({
    original: {
      ...{ file, name, raw: () => Promise.resolve(raw) },
      treated: (onProgress) =>
        renderOnPage(recipe.original.drawn?.placed ?? [], pictures, { masks, onProgress }),
    },
    ...{ recipe, masks, profile, facts: factsOfInput(name, work), ...how },
    ...(given && { profileBytes: () => Promise.resolve(given.bytes) }),
  });
