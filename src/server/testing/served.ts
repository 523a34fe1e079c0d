// A shop that is served for a bench, from an empty folder.
import { execFileSync, spawn } from 'node:child_process';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

export interface Served {
  url: string;
  folder: string;
  /** number of the process that was started */
  pid: number;
  close(): Promise<void>;
}

/** Serves a shop. @param folder of its data; an empty one unless it is given */
export async function serveShop(port: number, folder?: string): Promise<Served> {
  const url = `http://127.0.0.1:${port}`;
  const ready = () =>
    fetch(`${url}/api/jobs`).then(
      (answer) => answer.ok,
      () => false,
    );
  if (await ready()) throw new Error(`something else is served at ${url}`);
  const data = folder ?? (await mkdtemp(join(tmpdir(), 'lontano-bench-')));
  const server = spawn(process.execPath, ['scripts/start.mjs'], {
    stdio: ['ignore', 'ignore', 'inherit'],
    env: { ...process.env, PORT: String(port), LONTANO_DATA: data },
  });
  while (!(await ready())) {
    if (server.exitCode !== null) throw new Error('the shop could not be served');
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
  return {
    url,
    folder: data,
    pid: server.pid!,
    close: async () => {
      const gone = new Promise((resolve) => server.on('exit', resolve));
      server.kill('SIGTERM');
      await gone;
      await rm(data, { recursive: true, force: true });
    },
  };
}

/** A process of a shop. */
export interface ShopProcess {
  pid: number;
  /** the file that it runs, as web-process */
  what: string;
  /** resident memory in megabytes */
  memory: number;
}

/** All processes below one. */
export function processesBelow(pid: number): ShopProcess[] {
  const lines = execFileSync('ps', ['-eo', 'pid=,ppid=,rss=,args='], { encoding: 'utf8' });
  const all = lines.split('\n').flatMap((line) => {
    const found = /^\s*(\d+)\s+(\d+)\s+(\d+)\s+(.*)$/.exec(line);
    return found ? [{ pid: +found[1]!, parent: +found[2]!, rss: +found[3]!, args: found[4]! }] : [];
  });
  const below = (parent: number): typeof all =>
    all.filter((one) => one.parent === parent).flatMap((one) => [one, ...below(one.pid)]);
  return below(pid).map(({ pid: own, rss, args }) => ({
    pid: own,
    what: /dist\/\S*?([\w-]+)\.mjs/.exec(args)?.[1] ?? args,
    memory: rss / 1024,
  }));
}
