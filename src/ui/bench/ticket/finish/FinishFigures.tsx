import { useQuery } from '@tanstack/react-query';
import { TriangleAlert } from 'lucide-react';
import { tooMuch } from '@/core/evidence/finishing';
import { formatNumber } from '@/core/measure/format';
import { factorOf } from '@/core/measure/plan';
import { canonicalJson } from '@/core/recipe/canonical';
import { finishes, withoutFinish } from '@/core/recipe/finish';
import { ask, PRIORITY } from '@/preview/client';
import { useRested } from '../../../parts/use-rested';
import { wholeOriginal } from '../../preview-original';
import type { WorkBench } from '../../use-work';

/** How long a change must stand before it is measured, in milliseconds. */
const REST = 700;

/** What finishing did beside what it was for: rims and noise, and whether they would be seen. */
export function FinishFigures({ bench }: { bench: WorkBench }) {
  const { kept, job, trial, work, resolve } = bench;
  const { digest, findings } = job.piece;
  const rested = useRested(kept, REST);
  const recipe = rested.ok ? rested.recipe : null;
  const plain = recipe && resolve({ ...trial, treatment: withoutFinish(trial.treatment) });
  const before = plain?.ok ? plain.recipe : null;
  const reach = rested.ok ? Math.min(32, Math.max(1, Math.ceil(factorOf(rested.plan)))) : 1;
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
      what: 'Rims, lighter and darker',
      figure: data
        ? `+${formatNumber(data.overshoot.light, 0)} −${formatNumber(data.overshoot.dark, 0)} levels`
        : '…',
      why: seen?.overshoot,
    },
    {
      what: 'Noise of flat areas',
      figure: data
        ? `${formatNumber(data.noise.before, 1)} → ${formatNumber(data.noise.after, 1)} levels`
        : '…',
      why: seen?.noise,
    },
  ];
  return (
    <dl className={`finish-figures ${isFetching ? 'soft' : ''}`} aria-live="polite">
      {error ? (
        <p className="caution mb-0">Rims and noise could not be measured here.</p>
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
  );
}
