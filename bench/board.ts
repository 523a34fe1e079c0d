// How soon the board of a large shop shows its first rows, and finds others.
import { mkdtemp, readFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import config from '../playwright.config';
import { degradedPath, pictures } from '../demo/pictures';
import { figure, finished, median } from './report';
import { served } from './served';

const PORT = 4397;
const TIMES = 9;
const JOBS = 5000;
const ARCHIVED = 500;
const folder = await mkdtemp(join(tmpdir(), 'lontano-bench-'));
process.env.LONTANO_DATA = folder;

const { database } = await import('../src/server/db/connection');
const { takeIn } = await import('../src/server/files/take-in');
const { beginJob, changeJob } = await import('../src/server/db/jobs');
const { endPictureProcesses } = await import('../src/server/codecs/pictures');
const db = await database();
const picture = pictures[0]!;
const bytes = await readFile(degradedPath(picture));
const { digest } = await takeIn(db, new Blob([bytes]).stream(), 'picture.jpg');
for (let i = 0; i < JOBS; i++) {
  const id = await beginJob(db, {
    title: `Print ${i} of the ${i % 7 ? 'east' : 'west'} wing`,
    customer: `Customer ${i % 40}`,
    due: `2027-${String(1 + (i % 12)).padStart(2, '0')}-${String(1 + (i % 28)).padStart(2, '0')}`,
    pictures: [{ digest, fileName: 'picture.jpg', page: 1 }],
    ...{ paper: picture.paper, distance: 2, device: null, material: null },
  });
  if (i < ARCHIVED) await changeJob(db, id, { archived: true });
}
await db.destroy();
await endPictureProcesses();

const { url, end } = await served(folder, PORT);

const answered = async (words: string): Promise<number> => {
  const times: number[] = [];
  for (let i = 0; i < TIMES; i++) {
    const started = performance.now();
    const { rows } = await (await fetch(`${url}/api/jobs?${words}`)).json();
    times.push(performance.now() - started);
    if (rows.length === 0) throw new Error(`nothing was found for ${words}`);
  }
  return median(times);
};

const browser = await chromium.launch(config.use!.launchOptions);
try {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const shown: number[] = [];
  for (let i = 0; i < TIMES; i++) {
    await page.goto(url);
    await page.locator('tr[data-index="0"]').waitFor();
    shown.push(
      await page.evaluate(async () => {
        const [asked] = performance
          .getEntriesByType('resource')
          .filter(({ name }) => name.includes('/api/jobs'));
        const seen = performance.getEntriesByName('board rows')[0];
        return seen!.startTime - asked!.startTime;
      }),
    );
  }
  const words = `of ${JOBS} jobs, ${ARCHIVED} archived`;
  figure(`first rows of the board ${words}, from asking to seeing them`, median(shown), 'ms', 150);
} finally {
  await browser.close();
}
figure(
  'another page of it, sorted by print',
  await answered('order=print&down=1&page=40'),
  'ms',
  150,
);
figure('a search in it', await answered('search=west+customer+7'), 'ms', 150);

await end();
finished();
