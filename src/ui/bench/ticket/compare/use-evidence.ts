import { useIsFetching, useQueries, type QueryClient } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { Evidence, SeenFigures } from '@/core/evidence/evidence';
import { ownGrid } from '@/core/inspect/jpeg';
import { canonicalJson } from '@/core/recipe/canonical';
import { onPaper, type OnPaper } from '@/core/recipe/views';
import type { Recipe } from '@/core/recipe/recipe';
import type { Trial } from '@/core/recipe/work';
import type { Piece } from '@/core/shop/job';
import { firstOfKind } from '@/core/steps';
import { ask, PRIORITY } from '@/preview/client';
import { useRested } from '../../../parts/use-rested';
import { wholeOriginal } from '../../preview-original';
import type { WorkBench } from '../../use-work';
import { say } from '@/core/words/say';

/** How long the work must stand before it is measured, in milliseconds. */
const REST = 900;

/** Evidence of one trial. */
export interface TrialEvidence {
  trial: Trial;
  found: Evidence | null;
  /** what the original shows, in the same units */
  original: SeenFigures | null;
  /** why there is none, in words */
  trouble: string | null;
}

const evidenceKey = ({ digest, findings }: Piece, pair: OnPaper | null) =>
  ['evidence', digest, findings.page, pair && canonicalJson(pair)] as const;

/** What was measured of a result a while ago, as long as it is known; nothing is measured for it. */
export function knownEvidence(client: QueryClient, piece: Piece, recipe: Recipe): Evidence | null {
  const pair = onPaper(recipe);
  if (!pair) return null;
  const found = client.getQueryData<{ result: Evidence }>(evidenceKey(piece, pair));
  return found?.result ?? null;
}

/** The evidence of trials, each measured once for every state of it. */
export function useEvidence(bench: WorkBench, trials: readonly Trial[]): TrialEvidence[] {
  const { resolve, kept, job } = bench;
  const { digest, findings } = job.piece;
  const now = useMemo(
    () =>
      trials.map((trial) => {
        const resolved = resolve(trial);
        return { trial, recipe: resolved.ok ? resolved.recipe : null };
      }),
    // While something is only sketched nothing is measured.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [kept, trials.map(({ id }) => id).join()],
  );
  const rested = useRested(now, REST);
  const measured = rested.map(({ trial, recipe }) => {
    const pair = recipe && onPaper(recipe);
    return { trial, recipe, pair, trouble: recipe ? whyNot(pair) : say`This trial can’t be made.` };
  });
  // Both read all of a large original: the places are there first.
  const begun = useRested(true, REST, false);
  const looking = useIsFetching({ queryKey: ['stops'] }) > 0;
  const answers = useQueries({
    queries: measured.map(({ recipe, pair, trouble }) => ({
      queryKey: evidenceKey(job.piece, pair),
      queryFn: ({ signal }: { signal: AbortSignal }) =>
        ask(
          'evidence',
          {
            original: wholeOriginal(digest, findings, recipe!),
            ...{ before: pair!.original, after: pair!.result, own: gridOn(pair!) },
          },
          { priority: PRIORITY.figures, group: 'evidence', signal },
        ),
      enabled: pair !== null && trouble === null && begun && !looking,
      staleTime: Infinity,
    })),
  });
  /** Where a block of the file's compression begins on the paper; null where it lies slanted there. */
  function gridOn({ original }: OnPaper) {
    const own = ownGrid(findings.jpeg);
    const part = firstOfKind(original.steps, 'resample')?.numbers;
    if (!own || !part || part.method !== 'nearest' || part.turn !== 0) return null;
    const off = (grid: number, start: number) => (((grid - start) % 8) + 8) % 8;
    return { x: off(own.x, part.source.x), y: off(own.y, part.source.y) };
  }
  return measured.map(({ trial, trouble }, i) => ({
    trial,
    found: answers[i]?.data?.result ?? null,
    original: answers[i]?.data?.original ?? null,
    trouble: trouble ?? (answers[i]?.error ? say`It could not be measured.` : null),
  }));
}

function whyNot(pair: OnPaper | null): string | null {
  if (!pair) return say`Shapes are drawn fresh: there are no pixels to measure a result by.`;
  const { original, result } = pair;
  const smaller =
    result.target.width < original.target.width || result.target.height < original.target.height;
  return smaller ? say`The result is smaller than the original: nothing is enlarged.` : null;
}
