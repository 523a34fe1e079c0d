import { Button } from 'react-bootstrap';
import { seenPercent, sweeping, useSwept } from '../stage/sweep/use-sweep';
import type { WorkBench } from '../use-work';
import { say } from '@/core/words/say';

/** Part by part at 1:1, in reading order, and how far that came. */
export function SweepLine({ bench }: { bench: WorkBench }) {
  const swept = useSwept(bench);
  if (!swept) return null;
  return (
    <div className="sweep">
      <Button
        variant="outline-primary"
        size="sm"
        onClick={() => sweeping.run()}
        title={say`The next part that was not seen at 1:1 (S)`}
      >
        {say`Sweep`}
      </Button>
      <span className="soft">
        <span className="figure">{seenPercent(swept)} %</span>{' '}
        {say`of ${bench.trial.name} seen at 1:1`}
      </span>
    </div>
  );
}
