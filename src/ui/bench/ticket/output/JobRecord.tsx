import { format } from 'date-fns';
import { eventWords } from '@/core/shop/event-words';
import Link from 'next/link';
import { Fold } from '../../../parts/Fold';
import type { WorkBench } from '../../use-work';
import { say } from '@/core/words/say';

/** What happened to the job, the newest first. */
export function JobRecord({ bench: { job } }: { bench: WorkBench }) {
  const { events } = job;
  if (events.length === 0) return null;
  return (
    <Fold title={say`What happened`} line={`${events.length}`}>
      <ol className="job-record" aria-label={say`What happened to the job`}>
        {events.map((event) => (
          <li key={event.id}>
            <time className="figure" dateTime={new Date(event.at).toISOString()}>
              {format(event.at, 'd MMM HH:mm')}
            </time>
            <span>{eventWords(event)}</span>
          </li>
        ))}
      </ol>
      <Link
        className="btn btn-quiet btn-sm align-self-start"
        href={`/record/${job.id}`}
        prefetch={false}
      >
        {say`The whole record`}
      </Link>
    </Fold>
  );
}
