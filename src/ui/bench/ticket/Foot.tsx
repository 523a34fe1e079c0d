import { Button } from 'react-bootstrap';
import { formatBytes, formatFactor, formatMegapixels, formatPpi } from '@/core/measure/format';
import { factorOf, leastPpi } from '@/core/measure/plan';
import { backToPage } from '../use-placed-bench';
import type { WorkBench } from '../use-work';
import { estimate } from '@/core/render/throughput';
import { estimateWords } from '../../parts/time-left';
import { useThroughput } from '../../data/queries';
import { useOpen } from './open';
import { say } from '@/core/words/say';

/** The ticket's foot never scrolls away: what it all comes to, and the run. */
export function Foot({ bench }: { bench: WorkBench }) {
  const { resolved, trial, run, running, inside } = bench;
  const { data: throughput } = useThroughput();
  const plan = resolved.ok ? resolved.plan : null;
  return (
    <footer className="ticket-foot">
      {inside ? (
        <Button onClick={backToPage}>{say`Back to the page`}</Button>
      ) : (
        <Button
          disabled={!plan || running}
          onClick={() => {
            run();
            useOpen.setState({ section: 'output' });
          }}
        >
          {say`Run ${trial.name}`}
        </Button>
      )}
      {plan && (
        <div className="sum figure" aria-label={say`What it comes to`}>
          {plan.vector
            ? say`shapes → ${formatPpi(plan.ppiAfter)} ppi`
            : say`${formatPpi(leastPpi(plan))} → ${formatPpi(plan.ppiAfter)} ppi · ×${formatFactor(factorOf(plan))}`}
          <br />
          {say`${formatMegapixels(plan.megapixels)} MP · ${formatBytes((plan.bytes * trial.output.depth) / 8)}`}
          {resolved.ok && throughput && (
            <> · {estimateWords(estimate(resolved.recipe, throughput))}</>
          )}
        </div>
      )}
    </footer>
  );
}
