'use client';

import { useMutation, useQuery, useQueryClient, type QueryClient } from '@tanstack/react-query';
import { useEffect, useSyncExternalStore } from 'react';
import {
  Piece,
  RunEvent,
  type Run,
  type JobChange,
  type JobView,
  type NewJob,
  type NewPicture,
} from '@/core/shop/job';
import { api, ServerProblem } from './api';
import { tell } from './notices';
import { PieceQueue, type PieceState } from './piece-queue';

export const keys = {
  jobs: ['jobs'] as const,
  job: (id: number) => ['job', id] as const,
  openRuns: ['open runs'] as const,
  lists: ['lists'] as const,
  maps: (digest: string, page: number) => ['maps', digest, page] as const,
};

export const useJobs = () => useQuery({ queryKey: keys.jobs, queryFn: api.jobs });

/** A job with one of its pictures on the bench: the one that lies there, or `piece` at first. */
export function useJob(id: number, piece?: number) {
  const client = useQueryClient();
  return useQuery({
    queryKey: keys.job(id),
    queryFn: () => api.job(id, client.getQueryData<JobView>(keys.job(id))?.piece.id ?? piece),
  });
}

/** Puts another of a job's pictures on the bench. */
export function usePieceChoice(id: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (piece: number) => api.job(id, piece),
    onSuccess: (job) => client.setQueryData(keys.job(id), job),
    onError: (error) => tell(error.message, 'trouble'),
  });
}

/** Adds pictures to a job and puts the first of them on the bench. */
export function useAddPieces(id: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (pictures: NewPicture[]) => api.addPieces(id, { pictures }),
    onSuccess: (job) => {
      client.setQueryData(keys.job(id), job);
      return client.invalidateQueries({ queryKey: keys.jobs });
    },
    onError: (error) => tell(error.message, 'trouble'),
  });
}

export const useLists = () =>
  useQuery({ queryKey: keys.lists, queryFn: api.lists, staleTime: Infinity });

/** Which learned models can be used. */
export const useModels = () =>
  useQuery({ queryKey: ['models'], queryFn: api.models, staleTime: Infinity });

/** How fast this machine makes results; better known after every run. */
export const usePace = () => useQuery({ queryKey: ['pace'], queryFn: api.pace });

/** Findings part by part of a page; they never change. */
export const useMaps = (digest: string, page: number, wanted: boolean) =>
  useQuery({
    queryKey: keys.maps(digest, page),
    queryFn: () => api.maps(digest, page),
    staleTime: Infinity,
    enabled: wanted,
  });

export function useBeginJob() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async (jobs: NewJob[]) => {
      const begun: JobView[] = [];
      for (const job of jobs) begun.push(await api.beginJob(job));
      return begun;
    },
    onSuccess: (jobs) => {
      for (const job of jobs) client.setQueryData(keys.job(job.id), job);
      return client.invalidateQueries({ queryKey: keys.jobs });
    },
    onError: (error) => tell(error.message, 'trouble'),
  });
}

/** What of a job is changed outside its pictures, such as its state. */
export function useChangeJob(id: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (change: JobChange) =>
      api.changeJob(id, change, client.getQueryData<JobView>(keys.job(id))?.piece.id),
    onSuccess: (job) => {
      client.setQueryData(keys.job(id), job);
      return client.invalidateQueries({ queryKey: keys.jobs });
    },
    onError: (error) => tell(error.message, 'trouble'),
  });
}

const queues = new Map<number, PieceQueue>();

/** What is written to a picture; the same queue for as long as the page is open. */
function queueOf(client: QueryClient, piece: Piece): PieceQueue {
  const known = queues.get(piece.id);
  if (known) return known;
  const queue = new PieceQueue(
    piece,
    { change: api.changePiece, move: api.movePiece, run: api.run },
    {
      queued: (run) => {
        putRun(client, run);
        void client.invalidateQueries({ queryKey: keys.jobs });
      },
      failed: (error, dropped) =>
        tell(
          dropped > 0
            ? `${error.message} ${dropped} more that waited were not applied either.`
            : error.message,
          'trouble',
        ),
      pieceIn: (error) =>
        error instanceof ServerProblem ? (Piece.safeParse(error.facts).data ?? null) : null,
    },
  );
  queues.set(piece.id, queue);
  return queue;
}

