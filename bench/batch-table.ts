// A batch of 2,000 pictures on the screen: how long planning and opening it takes, and frames while one scrolls.
import { mkdtemp, readFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import config from '../playwright.config';
import { degradedPath, pictures } from '../demo/pictures';
import { BATCH_PATTERN } from '../src/core/output/names';
import { CALL_MOST } from '../src/core/batch/batch';
import { figure, finished, median } from './report';
import { served } from './served';

const PORT = 4398;
const TIMES = 5;
const PICTURES = 2000;
/** Pixels a frame: 1,800 a second, 28 rows. */
const STEP = 30;
const folder = await mkdtemp(join(tmpdir(), 'lontano-bench-'));
process.env.LONTANO_DATA = folder;

const { database } = await import('../src/server/db/connection');
const { takeIn } = await import('../src/server/files/take-in');
const { addPieces, beginJob, readJob } = await import('../src/server/db/jobs');
const { endPictureProcesses } = await import('../src/server/codecs/pictures');
const { addBatch } = await import('../src/server/batch/batches');
const { addItems } = await import('../src/server/batch/items');
const db = await database();
const taken: { digest: string; fileName: string }[] = [];
for (const picture of pictures) {
  const bytes = await readFile(degradedPath(picture));
  taken.push(await takeIn(db, new Blob([bytes]).stream(), picture.file));
}
endPictureProcesses();
const hundred = Array.from({ length: CALL_MOST }, (_, i) => {
  const { digest, fileName } = taken[i % taken.length]!;
  return { digest, fileName, page: 1 };
});
const job = await beginJob(db, {
  ...{ title: 'Many', customer: '', due: null, distance: 2, device: null, material: null },
  ...{ pictures: hundred, paper: pictures[0]!.paper },
});
for (let i = CALL_MOST; i < PICTURES; i += CALL_MOST) {
  await addPieces(db, job, { pictures: hundred });
}
const { id } = await addBatch(db, {
  name: 'Two thousand',
  plan: {
    size: { by: 'longest', length: { value: 60, unit: 'cm' } },
    ...{ steps: { by: 'suiting' }, ppi: null, file: null, names: BATCH_PATTERN, folder: null },
  },
});
const pieces = (await readJob(db, job)).pieces.map((piece) => piece.id);
const planning: number[] = [];
for (let i = 0; i < PICTURES; i += CALL_MOST) {
  const started = performance.now();
  await addItems(db, id, { pieces: pieces.slice(i, i + CALL_MOST) });
  planning.push(performance.now() - started);
}
figure(`planning ${CALL_MOST} pictures of a batch`, median(planning) / 1000, 's', 3);
await db.destroy();

const { url, end } = await served(folder, PORT);

// As on the machine of somebody who works with pictures: what is composed is composed as chromium does by itself.
const { launchOptions } = config.use!;
const args = launchOptions!.args!.filter((arg) => arg !== '--disable-gpu');
const browser = await chromium.launch({ ...launchOptions, args });
try {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  // What the table shows is made when it is first asked for.
  await page.goto(`${url}/batches/${id}`);
  await page.locator('tr[data-index="0"]').waitFor({ timeout: 120_000 });
  const shown: number[] = [];
  for (let i = 0; i < TIMES; i++) {
    await page.goto(`${url}/batches/${id}`);
    await page.locator('tr[data-index="0"]').waitFor();
    shown.push(await page.evaluate(() => performance.getEntriesByName('batch rows')[0]!.startTime));
  }
  figure(`first rows of ${PICTURES}, from the address to seeing them`, median(shown), 'ms', 1500);
  const frames = await page.evaluate(async (STEP) => {
    const frame = document.querySelector('.jobs-frame')!;
    const times: number[] = [];
    let before = await new Promise<number>(requestAnimationFrame);
    for (let i = 0; i < 400; i++) {
      frame.scrollTop += STEP;
      const now = await new Promise<number>(requestAnimationFrame);
      times.push(now - before);
      before = now;
    }
    return times;
  }, STEP);
  frames.sort((a, b) => a - b);
  figure(
    'scrolling 1,800 pixels a second, 95th of 100 frames',
    frames[Math.floor(0.95 * frames.length)]!,
    'ms',
    17,
  );
  figure('the slowest of 400', frames.at(-1)!, 'ms', 50);
} finally {
  await browser.close();
}

await end();
finished();
