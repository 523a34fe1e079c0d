import { ArrowDown, ArrowUp, X } from 'lucide-react';
import Link from 'next/link';
import { Dropdown, ProgressBar } from 'react-bootstrap';
import type { Run } from '@/core/shop/job';
import { estimate } from '@/core/shop/lists';
import { useCancelRun, useMoveRun, useOpenRuns, usePace } from '../data/queries';
import { aboutSeconds, timeLeft } from '../parts/time-left';

/** What is being rendered just now, wherever in the shop, and what waits behind it. */
export function Queue() {
  const runs = useOpenRuns();
  const cancel = useCancelRun();
  const move = useMoveRun();
  const { data: pace } = usePace();
  const [first] = runs;
  if (!first) return null;
  const waiting = runs.filter(({ state }) => state === 'queued');
  const words = (run: Run): string =>
    run.state === 'running'
      ? timeLeft(run)
      : pace
        ? `waits, ${aboutSeconds(estimate(run.recipe, pace))}`
        : 'waits';
  return (
    <Dropdown align="end" className="queue">
      <Dropdown.Toggle bsPrefix="under-way" aria-label="Runs under way">
        <span>
          {first.jobTitle}, {first.trialName}
          {runs.length > 1 && ` and ${runs.length - 1} more`}
        </span>
        <ProgressBar now={first.progress * 100} aria-label="Progress of the run" />
        <span className="figure">{first.state === 'queued' ? 'waiting' : timeLeft(first)}</span>
      </Dropdown.Toggle>
      <Dropdown.Menu>
        {runs.map((run) => {
          const at = waiting.indexOf(run);
          return (
            <div className="queued" key={run.id} role="group" aria-label={run.jobTitle}>
              <Link href={`/bench/${run.jobId}`}>
                <b>{run.jobTitle}</b>
                <span className="soft">{run.trialName}</span>
              </Link>
              <span className="figure">{words(run)}</span>
              <button
                type="button"
                aria-label="Earlier"
                disabled={at < 1}
                onClick={() => move.mutate({ id: run.id, before: waiting[at - 1]!.id })}
              >
                <ArrowUp size={14} />
              </button>
              <button
                type="button"
                aria-label="Later"
                disabled={at < 0 || at === waiting.length - 1}
                onClick={() => move.mutate({ id: run.id, before: waiting[at + 2]?.id ?? null })}
              >
                <ArrowDown size={14} />
              </button>
              <button type="button" aria-label="Cancel" onClick={() => cancel.mutate(run.id)}>
                <X size={14} />
              </button>
            </div>
          );
        })}
      </Dropdown.Menu>
    </Dropdown>
  );
}
