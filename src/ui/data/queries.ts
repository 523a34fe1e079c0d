'use client';

import {
  keepPreviousData,
  queryOptions,
  useMutation,
  useQueries,
  useQuery,
  useQueryClient,
  type QueryClient,
} from '@tanstack/react-query';
import { v4 as newId } from 'uuid';
import { useEffect, useSyncExternalStore } from 'react';
import { Piece, type JobChange, type JobView, type NewJob, type NewPicture } from '@/core/shop/job';
import { isOpen, type Task } from '@/core/shop/task';
import type { ApprovalRequest, Withdrawal } from '@/core/shop/event';
import type { ProofRequest } from '@/core/shop/proof';
import type { OrderAgain } from '@/core/shop/order-again';
import type { Lists } from '@/core/shop/lists';
import type { BoardPage } from '@/core/shop/board';
import { api, ServerProblem, type Board } from './api';
import { author } from './author';
import { tellChangedElsewhere } from './changed-elsewhere';
import { insistently } from './insistently';
import { takeBack, tell } from './notices';
import { askBeforeLeaving } from '../parts/leaving';
import { PieceQueue, type PieceState } from './piece-queue';
import { say } from '@/core/words/say';

export const keys = {
  jobs: ['jobs'] as const,
  job: (id: number) => ['job', id] as const,
  openTasks: ['open tasks'] as const,
  lists: ['lists'] as const,
  profiles: ['profiles'] as const,
  shop: ['shop'] as const,
  batches: ['batches'] as const,
  devices: ['devices'] as const,
  sendings: (piece: number) => ['sendings', piece] as const,
  maps: (digest: string, page: number) => ['maps', digest, page] as const,
};

const boardPage = (board: Board, page: number) => ({
  queryKey: [...keys.jobs, board, page] as const,
  // Whatever is shown says which board it belongs to.
  queryFn: async () => ({ board, ...(await api.board(board, page)) }),
});

/** The first page of the board; while another one is asked for, the last one stays. */
export const useBoard = (board: Board) =>
  useQuery({ ...boardPage(board, 0), placeholderData: keepPreviousData });

/** Pages of the board from one to another, in their order; null where one is not here yet. */
export const useBoardPages = (
  board: Board,
  first: number,
  last: number,
): readonly (BoardPage | null)[] =>
  useQueries({
    queries: Array.from({ length: last - first + 1 }, (_, i) => boardPage(board, first + i)),
    combine: pagesOf,
  });

// One function, so that the same pages are the same list.
const pagesOf = (found: readonly { data: BoardPage | undefined }[]) =>
  found.map(({ data }) => data ?? null);

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
    mutationFn: (pictures: NewPicture[]) => {
      const once = newId();
      return insistently(() => api.addPieces(id, { pictures, once }));
    },
    onSuccess: (job) => {
      client.setQueryData(keys.job(id), job);
      return client.invalidateQueries({ queryKey: keys.jobs });
    },
    onError: (error) => tell(error.message, 'trouble'),
  });
}

/** Until they are known. */
export const NO_LISTS: Lists = { devices: [], materials: [], sheets: [], unit: 'cm' };

export const useLists = () =>
  useQuery({ queryKey: keys.lists, queryFn: api.lists, staleTime: Infinity });

/** Signs for a result, or takes that back. */
export function useSigning(jobId: number, pieceId: number) {
  const client = useQueryClient();
  const done = {
    onSuccess: (job: JobView) => {
      client.setQueryData(keys.job(jobId), job);
      return client.invalidateQueries({ queryKey: keys.jobs });
    },
    onError: (error: Error) => tell(error.message, 'trouble'),
  };
  return {
    approve: useMutation({
      mutationFn: (request: ApprovalRequest) => api.approve(pieceId, request),
      ...done,
    }),
    withdraw: useMutation({
      mutationFn: (request: Withdrawal) => api.withdraw(pieceId, request),
      ...done,
    }),
  };
}

/** The profiles that colours can be converted to. */
export const useProfiles = () =>
  useQuery({ queryKey: keys.profiles, queryFn: api.profiles, staleTime: 60_000 });

/** Adds a profile to the shop's, or takes one off. */
export function useChangeProfiles() {
  const client = useQueryClient();
  const done = {
    onSuccess: () => client.invalidateQueries({ queryKey: keys.profiles }),
    onError: (error: Error) => tell(error.message, 'trouble'),
  };
  const add = useMutation({ mutationFn: api.addProfile, ...done });
  const remove = useMutation({ mutationFn: api.removeProfile, ...done });
  return { add, remove };
}

/** Which learned models can be used. */
export const useModels = () =>
  useQuery({ queryKey: ['models'], queryFn: api.models, staleTime: Infinity });

/** How fast this machine makes results; better known after every run. */
export const useThroughput = () => useQuery({ queryKey: ['throughput'], queryFn: api.throughput });

/** Findings part by part of a page; they never change. */
export const mapsQuery = (digest: string, page: number) =>
  queryOptions({
    queryKey: keys.maps(digest, page),
    queryFn: () => api.maps(digest, page),
    staleTime: Infinity,
  });
export const useMaps = (digest: string, page: number, wanted: boolean) =>
  useQuery({ ...mapsQuery(digest, page), enabled: wanted });

