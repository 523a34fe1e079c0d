'use client';

import Link from 'next/link';
import { useLayoutEffect } from 'react';
import type { JobView } from '@/core/shop/job';
import { useJob } from '../data/queries';
import { Stage } from './stage/Stage';
import { Ticket } from './ticket/Ticket';
import { useShortcuts } from './use-shortcuts';
import { useWorkBench } from './use-work';
import { enterPicture, useEntered } from './picture-store';

/** The workspace of one job: the ticket at the left, the stage beside it. */
export function Bench({ jobId }: { jobId: number }) {
  const { data: job, error } = useJob(jobId);
  if (job) return <LaidOut key={job.id} job={job} />;
  return (
    <main className="board">
      {error ? (
        <>
          <p className="trouble">{error.message}</p>
          <Link href="/">Back to the board</Link>
        </>
      ) : (
        <p className="soft">Fetching the ticket …</p>
      )}
    </main>
  );
}

function LaidOut({ job }: { job: JobView }) {
  const { id } = job.piece;
  const entered = useEntered((state) => state.piece);
  useLayoutEffect(() => enterPicture(job.id, id), [job.id, id]);
  // Nothing that was chosen for one picture is ever shown of, or done to, another.
  return entered === id ? <OnTheBench key={id} job={job} /> : null;
}

function OnTheBench({ job }: { job: JobView }) {
  const bench = useWorkBench(job);
  useShortcuts(bench);
  return (
    <main className="bench">
      <Ticket bench={bench} />
      <Stage bench={bench} />
    </main>
  );
}
