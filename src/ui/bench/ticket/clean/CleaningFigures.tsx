import { useQuery } from '@tanstack/react-query';
import { ownGrid } from '@/core/inspect/jpeg';
import { formatNumber } from '@/core/measure/format';
import { canonicalJson } from '@/core/recipe/canonical';
import { ask, PRIORITY } from '@/preview/client';
import { onOwnGrid } from '@/core/recipe/views';
import { useRested } from '../../../parts/use-rested';
import { wholeOriginal } from '../../preview-original';
import type { WorkBench } from '../../use-work';
import { say } from '@/core/words/say';

/** How long a change must stand before it is measured, in milliseconds. */
const REST = 700;

/** Blocking, noise and detail before and after cleaning, measured on a sample of the picture. */
export function CleaningFigures({ bench }: { bench: WorkBench }) {
  const { kept, job } = bench;
  const { digest, findings } = job.piece;
  const recipe = useRested(kept.ok ? kept.recipe : null, REST);
  const after = recipe && onOwnGrid(recipe, true);
  const { data, isFetching } = useQuery({
    queryKey: ['cleaning', digest, findings.page, after && canonicalJson(after.steps)],
    queryFn: ({ signal }) => {
      const original = wholeOriginal(digest, findings, recipe!);
      const before = onOwnGrid(recipe!, false);
      return ask(
        'cleaning',
        {
          ...{ original, before, after: after!, ownGrid: ownGrid(findings.jpeg) },
          found: { blocks: findings.blocking.strength, noise: findings.noise.luma },
        },
        { priority: PRIORITY.figures, group: 'figures', signal },
      );
    },
    enabled: recipe !== null,
    staleTime: Infinity,
    placeholderData: (previous) => previous,
  });
  const figure = (value?: number, digits = 0) =>
    value === undefined ? '…' : formatNumber(value, digits);
  return (
    <table className={`cleaning-figures figure ${isFetching ? 'soft' : ''}`}>
      <thead>
        <tr>
          <th />
          <th>{say`Blocking`}</th>
          <th>{say`Noise, levels`}</th>
          <th>{say`Detail`}</th>
        </tr>
      </thead>
      <tbody>
        <tr>
          <th>{say`Untouched`}</th>
          <td>{figure(data?.before.blocks)} %</td>
          <td>{figure(data?.before.noise, 1)}</td>
          <td>100 %</td>
        </tr>
        <tr>
          <th>{say`Cleaned`}</th>
          <td>{figure(data?.after.blocks)} %</td>
          <td>{figure(data?.after.noise, 1)}</td>
          <td>{figure(data?.detailKept)} %</td>
        </tr>
      </tbody>
    </table>
  );
}
