import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo } from 'react';
import { formatNumber } from '@/core/measure/format';
import { canonicalJson } from '@/core/recipe/canonical';
import { blockGrid } from '@/core/stops/block-grid';
import { STOP_WORDS } from '@/core/stops/stop';
import { ask, PRIORITY } from '@/preview/client';
import { useComparing } from '../../../data/comparing';
import { useRested } from '../../../parts/use-rested';
import { wholeOriginal } from '../../preview-original';
import { useChosen } from '../../trial-store';
import type { WorkBench } from '../../use-work';
import { useOpen } from '../../ticket/open';
import type { OnPaper } from '../on-paper';
import { useInventions, useInventionSearch } from '../overlays/use-inventions';
import { useStops, type ShownStop } from './stop-store';

/** How long the work must stand before trials are compared, in milliseconds. */
const REST = 900;
/** Megapixels of originals of which uncertain detail is looked for by itself. */
const SMALL = 1;
/** Places where two trials differ most. */
const APART = 3;

/** Has the picture's stops at hand for as long as it is on the bench; they are looked for once Compare is open. */
export function useFindStops(bench: WorkBench, onPaper: OnPaper | null): void {
  const found = useSuggested(bench, onPaper);
  const apart = useApart(bench, onPaper, found);
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
        ...{ title: 'mark', words: mark.note, x: mark.x, y: mark.y, mark: mark.id },
      }));
    const unsure: ShownStop[] = uncertain
      ? [
          {
            ...{ key: 'uncertain', title: 'uncertain', x: uncertain.x, y: uncertain.y, mark: null },
            words: `detail may be off by ${formatNumber(uncertain.levels, 0)} levels`,
          },
        ]
      : [];
    return [...own, ...apart, ...unsure, ...found].filter(onIt);
  }, [marks, findings.page, apart, uncertain, found, onPaper]);
  useEffect(() => useStops.setState({ list }), [list]);
}

const NONE: readonly ShownStop[] = [];

/** Places of the original that the core found. */
function useSuggested({ job, resolved }: WorkBench, onPaper: OnPaper | null) {
  const comparing = useOpen((open) => open.section === 'compare');
  const { digest, findings } = job.piece;
  const within = onPaper?.within;
  const grid = blockGrid(findings);
  const recipe = resolved.ok ? resolved.recipe : null;
  const { data } = useQuery({
    queryKey: ['stops', digest, findings.page, within, grid],
    queryFn: ({ signal }) =>
      ask(
        'stops',
        { original: wholeOriginal(digest, findings, recipe!), within: within!, grid },
        { priority: PRIORITY.ahead, group: 'stops', signal },
      ),
    enabled: comparing && recipe !== null && !findings.vector && (within?.width ?? 0) > 0,
    staleTime: Infinity,
  });
  return useMemo(
    () =>
      data?.map(({ kind, x, y, figure }): ShownStop => {
        const { title, figure: words } = STOP_WORDS[kind];
        return { key: `${kind} ${x} ${y}`, title, words: words(figure), x, y, mark: null };
      }) ?? NONE,
    [data],
  );
}

/** Places where the trial on the bench and the one beside it differ most. */
function useApart(bench: WorkBench, onPaper: OnPaper | null, named: readonly ShownStop[]) {
  const { work, trial, resolve, kept, job } = bench;
  const comparing = useOpen((open) => open.section === 'compare');
  const beside = useChosen((chosen) => chosen.beside);
  const other = useMemo(() => {
    const others = work.trials.filter(({ id }) => id !== trial.id);
    const chosen = beside.flatMap((one) => (one.of === 'trial' ? [one.id] : []));
    return others.find(({ id }) => chosen.includes(id)) ?? others[0];
  }, [work.trials, trial, beside]);
  const pair = useMemo(() => {
    const its = other && resolve(other);
    return kept.ok && its?.ok ? { one: kept.recipe, other: its.recipe } : null;
    // While something is only sketched nothing is compared.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [kept, other]);
  const rested = useRested(pair, REST);
  const { digest, findings } = job.piece;
  const { data } = useQuery({
    queryKey: ['apart', digest, findings.page, rested && canonicalJson(rested), named.length],
    queryFn: ({ signal }) => {
      const { one, other: its } = rested!;
      return ask(
        'apart',
        {
          ...{ original: wholeOriginal(digest, findings, one), one, most: APART },
          other: { original: wholeOriginal(digest, findings, its), recipe: its },
          named: named.map(({ x, y }) => onPaper!.toPaper(x, y)),
        },
        { priority: PRIORITY.search, group: 'stops', signal },
      );
    },
    enabled: comparing && rested !== null && onPaper !== null,
    staleTime: Infinity,
  });
  return useMemo(
    () =>
      data && onPaper && other
        ? data.map((place, i): ShownStop => {
            const { x, y } = onPaper.toOriginal(place);
            return {
              key: `apart ${i}`,
              title: 'trials differ',
              words: `${trial.name} and ${other.name} by ${formatNumber(place.levels, 1)} levels`,
              ...{ x, y, mark: null },
            };
          })
        : NONE,
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [data, onPaper, other?.name, trial.name],
  );
}
