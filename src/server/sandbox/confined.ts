import { fork, type ChildProcess } from 'node:child_process';
import { setPriority } from 'node:os';
import { childEnvironment } from '../entry';
import { RESTING_MEMORY, type Limits } from './limits';
import type { Asked, Told } from './serve';
import { OVER } from './watched';

/** Why a task got no answer. */
export class NoAnswer extends Error {
  constructor(
    /** a limit that it met; 'broke' where the process failed over it, 'killed' where somebody ended that */
    readonly why: 'memory' | 'time' | 'broke' | 'killed',
    detail = '',
  ) {
    super(`no answer: ${why} ${detail}`);
    this.name = 'NoAnswer';
  }
}

/** Whether an error is one; also where it was made by another bundle of the same code, as Next makes them. */
export const isNoAnswer = (error: unknown): error is NoAnswer =>
  error instanceof Error && error.name === 'NoAnswer';

/**
 * What large buffers took goes back to the system once they are done with (mallopt(3)): processes of which memory grew must
 * be ended, and new ones are slow at first. Other systems than glibc's don't read it.
 */
const FRUGAL = {
  MALLOC_ARENA_MAX: '2',
  MALLOC_MMAP_THRESHOLD_: '1000000',
  MALLOC_TRIM_THRESHOLD_: '1000000',
};

/** One process that does tasks for this one, one at a time. */
export class Confined<T, A> {
  private readonly child: ChildProcess;
  private settle: ((outcome: Told<A> | NoAnswer) => void) | null = null;
  private outOfTime = false;
  /** whether it can be given another task */
  usable = true;

  /** @param niceness how far it gives way to others, 0–19 */
  constructor(
    file: string,
    readonly niceness: number,
  ) {
    this.child = fork(file, {
      execArgv: ['--max-old-space-size=1500'],
      env: { ...childEnvironment(), ...FRUGAL },
      serialization: 'advanced',
      stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    });
    if (this.child.pid !== undefined) giveWay(this.child.pid, niceness);
    this.child.on('message', (told: Told<A>) => this.settle?.(told));
    this.child.on('error', (error) => this.gone(new NoAnswer('broke', String(error))));
    // What hears nothing any more is of no use, though its end may be told later.
    this.child.on('disconnect', () => this.end());
    this.child.on('exit', (code, signal) => this.gone(this.whyIt(code, signal)));
    // It never keeps whoever started it from ending.
    this.child.unref();
    this.child.channel?.unref();
  }

  get pid(): number | undefined {
    return this.child.pid;
  }

  /**
   * Does a task.
   * @throws NoAnswer where it ends without one; the signal's reason where it is stopped
   */
  async run(task: T, limits: Limits, signal?: AbortSignal): Promise<A> {
    signal?.throwIfAborted();
    const late = setTimeout(() => {
      this.outOfTime = true;
      this.end();
    }, limits.time);
    const stop = () => this.end();
    signal?.addEventListener('abort', stop);
    this.child.ref();
    this.child.channel?.ref();
    try {
      const outcome = await new Promise<Told<A> | NoAnswer>((resolve) => {
        this.settle = resolve;
        if (!this.usable) resolve(new NoAnswer('killed'));
        else
          this.child.send({ task, limits } satisfies Asked<T>, (error) => {
            if (!error) return;
            // Until its end is told it would be asked again and again.
            this.end();
            resolve(new NoAnswer('killed', String(error)));
          });
      });
      signal?.throwIfAborted();
      if (outcome instanceof NoAnswer) throw outcome;
      if (!outcome.ok) {
        this.end();
        throw new NoAnswer('broke', outcome.broke);
      }
      if (outcome.memory > RESTING_MEMORY) this.end();
      return outcome.answer;
    } finally {
      clearTimeout(late);
      signal?.removeEventListener('abort', stop);
      this.settle = null;
      this.child.unref();
      this.child.channel?.unref();
    }
  }

  /** Ends it at once and whole, whatever it does. */
  end(): void {
    this.usable = false;
    this.child.kill('SIGKILL');
  }

  private gone(why: NoAnswer): void {
    this.usable = false;
    this.settle?.(why);
  }

  private whyIt(code: number | null, signal: string | null): NoAnswer {
    if (this.outOfTime || signal === OVER.time) return new NoAnswer('time');
    if (signal === OVER.memory) return new NoAnswer('memory');
    // The engine gives up by itself where its own objects find no room.
    if (signal === 'SIGABRT' || code === 134) return new NoAnswer('memory');
    return new NoAnswer(
      signal === 'SIGKILL' || signal === 'SIGTERM' ? 'killed' : 'broke',
      `${code} ${signal}`,
    );
  }
}

function giveWay(pid: number, niceness: number): void {
  try {
    setPriority(pid, niceness);
  } catch {
    // it has ended already, which its own event tells
  }
}
