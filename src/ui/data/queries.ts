'use client';

import { useMutation, useQuery, useQueryClient, type QueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import {
  Piece,
  Run,
  type JobChange,
  type JobView,
  type NewJob,
  type NewPicture,
} from '@/core/shop/job';
import type { Work } from '@/core/recipe/work';
import { api, ServerProblem } from './api';
import { tell } from './notices';

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

const putPiece = (client: QueryClient, piece: Piece) =>
  client.setQueryData<JobView>(keys.job(piece.jobId), (job) =>
    // Another picture may lie on the bench by now.
    job?.piece.id === piece.id ? { ...job, piece } : job,
  );

/** After a conflict the server's piece is shown; its words say what became of the change. */
function recover(client: QueryClient, error: Error): void {
  tell(error.message, 'trouble');
  const piece = error instanceof ServerProblem ? Piece.safeParse(error.facts) : null;
  if (piece?.success) putPiece(client, piece.data);
}

/**
 * Writes to one piece, strictly one after the other: each names the revision that the one before
 * it left.
 */
export function usePieceWrites(jobId: number) {
  const client = useQueryClient();
  const piece = () => client.getQueryData<JobView>(keys.job(jobId))!.piece;
  const scope = { id: `piece of job ${jobId}` };
  const mutationKey = ['piece', jobId];
  const resolved = {
    mutationKey,
    // A newer choice that is still on its way stays on the screen.
    onSuccess: (updated: Piece) =>
      putPiece(
        client,
        client.isMutating({ mutationKey }) > 1 ? { ...updated, work: piece().work } : updated,
      ),
    onError: (error: Error) => recover(client, error),
  };
  const change = useMutation({
    scope,
    mutationFn: ({ label, work }: { label: string; work: Work }) =>
      api.changePiece(piece().id, { revision: piece().revision, label, work }),
    // What was chosen stays on the screen while it is on its way.
    onMutate: ({ work }) => putPiece(client, { ...piece(), work }),
    ...resolved,
  });
  const move = useMutation({
    scope,
    // By steps it is told only now: a change that was on its way has become part of the history.
    mutationFn: async (way: { to: number } | { by: -1 | 1 }) => {
      const { id, revision, history, current } = piece();
      const at = history.findIndex((entry) => entry.id === current);
      const to = 'to' in way ? way.to : history[at + way.by]?.id;
      return to === undefined ? piece() : api.movePiece(id, { revision, to });
    },
    ...resolved,
  });
  const run = useMutation({
    scope,
    mutationFn: (trialId: string) => api.run(piece().id, { revision: piece().revision, trialId }),
    onSuccess: (queued: Run) => {
      putRun(client, queued);
      return client.invalidateQueries({ queryKey: keys.jobs });
    },
    onError: (error: Error) => recover(client, error),
  });
  return { change, move, run };
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
  client.setQueryData<JobView>(
    keys.job(run.jobId),
    (job) =>
      job && job.piece.id === run.pieceId
        ? {
        ...job,
        runs: [run, ...job.runs.filter((other) => other.id !== run.id)].sort(
          (a, b) => b.queuedAt - a.queuedAt,
        ),
      } : job,
  );
}

/** The one that runs first, then those that wait, in their order. */
const inOrder = (a: Run, b: Run): number =>
  Number(b.state === 'running') - Number(a.state === 'running') || a.rank - b.rank;

/** Runs that are queued or running anywhere in the shop. */
export const useOpenRuns = (): Run[] =>
  useQuery<Run[]>({ queryKey: keys.openRuns, queryFn: () => [], staleTime: Infinity }).data ?? [];

/** Listens to the runs for as long as the page is open; the browser connects again by itself. */
export function useRunEvents(): void {
  const client = useQueryClient();
  useEffect(() => {
    const events = new EventSource('/api/events');
    const seen = new Map<string, string>();
    events.addEventListener('run', (event: MessageEvent<string>) => {
      const run = Run.parse(JSON.parse(event.data));
      const before = seen.get(run.id);
      seen.set(run.id, run.state);
      putRun(client, run);
      if (before === 'running' && run.state === 'done') {
        tell(`${run.jobTitle}: ${run.trialName} is ready in Output.`, 'good');
        void client.invalidateQueries({ queryKey: ['pace'] });
      }
      if (before && before !== run.state && run.state === 'failed') {
        tell(`${run.jobTitle}: ${run.error ?? 'the run failed.'}`, 'trouble');
      }
    });
    // What ended while the line was down is learnt by asking again.
    events.addEventListener('open', () => {
      client.setQueryData(keys.openRuns, []);
      void client.invalidateQueries({ queryKey: ['job'] });
    });
    return () => events.close();
  }, [client]);
}
