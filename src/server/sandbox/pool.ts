import { Confined, isNoAnswer, NoAnswer } from './confined';
import { LIMITS, nextTurn, type Kind, type Turn } from './limits';
import { Waiting } from './waiting';

/** A task that needs more than it was given, and says so before it is ended. */
export interface Again {
  again: Turn;
}

const isAgain = (answer: unknown): answer is Again =>
  typeof answer === 'object' && answer !== null && 'again' in answer;

/** How far processes give way to people who look, and to each other. */
const NICENESS: Record<'short' | 'longer', number> = { short: 5, longer: 15 };
/** Processes that have nothing to do for so long are ended; a short one stays. */
const IDLE_MS = 20_000;
/** A task whose process somebody ended is begun again so often. */
const MOST_KILLED = 16;

interface Waiter<T, A> {
  kind: Kind;
  turn: Turn;
  task: T;
  signal?: AbortSignal;
  killed: number;
  resolve(answer: A): void;
  reject(error: unknown): void;
}

const laneOf = (turn: Turn) => (turn === 'short' ? 'short' : 'longer');

/**
 * Processes that work on files, each within limits. One that goes over them is ended whole, and the next takes
 * its place.
 */
export class Pool<T, A> {
  private readonly waiting = new Waiting<Waiter<T, A>>();
  private readonly running = new Set<Waiter<T, A>>();
  private idle: { process: Confined<T, A>; since: number }[] = [];
  private readonly all = new Set<Confined<T, A>>();
  private tidying: NodeJS.Timeout | undefined;
  private ended = false;

  /** @param program what its processes run; it calls `serve` */
  constructor(private readonly program: string) {}

  /** Starts a process for short turns, so that the first file doesn't wait for it. */
  warm(): void {
    if (!this.idle.some(({ process }) => process.niceness === NICENESS.short)) {
      this.rest(this.start('short'));
    }
  }

  /**
   * Does a task in as many turns as it needs.
   * @throws NoAnswer where it goes over all limits, or breaks; the signal's reason where it is stopped
   */
  run(
    task: T,
    kind: Kind,
    { from = 'short' as Turn, signal }: { from?: Turn; signal?: AbortSignal } = {},
  ): Promise<A> {
    return new Promise<A>((resolve, reject) => {
      if (signal?.aborted) return reject(signal.reason as Error);
      const stop = () => {
        if (this.waiting.remove(waiter)) reject(signal!.reason as Error);
      };
      const settled = () => signal?.removeEventListener('abort', stop);
      const waiter: Waiter<T, A> = {
        ...{ task, kind, turn: from, signal, killed: 0 },
        resolve: (answer) => (settled(), resolve(answer)),
        reject: (error) => (settled(), reject(error)),
      };
      signal?.addEventListener('abort', stop);
      this.waiting.add(waiter);
      this.begin();
    });
  }

  /** Ends all processes for good; what they do, and what waits, is given up. */
  end(): void {
    this.ended = true;
    for (const waiter of this.waiting.clear()) waiter.reject(new NoAnswer('killed'));
    for (const process of this.all) process.end();
    this.all.clear();
    this.idle = [];
    clearInterval(this.tidying);
    this.tidying = undefined;
  }

  private begin(): void {
    for (
      let next = this.waiting.next([...this.running]);
      next;
      next = this.waiting.next([...this.running])
    ) {
      this.running.add(next);
      void this.giveTurn(next);
    }
  }

  private async giveTurn(waiter: Waiter<T, A>): Promise<void> {
    const { task, kind, turn, signal } = waiter;
    const process = this.take(laneOf(turn));
    if (turn === 'heavy') this.endIdle('longer');
    try {
      const answer = await process.run(task, LIMITS[kind][turn], signal);
      if (isAgain(answer)) this.again(waiter, answer.again);
      else waiter.resolve(answer);
    } catch (error) {
      this.failed(waiter, error);
    } finally {
      this.running.delete(waiter);
      this.rest(process);
      this.begin();
    }
  }

  private failed(waiter: Waiter<T, A>, error: unknown): void {
    const why = isNoAnswer(error) ? error.why : null;
    if (why === 'memory' || why === 'time') {
      const next = nextTurn(waiter.turn, why);
      if (next) return this.again(waiter, next);
    }
    // It was not the file's doing.
    if (why === 'killed' && !this.ended && ++waiter.killed < MOST_KILLED)
      return this.again(waiter, waiter.turn);
    waiter.reject(error);
  }

  private again(waiter: Waiter<T, A>, turn: Turn): void {
    if (waiter.signal?.aborted) return waiter.reject(waiter.signal.reason);
    waiter.turn = turn;
    this.waiting.add(waiter);
  }

  private start(lane: 'short' | 'longer'): Confined<T, A> {
    const process = new Confined<T, A>(this.program, NICENESS[lane]);
    this.all.add(process);
    return process;
  }

  private take(lane: 'short' | 'longer'): Confined<T, A> {
    this.idle = this.idle.filter(({ process }) => process.usable);
    const at = this.idle.findIndex(({ process }) => process.niceness === NICENESS[lane]);
    const [found] = at >= 0 ? this.idle.splice(at, 1) : [];
    return found?.process ?? this.start(lane);
  }

  private rest(process: Confined<T, A>): void {
    if (process.usable) this.idle.push({ process, since: performance.now() });
    else this.all.delete(process);
    if (this.ended) return;
    this.tidying ??= setInterval(() => this.tidy(), IDLE_MS / 2).unref();
  }

  private tidy(): void {
    this.endIdle('longer', IDLE_MS);
    this.endIdle('short', IDLE_MS, 1);
  }

  /** Ends processes that have nothing to do for so long, all but some of them. */
  private endIdle(lane: 'short' | 'longer', longerThan = -1, spared = 0): void {
    const of = this.idle.filter(({ process }) => process.niceness === NICENESS[lane]);
    for (const { process, since } of of.slice(spared)) {
      if (performance.now() - since <= longerThan) continue;
      process.end();
      this.all.delete(process);
    }
    this.idle = this.idle.filter(({ process }) => process.usable);
  }
}
