import * as Comlink from 'comlink';
import { useEffect } from 'react';
import { create } from 'zustand';
import type { Invented } from '@/core/treatment/invented';
import { canonicalJson, type SettledRecipe } from '@/core/treatment/recipe';
import { worker } from '@/preview/client';
import { wholeOriginal } from '../preview-original';
import type { WorkBench } from '../use-work';
import { useView } from '../view-store';

interface Inventions {
  /** of which picture and treatment it was told */
  key: string;
  share: number;
  found: Invented | null;
  trouble: string | null;
}

const useKept = create<{ kept: Inventions | null; set(kept: Inventions | null): void }>((set) => ({
  kept: null,
  set: (kept) => set({ kept }),
}));

/** The recipe up to its network; null where none enlarges. */
function learnedPart(recipe: SettledRecipe): SettledRecipe | null {
  const at = recipe.steps.findIndex(({ kind }) => kind === 'magnify');
  return at < 0 ? null : { ...recipe, steps: recipe.steps.slice(0, at + 1) };
}

/** What the network invents in the bench's picture, as far as that is known. */
export function useInventions({ settled }: WorkBench): {
  learned: boolean;
  inventions: Inventions | null;
} {
  const recipe = settled.ok ? learnedPart(settled.recipe) : null;
  const key = recipe && canonicalJson([recipe.original, recipe.steps]);
  const { kept } = useKept();
  return { learned: recipe !== null, inventions: kept && kept.key === key ? kept : null };
}

/** Looks for it for as long as it is wanted, unless it is known already. */
export function useInventionSearch({ settled, job }: WorkBench): void {
  const wanted = useView((view) => view.inventions && view.section === 'enlarge');
  const { set } = useKept();
  const recipe = wanted && settled.ok ? learnedPart(settled.recipe) : null;
  const key = recipe && canonicalJson([recipe.original, recipe.steps]);
  const { digest, findings } = job.piece;
  useEffect(() => {
    const { kept } = useKept.getState();
    if (!recipe || !key || (kept?.key === key && kept.found)) return;
    let going = true;
    const put = (change: Partial<Inventions>) => {
      if (going) set({ key, share: 0, found: null, trouble: null, ...change });
    };
    put({});
    worker()
      .invented(
        wholeOriginal(digest, findings, recipe),
        recipe,
        Comlink.proxy((share: number) => {
          put({ share });
          return going;
        }),
      )
      .then((found) => found && put({ share: 1, found }))
      .catch(() => put({ trouble: 'It could not be looked for. The job is unharmed.' }));
    return () => {
      going = false;
    };
    // The key tells all that matters of the recipe.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key, digest, findings, set]);
}