/** A picture with all that is on its way to it, and what writes to it. */
export function usePiece(piece: Piece): { state: PieceState; queue: PieceQueue } {
  const queue = queueOf(useQueryClient(), piece);
  useEffect(() => queue.adopt(piece), [queue, piece]);
  return { state: useSyncExternalStore(queue.subscribe, queue.snapshot, queue.snapshot), queue };
}

export function useCancelRun() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id: string) => api.cancelRun(id),
    onSuccess: (run) => putRun(client, run),
    onError: (error) => tell(error.message, 'trouble'),
  });
}

/** Gives a waiting run another place in the queue. */
export function useMoveRun() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ id, before }: { id: string; before: string | null }) => api.moveRun(id, before),
    onSuccess: (run) => putRun(client, run),
    onError: (error) => tell(error.message, 'trouble'),
  });
}

function putRun(client: QueryClient, run: Run): void {
  const open = run.state === 'queued' || run.state === 'running';
  client.setQueryData<Run[]>(keys.openRuns, (runs = []) => {
    const others = runs.filter((other) => other.id !== run.id);
    return open ? [...others, run].sort(inOrder) : others;
  });
  client.setQueryData<JobView>(keys.job(run.jobId), (job) =>
    job && job.piece.id === run.pieceId
      ? {
          ...job,
          runs: [run, ...job.runs.filter((other) => other.id !== run.id)].sort(
            (a, b) => b.queuedAt - a.queuedAt,
          ),
        }
      : job,
  );
}

/** The one that runs first, then those that wait, in their order. */
const inOrder = (a: Run, b: Run): number =>
  Number(b.state === 'running') - Number(a.state === 'running') || a.rank - b.rank;

/** Runs that are queued or running anywhere in the shop. */
export const useOpenRuns = (): Run[] =>
  useQuery({ queryKey: keys.openRuns, queryFn: api.openRuns, staleTime: Infinity }).data ?? [];

/** Listens to the runs for as long as the page is open; the browser connects again by itself. */
export function useRunEvents(): void {
  const client = useQueryClient();
  useEffect(() => {
    const events = new EventSource('/api/events');
    const seen = new Map<string, RunEvent>();
    events.addEventListener('run', (event: MessageEvent<string>) => {
      const now = RunEvent.parse(JSON.parse(event.data));
      const before = seen.get(now.id);
      seen.set(now.id, now);
      const known = client
        .getQueryData<Run[]>(keys.openRuns)
        ?.find((run) => run.id === now.id && run.state === now.state);
      if (known) putRun(client, { ...known, ...now });
      else void learn(client, now, before);
    });
    // What ended while the line was down is learnt by asking again.
    events.addEventListener('open', () => {
      void client.invalidateQueries({ queryKey: keys.openRuns });
      void client.invalidateQueries({ queryKey: ['job'] });
    });
    return () => events.close();
  }, [client]);
}

/** Asks for a run that began, ended, or was not known yet. */
async function learn(client: QueryClient, now: RunEvent, before?: RunEvent): Promise<void> {
  const run = await api.readRun(now.id).catch(() => null);
  if (!run) return;
  putRun(client, run);
  if (before?.state === 'running' && run.state === 'done') {
    tell(`${run.jobTitle}: ${run.trialName} is ready in Output.`, 'good');
    void client.invalidateQueries({ queryKey: ['pace'] });
  }
  if (before && before.state !== run.state && run.state === 'failed') {
    tell(`${run.jobTitle}: ${run.error ?? 'the run failed.'}`, 'trouble');
  }
}
