import { formatFactor, formatPpi } from '@/core/measure/format';
import { factorOf, leastPpi } from '@/core/measure/plan';
import { eyePpi } from '@/core/measure/eye';
import type { WorkBench } from '../../use-work';
import { useLooking } from '../../stage/modes/mode';
import { Section } from '../Section';
import { usePicked } from '../../../parts/use-picked';
import { useViewport, type Zoom } from '../../stage/viewport';
import { X } from 'lucide-react';
import { useComparing, usePutAway } from '../../../data/comparing';
import { IconSwitch } from '../../../parts/IconSwitch';
import { SweepLine } from '../SweepLine';
import { SheetButton } from './SheetButton';
import { EvidenceTable } from './EvidenceTable';
import { say } from '@/core/words/say';

const zoomWords = (zoom: Zoom): string => {
  if ('scale' in zoom) return `${zoom.scale}:1${zoom.of === 'original' ? say` orig.` : ''}`;
  return zoom.of === 'fit' ? say`fit` : zoom.of === 'size' ? say`true size` : say`from afar`;
};

/** Pictures that were brought from outside to be compared with, each to be put away again. */
function BroughtList({ bench }: { bench: WorkBench }) {
  const { id } = bench.job.piece;
  const brought = useComparing(id).data?.brought ?? [];
  const putAway = usePutAway(id);
  if (brought.length === 0) return null;
  return (
    <ul className="brought" aria-label={say`Brought from outside`}>
      {brought.map((one) => (
        <li key={one.id}>
          <span className="text-truncate" title={one.fileName}>
            {one.fileName}
          </span>
          <span className="figure soft">
            {one.findings.width} × {one.findings.height}
          </span>
          <IconSwitch label={say`Put ${one.fileName} away`} Icon={X} onPress={() => putAway(one)} />
        </li>
      ))}
    </ul>
  );
}

/** Comparing: what the result gained and what it cost, beside the original and the other trials. */
export function CompareSection({ bench }: { bench: WorkBench }) {
  const { zoom } = usePicked(useViewport, 'zoom');
  const comparing = useLooking((looking) => looking.comparing);
  const { resolved, work } = bench;
  return (
    <Section
      bench={bench}
      name="compare"
      title={say`Compare`}
      line={`${comparing} · ${zoomWords(zoom)}`}
    >
      <SweepLine bench={bench} />
      <BroughtList bench={bench} />
      <EvidenceTable bench={bench} />
      {!bench.inside && <SheetButton bench={bench} />}
      {resolved.ok && (
        <dl className="facts">
          <dt>{say`Original on this paper`}</dt>
          <dd className="figure">{say`${formatPpi(leastPpi(resolved.plan))} ppi`}</dd>
          <dt>{say`Needed at this distance`}</dt>
          <dd className="figure">{say`${formatPpi(eyePpi(work.distance))} ppi`}</dd>
          <dt>{say`One original pixel becomes`}</dt>
          <dd className="figure">{say`${formatFactor(factorOf(resolved.plan))} px wide`}</dd>
        </dl>
      )}
    </Section>
  );
}
