import { format } from 'date-fns';
import type { ShopEvent } from '@/core/shop/event';
import { Fold } from '../../../parts/Fold';
import type { WorkBench } from '../../use-work';

/** What happened to the job, the newest first. */
export function JobRecord({ bench: { job } }: { bench: WorkBench }) {
  const { events } = job;
  if (events.length === 0) return null;
  return (
    <Fold title="What happened" line={`${events.length}`}>
      <ol className="job-record" aria-label="What happened to the job">
        {events.map((event) => (
          <li key={event.id}>
            <time className="figure" dateTime={new Date(event.at).toISOString()}>
              {format(event.at, 'd MMM HH:mm')}
            </time>
            <span>{wordsOf(event)}</span>
          </li>
        ))}
      </ol>
    </Fold>
  );
}

function wordsOf(event: ShopEvent): string {
  switch (event.kind) {
    case 'state':
      return `From ${event.from} to ${event.to}`;
    case 'approved':
      return `${event.trialName} approved by ${event.initials}: ${event.fileName}`;
    case 'approval withdrawn':
      return `Approval taken back by ${event.initials}${event.note ? `: ${event.note}` : ''}`;
  }
}
