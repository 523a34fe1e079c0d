import { formatFactor, formatPpi } from '@/core/measure/format';
import { factorOf, leastPpi } from '@/core/measure/plan';
import { eyePpi } from '@/core/measure/eye';
import type { WorkBench } from '../../use-work';
import { useLooking } from '../../stage/modes/mode';
import { Section } from '../Section';
import { usePicked } from '../../../parts/use-picked';
import { useViewport } from '../../stage/viewport';
import { EvidenceTable } from './EvidenceTable';

/** Comparing: what the result gained and what it cost, beside the original and the other trials. */
export function CompareSection({ bench }: { bench: WorkBench }) {
  const { zoom } = usePicked(useViewport, 'zoom');
  const comparing = useLooking((looking) => looking.comparing);
  const { resolved, work } = bench;
  const zoomWords =
    zoom.of === 'fit' ? 'fit' : `${zoom.scale}:1${zoom.of === 'original' ? ' orig.' : ''}`;
  return (
    <Section name="compare" title="Compare" line={`${comparing} · ${zoomWords}`}>
      <p className="soft mb-0">
        All panes show the same place on paper. Hold <kbd>O</kbd> to see what is compared alone,{' '}
        <kbd>V</kbd> blinks, <kbd>W</kbd> is the next way to look.
      </p>
      <EvidenceTable bench={bench} />
      {resolved.ok && (
        <dl className="facts">
          <dt>Original on this paper</dt>
          <dd className="figure">{formatPpi(leastPpi(resolved.plan))} ppi</dd>
          <dt>The eye uses</dt>
          <dd className="figure">{formatPpi(eyePpi(work.distance))} ppi</dd>
          <dt>One original pixel becomes</dt>
          <dd className="figure">{formatFactor(factorOf(resolved.plan))} px wide</dd>
        </dl>
      )}
    </Section>
  );
}
