import { spawn, type ChildProcess } from 'node:child_process';
import { appendFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { pathToFileURL } from 'node:url';
import { processesBelow, type ShopProcess } from '../src/server/testing/served';

/** A shop that is served, killed and started again. */
export class TorturedShop {
  private supervisor: ChildProcess | null = null;
  /** processes that were seen, so that none is left at the end */
  private readonly seen = new Set<number>();
  readonly url: string;

  constructor(
    readonly data: string,
    private readonly port: number,
    /** where what its processes say is kept, and where their clock is told */
    private readonly beside: { log: string; clock: string },
  ) {
    this.url = `http://127.0.0.1:${port}`;
  }

  async start(): Promise<void> {
    const clock = pathToFileURL(resolve('torture/clock.mjs')).href;
    const child = spawn(process.execPath, ['dist/server/supervisor/supervisor.mjs'], {
      stdio: ['ignore', 'pipe', 'pipe'],
      env: {
        ...process.env,
        NODE_ENV: 'production',
        NODE_OPTIONS: `--import ${clock}`,
        LONTANO_TORTURE_CLOCK: this.beside.clock,
        LONTANO_DATA: this.data,
        PORT: String(this.port),
      },
    });
    for (const stream of [child.stdout!, child.stderr!]) {
      stream.on('data', (text: Buffer) => appendFileSync(this.beside.log, text));
    }
    this.supervisor = child;
    // Somebody answers as long as the new one waits for the old one to end.
    for (let tries = 0; !(await this.answers()) || tries < 3; tries++) {
      if (child.exitCode !== null || tries > 300) throw new Error('the shop did not open');
      await later(100);
    }
  }

  answers(): Promise<boolean> {
    return fetch(`${this.url}/api/tasks`).then(
      (answer) => answer.ok,
      () => false,
    );
  }

  processes(): ShopProcess[] {
    const { pid } = this.supervisor ?? {};
    if (pid === undefined) return [];
    const below = processesBelow(pid).filter(({ what }) => !/^ps\b/.test(what));
    for (const one of below) this.seen.add(one.pid);
    return [{ pid, what: 'supervisor', memory: 0 }, ...below];
  }

  /** Ends the supervisor, in this way, and waits until it is gone. */
  async stop(signal: 'SIGTERM' | 'SIGKILL' = 'SIGTERM'): Promise<void> {
    this.processes();
    const child = this.supervisor;
    this.supervisor = null;
    if (!child || child.exitCode !== null || child.signalCode !== null) return;
    const gone = new Promise((resolve) => child.once('exit', resolve));
    child.kill(signal);
    await gone;
  }

  /** Processes that were its own and live on. */
  async orphans(): Promise<number[]> {
    const alive = () => [...this.seen].filter((pid) => isAlive(pid) && this.isOurs(pid));
    for (let tries = 0; tries < 60 && alive().length > 0; tries++) await later(100);
    return alive();
  }

  /** Numbers of processes are given again: another one's is not ours. */
  private isOurs(pid: number): boolean {
    return processesBelow(1).some((one) => one.pid === pid && /process|supervisor/.test(one.what));
  }
}

export const later = (ms: number) => new Promise<void>((resolve) => setTimeout(resolve, ms));

function isAlive(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch {
    return false;
  }
}

export const beside = (folder: string) => ({
  log: join(folder, 'shop.log'),
  clock: join(folder, 'clock'),
});
