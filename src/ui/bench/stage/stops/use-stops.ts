import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo } from 'react';
import { formatNumber } from '@/core/measure/format';
import { canonicalJson } from '@/core/recipe/canonical';
import { STOP_WORDS } from '@/core/stops/stop';
import { ask, PRIORITY, type Looked } from '@/preview/client';
import { api } from '../../../data/api';
import { useComparing } from '../../../data/comparing';
import { useRested } from '../../../parts/use-rested';
import type { WorkBench } from '../../use-work';
import { useOpen } from '../../ticket/open';
import type { OnPaper } from '../on-paper';
import type { Compared } from '../modes/compared/use-compared';
import { useMode } from '../modes/mode';
import { useInventions, useInventionSearch } from '../overlays/use-inventions';
import { useStops, type Looking, type ShownStop } from './stop-store';
import { say } from '@/core/words/say';

/** How long the work must stand before trials are compared, in milliseconds. */
const REST = 900;
/** Megapixels of originals of which uncertain detail is looked for by itself. */
const SMALL = 1;
/** Places where two trials differ most. */
const APART = 3;

/** Has the picture's stops at hand for as long as it is on the bench; they are looked for once Compare is open. */
export function useFindStops(
  bench: WorkBench,
  onPaper: OnPaper | null,
  compared: Compared | null,
): void {
  const { found, looking } = useSuggested(bench, onPaper);
  const apart = useApart(bench, onPaper, compared, found);
  // A network goes over all of the picture for it: of a large one only where somebody asks for it in Enlarge.
  const comparing = useOpen((open) => open.section === 'compare');
  useInventionSearch(bench, comparing && bench.job.piece.findings.megapixels <= SMALL);
  const uncertain = useInventions(bench).inventions?.found?.worst[0];
  const { id, findings } = bench.job.piece;
  const marks = useComparing(id).data?.marks;
  const list = useMemo(() => {
    const onIt = ({ x, y }: { x: number; y: number }) => {
      const place = onPaper?.toPaper(x, y);
      return place && Math.min(place.x, place.y) >= 0 && Math.max(place.x, place.y) <= 1;
    };
    const own = (marks ?? [])
      .filter(({ page }) => page === findings.page)
      .map((mark): ShownStop => ({
        key: `mark ${mark.id}`,
        ...{ title: say`mark`, words: mark.note, x: mark.x, y: mark.y, mark: mark.id },
      }));
    const unsure: ShownStop[] = uncertain
      ? [
          {
            ...{
              key: 'uncertain',
              title: say`uncertain`,
              x: uncertain.x,
              y: uncertain.y,
              mark: null,
            },
            words: say`detail may be off by ${formatNumber(uncertain.levels, 0)} levels`,
          },
        ]
      : [];
    return [...own, ...apart, ...unsure, ...found].filter(onIt);
  }, [marks, findings.page, apart, uncertain, found, onPaper]);
  useEffect(() => useStops.setState({ list, looking }), [list, looking]);
}

const NONE: readonly ShownStop[] = [];

/** Places of the original that the core found. */
function useSuggested({ job }: WorkBench, onPaper: OnPaper | null) {
  const comparing = useOpen((open) => open.section === 'compare');
  const wanted = useStops((stops) => stops.wanted);
  const { digest, findings } = job.piece;
  const within = onPaper?.within;
  const { data, error } = useQuery({
    queryKey: ['stops', digest, findings.page, within],
    queryFn: () => api.stops(digest, findings.page, within!),
    enabled: (comparing || wanted) && !findings.vector && (within?.width ?? 0) > 0,
    staleTime: Infinity,
  });
  const found = useMemo(
    () =>
      data?.map(({ kind, x, y, figure }): ShownStop => {
        const { title, figure: words } = STOP_WORDS[kind];
        return { key: `${kind} ${x} ${y}`, title, words: words(figure), x, y, mark: null };
      }) ?? NONE,
    [data],
  );
  const looking: Looking = findings.vector || data ? 'done' : error ? error.message : 'on';
  return { found, looking };
}

/** What is compared, to find where it differs. */
interface Pair {
  names: [string, string];
  one: Looked;
  other: Looked;
}

/**
 * Places where the result and what stands beside it differ most. From the original every result differs everywhere: unless
 * just that is looked at, another trial is taken.
 */
function useApart(
  bench: WorkBench,
  onPaper: OnPaper | null,
  compared: Compared | null,
  named: readonly ShownStop[],
) {
  const { work, trial, resolve, kept, job } = bench;
  const comparing = useOpen((open) => open.section === 'compare');
  const subtracting = useMode().way === 'difference';
  const pair = useMemo((): Pair | null => {
    if (!kept.ok || !compared) return null;
    const { after, before, subjects } = compared;
    const one = looked(after.plain);
    if (subtracting || subjects[0]!.of !== 'original') {
      return { names: [after.name, before.name], one, other: looked(before.plain) };
    }
    const other = work.trials.find(({ id }) => id !== trial.id);
    const its = other && resolve(other);
    if (!its?.ok) return null;
    const beside = looked({ ...after.plain, recipe: its.recipe });
    return { names: [after.name, other!.name], one, other: beside };
    // What a trial is resolved to follows from it, and from what `compared` follows from.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [kept, compared, subtracting, work.trials, trial.id]);
  const rested = useRested(usePairOnce(pair), REST);
  const { digest, findings } = job.piece;
  const { data } = useQuery({
    queryKey: ['apart', digest, findings.page, rested?.key, named.length],
    queryFn: ({ signal }) =>
      ask(
        'apart',
        {
          ...{ one: rested!.pair.one, other: rested!.pair.other, most: APART },
          named: named.map(({ x, y }) => onPaper!.toPaper(x, y)),
        },
        { priority: PRIORITY.search, group: 'stops', signal },
      ),
    enabled: comparing && rested !== null && onPaper !== null,
    staleTime: Infinity,
  });
  return useMemo(
    () =>
      data && onPaper && rested
        ? data.map((place, i): ShownStop => {
            const { x, y } = onPaper.toOriginal(place);
            return {
              key: `apart ${i}`,
              title: say`differ most`,
              words: say`${rested.pair.names.join(' and ')} by ${formatNumber(place.levels, 1)} levels`,
              ...{ x, y, mark: null },
            };
          })
        : NONE,
    [data, onPaper, rested],
  );
}

const looked = ({ original, recipe }: Looked): Looked => ({ original, recipe });

/** The same object for as long as it says the same. */
function usePairOnce(pair: Pair | null): { key: string; pair: Pair } | null {
  const key = pair && canonicalJson([pair.names, pair.one, pair.other]);
  // eslint-disable-next-line react-hooks/exhaustive-deps
  return useMemo(() => (pair && key ? { key, pair } : null), [key]);
}
