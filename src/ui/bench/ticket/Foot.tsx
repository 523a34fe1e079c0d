import { Button } from 'react-bootstrap';
import { formatBytes, formatFactor, formatMegapixels, formatPpi } from '@/core/measure/format';
import { factorOf, leastPpi } from '@/core/measure/plan';
import { backToPage } from '../use-placed-bench';
import type { WorkBench } from '../use-work';
import { estimate } from '@/core/shop/lists';
import { aboutSeconds } from '../../parts/time-left';
import { useThroughput } from '../../data/queries';
import { useOpen } from './open';

/** The ticket's foot never scrolls away: what it all comes to, and the run. */
export function Foot({ bench }: { bench: WorkBench }) {
  const { resolved, trial, run, running, inside } = bench;
  const { data: throughput } = useThroughput();
  const plan = resolved.ok ? resolved.plan : null;
  return (
    <footer className="ticket-foot">
      {inside ? (
        <Button onClick={backToPage}>Back to the page</Button>
      ) : (
        <Button
          disabled={!plan || running}
          onClick={() => {
            run();
            useOpen.setState({ section: 'output' });
          }}
        >
          Run {trial.name}
        </Button>
      )}
      {plan && (
        <div className="sum figure" aria-label="What it comes to">
          {plan.vector
            ? `shapes → ${formatPpi(plan.ppiAfter)} ppi`
            : `${formatPpi(leastPpi(plan))} → ${formatPpi(plan.ppiAfter)} ppi · ×${formatFactor(factorOf(plan))}`}
          <br />
          {formatMegapixels(plan.megapixels)} MP ·{' '}
          {formatBytes((plan.bytes * trial.output.depth) / 8)}
          {resolved.ok && throughput && (
            <> · {aboutSeconds(estimate(resolved.recipe, throughput))}</>
          )}
        </div>
      )}
    </footer>
  );
}
