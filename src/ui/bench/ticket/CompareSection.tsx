import { formatFactor, formatPpi } from '@/core/measure/format';
import { factorOf, leastPpi } from '@/core/measure/plan';
import { eyePpi } from '@/core/measure/eye';
import type { WorkBench } from '../use-work';
import { useLooking } from '../stage/modes/mode';
import { Section } from './Section';
import { usePicked } from '../../parts/use-picked';
import { useViewport, look } from '../stage/viewport';

export function CompareSection({ bench }: { bench: WorkBench }) {
  const { zoom } = usePicked(useViewport, 'zoom');
  const comparing = useLooking((looking) => looking.comparing);
  const { resolved, work } = bench;
  const zoomWords =
    zoom.of === 'fit' ? 'fit' : `${zoom.scale}:1${zoom.of === 'original' ? ' orig.' : ''}`;
  return (
    <Section name="compare" title="Compare" line={`${comparing} · ${zoomWords}`}>
      <p className="mb-0">
        Both sides show the same place on paper. Hold <kbd>O</kbd> to see the original alone,{' '}
        <kbd>W</kbd> changes how they are laid out, <kbd>1</kbd> shows the exact pixels of the file.
      </p>
      {resolved.ok && (
        <dl className="facts">
          <dt>Original on this paper</dt>
          <dd className="figure">{formatPpi(leastPpi(resolved.plan))} ppi</dd>
          <dt>Result</dt>
          <dd className="figure">{formatPpi(resolved.plan.ppiAfter)} ppi</dd>
          <dt>The eye uses</dt>
          <dd className="figure">{formatPpi(eyePpi(work.distance))} ppi</dd>
          <dt>One original pixel becomes</dt>
          <dd className="figure">{formatFactor(factorOf(resolved.plan))} px wide</dd>
        </dl>
      )}
      <div className="d-flex gap-2">
        <button
          type="button"
          className="btn btn-quiet btn-sm"
          onClick={() => look({ zoom: { of: 'result', scale: 1 } })}
        >
          Exact pixels
        </button>
        <button
          type="button"
          className="btn btn-quiet btn-sm"
          onClick={() => useLooking.setState({ divider: 0.5, comparing: 'wipe' })}
        >
          Divider to the middle
        </button>
      </div>
    </Section>
  );
}
