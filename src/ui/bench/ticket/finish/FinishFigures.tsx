import { useQuery } from '@tanstack/react-query';
import { Highlighter, TriangleAlert } from 'lucide-react';
import { useMemo } from 'react';
import { tooMuch } from '@/core/evidence/finishing';
import { REACH_MOST } from '@/core/guard/guards';
import { formatNumber } from '@/core/measure/format';
import { factorOf } from '@/core/measure/plan';
import { canonicalJson } from '@/core/recipe/canonical';
import { finishes, withoutFinish } from '@/core/recipe/finish';
import { ask, PRIORITY } from '@/preview/client';
import { useRested } from '../../../parts/use-rested';
import { useOverlay } from '../../stage/overlays/overlay';
import { look } from '../../stage/viewport';
import { wholeOriginal } from '../../preview-original';
import type { WorkBench } from '../../use-work';
import { say } from '@/core/words/say';

/** How long a change must stand before it is measured, in milliseconds. */
const REST = 700;

/** What finishing did beside what it was for: rims and noise, and whether they would be seen. */
export function FinishFigures({ bench }: { bench: WorkBench }) {
  const { kept, job, trial, work, resolve } = bench;
  const { digest, findings } = job.piece;
  const marked = useOverlay((overlay) => overlay.rims);
  // Both of what is kept: while something is only sketched neither changes.
  const pair = useMemo(() => {
    const plain = resolve({ ...trial, treatment: withoutFinish(trial.treatment) });
    return kept.ok && plain.ok ? { ...kept, before: plain.recipe } : null;
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [kept]);
  const rested = useRested(pair, REST);
  const recipe = rested?.recipe ?? null;
  const before = rested?.before ?? null;
  const reach = rested ? Math.min(REACH_MOST, Math.max(1, Math.ceil(factorOf(rested.plan)))) : 1;
  const { data, isFetching, error } = useQuery({
    queryKey: ['finishing', digest, findings.page, recipe && canonicalJson(recipe.steps)],
    queryFn: ({ signal }) =>
      ask(
        'finishing',
        {
          original: wholeOriginal(digest, findings, recipe!),
          ...{ before: before!, after: recipe!, reach },
        },
        { priority: PRIORITY.figures, group: 'figures', signal },
      ),
    enabled: recipe !== null && before !== null && finishes(recipe),
    staleTime: Infinity,
    placeholderData: (previous) => previous,
  });
  if (!recipe || !finishes(recipe)) return null;
  const seen = data && tooMuch(data, { ppi: recipe.target.ppi, distance: work.distance });
  const rows = [
    {
      what: say`Halos, lighter and darker`,
      figure: data
        ? say`+${formatNumber(data.overshoot.light, 0)} −${formatNumber(data.overshoot.dark, 0)} levels`
        : '…',
      why: seen?.overshoot,
    },
    {
      what: say`Noise of flat areas`,
      figure: data
        ? say`${formatNumber(data.noise.before, 1)} → ${formatNumber(data.noise.after, 1)} levels`
        : '…',
      why: seen?.noise,
    },
  ];
  return (
    <>
      <dl className={`finish-figures ${isFetching ? 'soft' : ''}`} aria-live="polite">
        {error ? (
          <p className="caution mb-0">{say`Halos and noise could not be measured here.`}</p>
        ) : (
          rows.map(({ what, figure, why }) => (
            <div key={what} className={why ? 'caution' : ''}>
              <dt>
                {why && <TriangleAlert size={13} aria-hidden />} {what}
              </dt>
              <dd className="figure">{figure}</dd>
              {why && <p>{why}</p>}
            </div>
          ))
        )}
      </dl>
      <button
        type="button"
        className="text-button"
        aria-pressed={marked}
        onClick={() => {
          useOverlay.setState({ rims: !marked, finish: { way: 'all' } });
          // They are the result's own pixels.
          if (!marked) look({ zoom: { of: 'result', scale: 1 } });
        }}
      >
        <Highlighter size={13} />{' '}
        {marked ? say`Hide the marks of halos` : say`Mark halos that would be seen`}
      </button>
    </>
  );
}
