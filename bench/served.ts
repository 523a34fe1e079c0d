import { spawn } from 'node:child_process';
import { rm } from 'node:fs/promises';

/** A shop in a folder of its own, served until it is ended; the folder goes with it. */
export async function served(
  folder: string,
  port: number,
): Promise<{ url: string; end(): Promise<void> }> {
  const server = spawn(process.execPath, ['scripts/start.mjs'], {
    stdio: 'ignore',
    env: { ...process.env, PORT: String(port), LONTANO_DATA: folder },
  });
  const url = `http://127.0.0.1:${port}`;
  const ready = () =>
    fetch(`${url}/api/shop`).then(
      (answer) => answer.ok,
      () => false,
    );
  while (!(await ready())) await new Promise((resolve) => setTimeout(resolve, 500));
  return {
    url,
    end: async () => {
      const ended = new Promise((resolve) => server.on('exit', resolve));
      server.kill('SIGTERM');
      await ended;
      await rm(folder, { recursive: true, force: true });
    },
  };
}
