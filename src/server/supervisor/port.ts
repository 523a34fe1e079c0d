import { execFileSync } from 'node:child_process';
import { readdirSync, readFileSync, readlinkSync } from 'node:fs';
import { createServer } from 'node:net';
import { errorCode, Problem } from '../problem';

/**
 * Sees whether a port can be had, before anything is started.
 * @throws Problem that names who holds it
 */
export async function refuseTakenPort(host: string, port: number): Promise<void> {
  const server = createServer();
  const trouble = await new Promise<Error | null>((resolve) => {
    server.once('error', resolve);
    server.listen(port, host, () => resolve(null));
  });
  await new Promise((resolve) => server.close(resolve));
  if (!trouble) return;
  const code = errorCode(trouble);
  if (code === 'EADDRINUSE') {
    const holder = holderOf(port);
    throw new Problem(
      'usage',
      `Port ${port} is taken by ${holder ?? 'another program'}. Nothing was touched. End it, or choose another port by PORT.`,
    );
  }
  throw new Problem(
    'usage',
    `Nothing can be served at ${host}:${port} (${code ?? trouble.message}). Choose others by HOST and PORT.`,
  );
}

/** The state of a socket that listens, in /proc/net/tcp. */
const LISTENS = '0A';

/** The program that listens on a port, in words, or null where the system doesn't say. */
export function holderOf(port: number): string | null {
  try {
    const wanted = port.toString(16).toUpperCase().padStart(4, '0');
    const sockets = ['/proc/net/tcp', '/proc/net/tcp6']
      .flatMap((file) => readFileSync(file, 'utf8').split('\n').slice(1))
      .map((line) => line.trim().split(/\s+/))
      .filter(([, local, , state]) => state === LISTENS && local?.endsWith(`:${wanted}`))
      .map((fields) => `socket:[${fields[9]}]`);
    const pids = readdirSync('/proc').filter((name) => /^\d+$/.test(name));
    const pid = pids.find((one) => socketsOf(one).some((socket) => sockets.includes(socket)));
    if (!pid) return null;
    const command = execFileSync('ps', ['-o', 'args=', '-p', pid], { encoding: 'utf8' }).trim();
    return `process ${pid} (${command.slice(0, 120)})`;
  } catch {
    return null;
  }
}

function socketsOf(pid: string): string[] {
  try {
    return readdirSync(`/proc/${pid}/fd`).map((fd) => readlinkSync(`/proc/${pid}/fd/${fd}`));
  } catch {
    return [];
  }
}
