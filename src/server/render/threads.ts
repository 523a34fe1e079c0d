import { availableParallelism } from 'node:os';
import { setFlagsFromString } from 'node:v8';
import Piscina from 'piscina';
import { config } from '../config';
import { entryOf } from '../entry';
import type { PackedStrip, StripTask } from '../output/strip';
import { Problem } from '../problem';
import type { Answer, DigestTask, PartTask, WarmTask } from './part-worker';

type ThreadTask = PartTask | WarmTask | DigestTask | StripTask;

/** As long as a thread holds less, nothing is marked, in megabytes. */
const QUIET_MB = 256;

let pool: Piscina<ThreadTask, Answer> | undefined;

function threads(): Piscina<ThreadTask, Answer> {
  if (pool) return pool;
  // Pixels count as memory that makes the collector mark anew every few tiles, which takes a third of all time where it
  // is done beside the program, over and over for heaps of some megabytes. Threads mark late, and at once; what is short-lived
  // goes without marking.
  setFlagsFromString('--no-concurrent-marking');
  setFlagsFromString(`--initial-heap-size=${QUIET_MB}`);
  pool = new Piscina<ThreadTask, Answer>({
    filename: entryOf('server/render/part-worker'),
    // Loaders of whoever started this process are not theirs: they slow every call down.
    execArgv: [],
    minThreads: threadCount(),
    maxThreads: threadCount(),
  });
  return pool;
}

/** Threads that render. */
export const threadCount = (): number => config().threads ?? availableParallelism();

/** Lets the rendering threads begin to load, while something else is waited for. */
export const loadThreads = (): void => void threads();

/** Starts the rendering threads, so that the first run is as quick as the tenth. */
export async function startThreads(): Promise<void> {
  await Promise.all(Array.from({ length: threadCount() }, () => threads().run({ warm: true })));
}

/** The digest of a file, read on another thread than this. */
export const digestOnThread = async (file: string): Promise<string> =>
  (await threads().run({ digestOf: file })).digest!;

/** A strip of samples packed on another thread than this. */
export const packedOnThread = async (task: StripTask): Promise<PackedStrip> =>
  (await threads().run(task)).packed!;

/** New threads for the old ones, once they have nothing to do. */
export async function renewThreads(): Promise<void> {
  await endThreads();
  await startThreads();
}

/** Ends the rendering threads; a later render starts new ones. */
export async function endThreads(): Promise<void> {
  await pool?.destroy();
  pool = undefined;
}

/** How often it is told how far tasks have come. */
const TOLD_MS = 100;

/** What is told while tasks run, and how they are stopped. */
interface Told {
  /** the thousands of pixels that are done */
  onDone: (kilopixels: number) => void;
  /** a task is done, by its place among them */
  onAnswer: (index: number, answer: Answer) => void;
  signal?: AbortSignal | undefined;
}

/**
 * Runs tasks on all threads, in their order. The first trouble ends all of them, as the signal does: in the
 * middle of their work; the pool starts other threads.
 */
export async function onAllThreads(
  tasks: readonly Omit<PartTask, 'done'>[],
  { onDone, onAnswer, signal }: Told,
): Promise<void> {
  const trouble = new AbortController();
  const either = signal ? AbortSignal.any([signal, trouble.signal]) : trouble.signal;
  const done = new Int32Array(new SharedArrayBuffer(4));
  const told = setInterval(() => onDone(Atomics.load(done, 0)), TOLD_MS);
  let next = 0;
  const lane = async (): Promise<void> => {
    while (next < tasks.length) {
      either.throwIfAborted();
      const index = next++;
      const task = { ...tasks[index]!, done: done.buffer as SharedArrayBuffer };
      const answer = await threads().run(task, { signal: either });
      if (answer.trouble) throw new Problem('work', answer.trouble);
      onAnswer(index, answer);
    }
  };
  try {
    await Promise.all(
      Array.from({ length: threadCount() }, () =>
        lane().catch((error: unknown) => {
          // What follows the first trouble is its consequence.
          if (!either.aborted) trouble.abort(error);
        }),
      ),
    );
    either.throwIfAborted();
  } finally {
    clearInterval(told);
  }
}
