// The browser's memory while dust is looked for over 100 megapixels, and how long that takes.
import { spawn } from 'node:child_process';
import { mkdtemp, readdir, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import sharp from 'sharp';
import config from '../playwright.config';
import { degradedPath, pictures } from '../demo/pictures';
import { figure, finished } from './report';

const PORT = 4396;
const SIZE = { width: 12_256, height: 8160 };
const folder = await mkdtemp(join(tmpdir(), 'lontano-bench-'));
const url = `http://127.0.0.1:${PORT}`;

/** A field of a process's status. */
const statusOf = async (pid: string, field: string): Promise<number> => {
  const status = await readFile(`/proc/${pid}/status`, 'utf8').catch(() => '');
  return Number(new RegExp(`${field}:\\s+(\\d+)`).exec(status)?.[1] ?? 0);
};

/** Whether this process started it, or one that this process started. */
async function isOurs(pid: string): Promise<boolean> {
  for (let one = Number(pid); one > 1; one = await statusOf(String(one), 'PPid')) {
    if (one === process.pid) return true;
  }
  return false;
}

/** Memory of its own of the process that shows the page, the largest of its kind here, in megabytes. */
async function rendererMB(): Promise<number> {
  let most = 0;
  for (const pid of (await readdir('/proc')).filter((name) => /^\d+$/.test(name))) {
    const words = await readFile(`/proc/${pid}/cmdline`, 'utf8').catch(() => '');
    if (!words.includes('--type=renderer') || !(await isOurs(pid))) continue;
    most = Math.max(most, (await statusOf(pid, 'RssAnon')) / 1000);
  }
  return most;
}

const picture = join(folder, 'large.jpg');
await sharp(degradedPath(pictures[0]!)).resize(SIZE).jpeg({ quality: 85 }).toFile(picture);
const server = spawn(process.execPath, ['scripts/start.mjs'], {
  stdio: 'ignore',
  env: { ...process.env, PORT: String(PORT), LONTANO_DATA: join(folder, 'data') },
});
const browser = await chromium.launch(config.use!.launchOptions);
try {
  const ready = () =>
    fetch(`${url}/api/jobs`).then(
      (answer) => answer.ok,
      () => false,
    );
  while (!(await ready())) await new Promise((resolve) => setTimeout(resolve, 500));
  const sent = await fetch(`${url}/api/originals`, {
    method: 'POST',
    headers: { 'X-File-Name': 'large.jpg' },
    body: new Uint8Array(await readFile(picture)),
  });
  const { digest } = (await sent.json()) as { digest: string };
  const begun = await fetch(`${url}/api/jobs`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({
      ...{ title: 'Large', customer: '', due: null, device: null, material: null },
      pictures: [{ digest, fileName: 'large.jpg', page: 1 }],
      ...{ paper: pictures[0]!.paper, distance: 2 },
    }),
  });
  const { id } = (await begun.json()) as { id: number };
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${url}/bench/${id}`);
  await page.getByRole('button', { name: /^Clean / }).click();
  await page.getByRole('button', { name: 'Add a step' }).click();
  await page
    .getByRole('button', { name: /^Spots|dust/i })
    .first()
    .click();
  let most = 0;
  const watching = setInterval(() => {
    void rendererMB().then((now) => (most = Math.max(most, now)));
  }, 250);
  const started = performance.now();
  await page.getByRole('button', { name: 'Look for dust and scratches' }).click();
  await page.getByText(/Looking for dust/).waitFor();
  await page.getByText(/Looking for dust/).waitFor({ state: 'detached', timeout: 600_000 });
  clearInterval(watching);
  console.log(
    `dust over ${SIZE.width} x ${SIZE.height} looked for in ${((performance.now() - started) / 1000).toFixed(0)} s`,
  );
  figure('memory of the browser’s page while dust is looked for', most, 'MB', 600);
} finally {
  await browser.close();
  server.kill('SIGTERM');
  await new Promise((resolve) => server.on('exit', resolve));
  await rm(folder, { recursive: true, force: true });
}
finished();
