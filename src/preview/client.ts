import * as Comlink from 'comlink';
import type { PreviewWorker } from './worker';
import type { WorkName, Works } from './works';

export type { PreviewOriginal } from './originals';
export type { Against, Looked, Pixels, Spotted } from './works';

/** What goes before what. */
export const PRIORITY = {
  seen: 5,
  refined: 4,
  /** what somebody waits for beside the picture */
  asked: 3,
  ahead: 2,
  figures: 1,
  search: 0,
} as const;

/** One worker a core, but never more than two: each keeps pixels of its own. */
const WORKERS = Math.min(2, Math.max(1, globalThis.navigator?.hardwareConcurrency ?? 1));

const remotes: Comlink.Remote<PreviewWorker>[] = [];

const remote = (index: number): Comlink.Remote<PreviewWorker> =>
  (remotes[index] ??= Comlink.wrap<PreviewWorker>(
    new Worker(new URL('./worker.ts', import.meta.url), { type: 'module', name: 'preview' }),
  ));

/** Which worker a group's work is given to: always the same, so that it finds there what it kept. */
const groups = new Map<string, number>();

function workerOf(group: string): number {
  let index = groups.get(group);
  if (index === undefined) {
    index = groups.size % WORKERS;
    groups.set(group, index);
  }
  return index;
}

interface Options {
  priority: number;
  /** what it belongs to, such as a pane */
  group: string;
  signal?: AbortSignal | undefined;
  /** hears what there is to tell while it goes on */
  onNews?: (news: unknown) => void;
}

let last = 0;
const ignore = (): void => {};

/**
 * Asks a preview worker for something.
 * @throws the signal's reason where it was aborted
 */
export async function ask<W extends WorkName>(
  work: W,
  input: Parameters<Works[W]>[0],
  { priority, group, signal, onNews = ignore }: Options,
): Promise<Awaited<ReturnType<Works[W]>>> {
  signal?.throwIfAborted();
  const worker = remote(workerOf(group));
  const id = ++last;
  const cancel = () => void worker.cancel(id);
  signal?.addEventListener('abort', cancel, { once: true });
  try {
    const answer = await worker.ask({ id, priority, work, input }, Comlink.proxy(onNews));
    signal?.throwIfAborted();
    return answer as Awaited<ReturnType<Works[W]>>;
  } catch (error) {
    signal?.throwIfAborted();
    throw error;
  } finally {
    signal?.removeEventListener('abort', cancel);
  }
}

/** Tells every worker something that each has to know. */
export const askAll = async <W extends WorkName>(
  work: W,
  input: Parameters<Works[W]>[0],
): Promise<void> => {
  const asked = { id: ++last, priority: PRIORITY.seen, work, input };
  // Those that start later fetch it themselves.
  await Promise.all(remotes.map((worker) => worker?.ask(asked, Comlink.proxy(ignore))));
};
