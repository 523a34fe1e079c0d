import { fork, type ChildProcess } from 'node:child_process';
import type { Alive } from '@/core/shop/processes';
import { childEnvironment, entryOf } from '../entry';
import { diedOfItself } from './death';

/** How long it is waited before a process is started again: more with every time that it soon ended. */
export const FIRST_PAUSE_MS = 500;
export const LONGEST_PAUSE_MS = 30_000;
/** One that lived so long begins with the first pause again. */
export const SOUND_MS = 60_000;
/** How long a process may take to end when it is asked to. */
const END_MS = 3000;

/**
 * The pause after an end, by the one before it and how long the process lived.
 * @param died whether it died of itself: what somebody ended is started again at once
 */
export const nextPause = (before: number, lived: number, died: boolean): number =>
  !died || lived >= SOUND_MS ? FIRST_PAUSE_MS : Math.min(LONGEST_PAUSE_MS, before * 2);

/** A process that is started again whenever it ends, until it is told to end for good. */
export class KeptAlive {
  private child: ChildProcess | null = null;
  private pause = FIRST_PAUSE_MS / 2;
  private readonly died = diedOfItself();
  private started = 0;
  private timer: NodeJS.Timeout | undefined;
  private ending = false;
  readonly state: Alive = { up: false, since: Date.now(), ended: 0 };

  constructor(
    /** what it is called in sentences */
    private readonly what: string,
    /** its entry, as server/web/web-process */
    private readonly name: string,
    private readonly told: {
      /** it is there, or it is not any more */
      changed(): void;
      /** it ended without being asked to: by itself, or because somebody ended it */
      ended?(how: { died: boolean }): void;
      message?(message: unknown): void;
    },
    private readonly given: {
      /** options of the engine */
      engine?: string[];
      /** what the process is told when it starts */
      words?: string[];
    } = {},
  ) {}

  start(): void {
    this.started = performance.now();
    const child = fork(entryOf(this.name), this.given.words ?? [], {
      env: childEnvironment(),
      execArgv: [...process.execArgv, ...(this.given.engine ?? [])],
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    });
    this.child = child;
    this.set(true);
    child.on('message', (message) => this.told.message?.(message));
    child.on('error', (error) => console.error(`${this.what}: ${error.message}`));
    child.on('exit', (code, signal) => this.gone(code, signal));
  }

  /** Tells it something, where it is there. */
  send(message: object): void {
    if (this.child?.connected) this.child.send(message, () => {});
  }

  /** Ends it for good; at once where it doesn't end by itself. */
  async end(): Promise<void> {
    this.ending = true;
    clearTimeout(this.timer);
    const { child } = this;
    if (!child || child.exitCode !== null || child.signalCode !== null) return;
    const gone = new Promise((resolve) => child.once('exit', resolve));
    child.kill('SIGTERM');
    const late = setTimeout(() => {
      console.error(`${this.what} did not end within ${END_MS / 1000} s; it is ended at once.`);
      child.kill('SIGKILL');
    }, END_MS);
    await gone;
    clearTimeout(late);
  }

  private gone(code: number | null, signal: string | null): void {
    if (this.ending) return;
    this.state.ended++;
    this.set(false);
    const died = this.died(code, signal);
    this.told.ended?.({ died });
    this.pause = nextPause(this.pause, performance.now() - this.started, died);
    console.error(
      `${this.what} ended (${signal ?? `code ${code}`}); it is started again in ${this.pause / 1000} s.`,
    );
    this.timer = setTimeout(() => this.start(), this.pause);
  }

  private set(up: boolean): void {
    Object.assign(this.state, { up, since: Date.now() });
    this.told.changed();
  }
}