export function useBeginJob() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async (jobs: NewJob[]) => {
      const begun: JobView[] = [];
      for (const job of jobs) {
        const once = newId();
        begun.push(await insistently(() => api.beginJob({ ...job, once })));
      }
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

/** Orders a job again. */
export function useOrderAgain(id: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (order: OrderAgain) => api.orderAgain(id, order),
    onSuccess: (job) => {
      client.setQueryData(keys.job(job.id), job);
      return client.invalidateQueries({ queryKey: keys.jobs });
    },
    onError: (error) => tell(error.message, 'trouble'),
  });
}

/** Makes the file of a finished run once more. */
export function useRunAgain() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id: string) => api.runAgain(id),
    onSuccess: (task) => putTask(client, task),
    onError: (error) => tell(error.message, 'trouble'),
  });
}

/** How the shop is; asked again while something goes on in it. */
export const useShop = () =>
  useQuery({
    queryKey: keys.shop,
    queryFn: api.shop,
    refetchInterval: ({ state }) => (state.data?.auditing ? 700 : 10_000),
  });

/** Begins to compare records, files and digests. */
export function useBeginAudit() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: api.beginAudit,
    onSuccess: (shop) => client.setQueryData(keys.shop, shop),
    onError: (error) => tell(error.message, 'trouble'),
  });
}

const queues = new Map<number, PieceQueue>();

/** What is written to a picture; the same queue for as long as the page is open. */
function queueOf(client: QueryClient, piece: Piece): PieceQueue {
  const known = queues.get(piece.id);
  if (known) return known;
  /** the notice that changes wait */
  let waiting: number | null = null;
  const queue = new PieceQueue(
    piece,
    {
      change: (id, change) => api.changePiece(id, { ...change, author: author() }),
      move: (id, move) => api.movePiece(id, { ...move, author: author() }),
      run: api.run,
    },
    {
      queued: (run) => {
        putTask(client, run);
        void client.invalidateQueries({ queryKey: keys.jobs });
      },
      failed: (error) => tell(error.message, 'trouble'),
      met: tellChangedElsewhere,
      pieceIn: (error) =>
        error instanceof ServerProblem ? (Piece.safeParse(error.facts).data ?? null) : null,
      unanswered: (error) => error instanceof ServerProblem && error.status === 0,
      waits: (count) => {
        takeBack(waiting);
        waiting = tell(
          say`The shop does not answer. ${count === 1 ? say`Your change waits` : say`Your ${count} changes wait`} and will be kept when it does; leave this page open.`,
          'trouble',
        );
      },
      answers: (kept) => {
        takeBack(waiting);
        waiting = null;
        // Of what was not kept it is said why.
        if (kept) tell(say`The shop answers again. What waited is kept.`, 'good');
      },
      pause: (tries) =>
        new Promise((resolve) => setTimeout(resolve, Math.min(10_000, 1000 * 2 ** tries))),
    },
  );
  queues.set(piece.id, queue);
  askBeforeLeaving(() => queue.snapshot().changing > 0);
  return queue;
}

/** A picture with all that is on its way to it, and what writes to it. */
export function usePiece(piece: Piece): { state: PieceState; queue: PieceQueue } {
  const queue = queueOf(useQueryClient(), piece);
  useEffect(() => queue.adopt(piece), [queue, piece]);
  return { state: useSyncExternalStore(queue.subscribe, queue.snapshot, queue.snapshot), queue };
}

/** Asks for a proof. */
export function useRequestProof(pieceId: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (request: ProofRequest) => api.requestProof(pieceId, request),
    onSuccess: (task) => putTask(client, task),
    onError: (error) => tell(error.message, 'trouble'),
  });
}

export function useCancelTask() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id: string) => api.cancelTask(id),
    onSuccess: (task) => putTask(client, task),
    onError: (error) => tell(error.message, 'trouble'),
  });
}

/** Gives a waiting task another place in the queue. */
export function useMoveTask() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ id, before }: { id: string; before: string | null }) => api.moveTask(id, before),
    onSuccess: (task) => putTask(client, task),
    onError: (error) => tell(error.message, 'trouble'),
  });
}

/** Keeps what is known of a task, wherever it shows. */
export function putTask(client: QueryClient, task: Task): void {
  client.setQueryData<Task[]>(keys.openTasks, (tasks = []) => {
    const others = tasks.filter((other) => other.id !== task.id);
    return isOpen(task) ? [...others, task].sort(inOrder) : others;
  });
  const putFirst = <T extends Task>(one: T, all: readonly T[]): T[] =>
    [one, ...all.filter(({ id }) => id !== one.id)].sort((a, b) => b.queuedAt - a.queuedAt);
  client.setQueryData<JobView>(keys.job(task.jobId), (job) => {
    if (job?.piece.id !== task.pieceId) return job;
    if (task.kind === 'render') return { ...job, runs: putFirst(task, job.runs) };
    if (task.kind === 'proof') return { ...job, proofs: putFirst(task, job.proofs) };
    return job;
  });
}

/** The one that runs first, then those that wait, in their order. */
const inOrder = (a: Task, b: Task): number =>
  Number(b.state === 'running') - Number(a.state === 'running') || a.rank - b.rank;

/** What is queued or running anywhere in the shop. */
export const useOpenTasks = (): Task[] =>
  useQuery({ queryKey: keys.openTasks, queryFn: api.openTasks, staleTime: Infinity }).data ?? [];
