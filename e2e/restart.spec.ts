import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { JobView, TakenIn } from '../src/core/shop/job';
import { testPaper } from '../src/core/testing';
import { BenchPage } from './bench-page';

const PORT = 4397;
const url = `http://127.0.0.1:${PORT}`;
let data: string;
let shop: ChildProcess;
let said = '';

/** Opens the shop of this test, which is closed and opened again while it is looked at. */
async function open(): Promise<void> {
  shop = spawn(process.execPath, ['scripts/start.mjs'], {
    stdio: ['ignore', 'ignore', 'pipe'],
    env: { ...process.env, PORT: `${PORT}`, LONTANO_DATA: data, LONTANO_STAND_INS: 'off' },
  });
  shop.stderr!.on('data', (part: Buffer) => (said += part.toString()));
  await expect
    .poll(
      () =>
        fetch(`${url}/api/jobs`).then(
          ({ ok }) => ok,
          () => false,
        ),
      { timeout: 60_000 },
    )
    .toBe(true);
}

async function close(): Promise<number | null> {
  const ended = new Promise<number | null>((resolve) => shop.once('exit', resolve));
  shop.kill('SIGTERM');
  return ended;
}

test.beforeAll(async () => {
  data = await mkdtemp(join(tmpdir(), 'lontano-restart-'));
  const words = { 'New job': 'Neuer Auftrag', 'Choose pictures …': '</script>Bilder wählen …' };
  await writeFile(join(data, 'words.json'), JSON.stringify(words));
  await open();
});
test.afterAll(async () => {
  await close();
  await rm(data, { recursive: true, force: true });
});

test('an empty shop says how to begin, in the shop’s own words where it has them', async ({
  page,
}) => {
  const troubles: string[] = [];
  page.on('console', (message) => message.type() === 'error' && troubles.push(message.text()));
  page.on('pageerror', (error) => troubles.push(error.message));
  await page.goto(url);
  const begin = page.getByRole('region', { name: 'How to begin' });
  await expect(begin.getByRole('listitem')).toHaveCount(3);
  await expect(begin.getByRole('button')).toHaveText('</script>Bilder wählen …');
  expect(troubles).toEqual([]);
});

test('a page outlives its server: it says so, takes up again, and what it kept is there', async ({
  page,
  request,
}) => {
  const answer = await request.post(`${url}/api/originals`, {
    data: await readFile('demo/originals/control-symbol.png'),
    headers: { 'x-file-name': 'symbol.png' },
  });
  const { digest, fileName } = TakenIn.parse(await answer.json());
  const begun = await request.post(`${url}/api/jobs`, {
    data: {
      ...{ title: 'Through a restart', customer: '', due: null, distance: 2 },
      paper: testPaper({ width: { value: 40, unit: 'cm' } }),
      pictures: [{ digest, fileName }],
    },
  });
  const { id } = JobView.parse(await begun.json());
  const read = async () =>
    JobView.parse(await (await request.get(`${url}/api/jobs/${id}`)).json()).piece;
  await page.goto(`${url}/bench/${id}`);
  const bench = new BenchPage(page);
  await bench.resolved();
  await bench.openSection('Size');
  const width = page.getByLabel('Width', { exact: true });
  await width.fill('50 cm');
  await width.press('Enter');
  await bench.resolved();

  // Streams of events are open: it ends all the same, and nothing has to be ended by force.
  expect(await close()).toBe(0);
  expect(said).not.toContain('did not end');
  await expect(page.locator('.process-line')).toContainText('The shop does not answer');
  await width.fill('60 cm');
  await width.press('Enter');
  await expect(page.locator('.ticket')).toHaveAttribute('data-saving', 'true');

  await open();
  await expect(page.locator('.process-line')).toHaveCount(0, { timeout: 30_000 });
  await bench.resolved();
  await expect(page.locator('.notices')).toContainText('What waited is kept.');
  const { history, work } = await read();
  expect(history.map(({ label }) => label)).toEqual([
    'Proposed first trial',
    'Width 50 cm',
    'Width 60 cm',
  ]);
  expect(work.paper.width).toEqual({ value: 60, unit: 'cm' });
  // Events come again.
  await request.post(`${url}/api/pieces/${(await read()).id}/moves`, {
    data: { revision: (await read()).revision, to: history[1]!.id },
  });
  await expect(width).toHaveValue('50');
});
