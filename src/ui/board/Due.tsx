import { format, parseISO } from 'date-fns';
import type { JobHead } from '@/core/shop/job';
import { daysLeft, dueWords } from './days-left';

/** When a job is due, and how many days are left; what is on its way or printed is late no more. */
export function Due({ job: { due, state } }: { job: Pick<JobHead, 'due' | 'state'> }) {
  if (!due) return <>–</>;
  const over = state === 'sent' || state === 'printed';
  const days = daysLeft(due, new Date());
  return (
    <span className={`due ${!over && days < 0 ? 'trouble' : ''}`}>
      {format(parseISO(due), 'EEE d MMM')}
      {!over && <small>{dueWords(days)}</small>}
    </span>
  );
}
