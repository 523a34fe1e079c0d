import { useEffect } from 'react';
import { create } from 'zustand';
import type { Invented } from '@/core/evidence/invented';
import { canonicalJson } from '@/core/recipe/canonical';
import { upscalingOf } from '@/core/recipe/views';
import { ask, PRIORITY } from '@/preview/client';
import { wholeOriginal } from '../../preview-original';
import type { WorkBench } from '../../use-work';
import { say } from '@/core/words/say';

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

/** What the network invents in the bench's picture, as far as that is known. */
export function useInventions({ resolved }: WorkBench): {
  learned: boolean;
  inventions: Inventions | null;
} {
  const recipe = resolved.ok ? (upscalingOf(resolved.recipe)?.learned ?? null) : null;
  const key = recipe && canonicalJson([recipe.original, recipe.steps]);
  const { kept } = useKept();
  return { learned: recipe !== null, inventions: kept && kept.key === key ? kept : null };
}

/** Looks for it for as long as it is wanted, unless it is known already. */
export function useInventionSearch({ resolved, job }: WorkBench, wanted: boolean): void {
  const { set } = useKept();
  const recipe = wanted && resolved.ok ? (upscalingOf(resolved.recipe)?.learned ?? null) : null;
  const key = recipe && canonicalJson([recipe.original, recipe.steps]);
  const { digest, findings } = job.piece;
  useEffect(() => {
    const { kept } = useKept.getState();
    if (!recipe || !key || (kept?.key === key && kept.found)) return;
    const stop = new AbortController();
    const put = (change: Partial<Inventions>) => {
      if (!stop.signal.aborted) set({ key, share: 0, found: null, trouble: null, ...change });
    };
    put({});
    ask(
      'invented',
      { original: wholeOriginal(digest, findings, recipe), recipe },
      {
        ...{ priority: PRIORITY.search, group: 'search', signal: stop.signal },
        onNews: (share) => put({ share: share as number }),
      },
    )
      .then((found) => found && put({ share: 1, found }))
      .catch(() => put({ trouble: say`It could not be looked for. The job is unharmed.` }));
    return () => stop.abort();
    // The key tells all that matters of the recipe.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key, digest, findings, set]);
}
