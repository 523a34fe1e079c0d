'use client';

import Link from 'next/link';
import { useLayoutEffect } from 'react';
import type { JobView } from '@/core/shop/job';
import { useJob } from '../data/queries';
import { Stage } from './stage/Stage';
import { useSectionInAddress } from './ticket/open';
import { Ticket } from './ticket/Ticket';
import { TicketEdge, useTicket } from './ticket/TicketEdge';
import { useShortcuts } from './use-shortcuts';
import { useWorkBench } from './use-work';
import { useInside, usePlacedBench } from './use-placed-bench';
import { useAsked, type Asked } from './use-asked';
import { enterPicture, useEntered } from './picture-store';
import { HouseDialogs } from '../house/HouseDialogs';
import { say } from '@/core/words/say';

/** The workspace of one job: the ticket at the left, the stage beside it. */
export function Bench({ jobId, asked }: { jobId: number; asked: Asked }) {
  const { data: job, error } = useJob(jobId, asked.piece);
  const there = useAsked(job, asked);
  if (job && there) return <LaidOut key={job.id} job={job} />;
  return (
    <main className="board">
      {error ? (
        <>
          <p className="trouble">{error.message}</p>
          <Link href="/">{say`Back to the board`}</Link>
        </>
      ) : (
        <p className="soft">{say`Fetching the ticket …`}</p>
      )}
    </main>
  );
}

function LaidOut({ job }: { job: JobView }) {
  const { id, work } = job.piece;
  const inside = useInside((state) => (state.piece === id ? state.picture : null));
  const picture = inside === null ? `${id}` : `${id}, ${work.framing.page}, ${inside}`;
  const entered = useEntered((state) => state.picture);
  useLayoutEffect(() => enterPicture(job.id, picture), [job.id, picture]);
  // Nothing that was chosen for one picture is ever shown of, or done to, another.
  return entered === picture ? <OnTheBench key={picture} {...{ job, inside }} /> : null;
}

function OnTheBench({ job, inside }: { job: JobView; inside: number | null }) {
  const page = useWorkBench(job);
  const bench = usePlacedBench(page, inside);
  useShortcuts(bench);
  useSectionInAddress();
  const width = useTicket();
  return (
    <main className="bench" style={{ gridTemplateColumns: `${width}px minmax(0, 1fr)` }}>
      <Ticket bench={bench} />
      <TicketEdge width={width} />
      <Stage bench={bench} />
      {!bench.inside && <HouseDialogs bench={bench} />}
    </main>
  );
}
