// Comparing in chromium: frames while one pans and zooms, what each way of looking costs beside one pane, first pixels,
// stops of a large original, and the file of a large run as a pane.
import type { Page } from '@playwright/test';
import sharp from 'sharp';
import { newStep } from '../src/core/recipe/order';
import { JobView, TakenIn } from '../src/core/shop/job';
import { Task } from '../src/core/shop/task';
import { figure, finished, median } from './report';
import { onDemoShop, openSection, painted } from './shop';

/** Places of the paper that nobody looked at before, as shares of the small map. */
const PLACES = Array.from({ length: 60 }, (_, i) => ({
  x: 0.1 + 0.8 * ((i * 0.618) % 1),
  y: 0.1 + 0.8 * ((i * 0.414) % 1),
}));
let next = 0;
const LOOKS = 5;

interface Looked {
  /** until every pane shows the place, coarsely at least, and until all show their final pixels */
  first: number;
  last: number;
}

/** Goes to a new place by the small map. @returns milliseconds */
function lookElsewhere(page: Page): Promise<Looked> {
  const place = PLACES[next++ % PLACES.length]!;
  return page.evaluate(async ({ x, y }) => {
    const map = document.querySelector<HTMLElement>('.map')!;
    const box = map.getBoundingClientRect();
    const panes = () => [...document.querySelectorAll<HTMLCanvasElement>('.pane canvas')];
    const had = new Map(panes().map((pane) => [pane, pane.dataset.wanted]));
    const started = performance.now();
    map.dispatchEvent(
      new PointerEvent('pointerdown', {
        ...{ bubbles: true, pointerId: 1, isPrimary: true },
        ...{ clientX: box.left + x * box.width, clientY: box.top + y * box.height },
      }),
    );
    let first = 0;
    await new Promise<void>((resolve) => {
      const look = () => {
        const all = panes();
        const moved = all.every((pane) => pane.dataset.wanted !== had.get(pane));
        const shows = ({ dataset }: HTMLCanvasElement) =>
          [dataset.painted, dataset.drafted, dataset.coarse].includes(dataset.wanted);
        if (moved && !first && all.every(shows)) first = performance.now() - started;
        if (moved && all.every((pane) => pane.dataset.painted === pane.dataset.wanted)) {
          observer.disconnect();
          resolve();
        }
      };
      const observer = new MutationObserver(look);
      for (const pane of panes()) observer.observe(pane, { attributes: true });
    });
    return { first, last: performance.now() - started };
  }, place);
}

async function looks(page: Page, way: string): Promise<Looked> {
  await page.locator(`label[for="compare-${way}"]`).click();
  await painted(page);
  const all: Looked[] = [];
  for (let i = 0; i < LOOKS; i++) {
    all.push(await lookElsewhere(page));
    await page.waitForTimeout(120);
  }
  return {
    first: median(all.map(({ first }) => first)),
    last: median(all.map(({ last }) => last)),
  };
}

/** Has what a pan will come by computed: as far as it goes to either side. */
async function computeAround(page: Page): Promise<void> {
  await page.locator('.view').focus();
  for (const key of [
    'ArrowLeft',
    'ArrowLeft',
    'ArrowRight',
    'ArrowRight',
    'ArrowRight',
    'ArrowRight',
    'ArrowLeft',
    'ArrowLeft',
  ]) {
    await page.keyboard.press(key);
    await painted(page);
    await page.waitForTimeout(200);
  }
}

/** Milliseconds from frame to frame while something is done with every one; the 95th of 100. */
const frames = (page: Page, what: 'pan' | 'zoom') =>
  page.evaluate(async (doing) => {
    const view = document.querySelector<HTMLElement>('.view')!;
    view.setPointerCapture = () => {};
    const held = { bubbles: true, pointerId: 1, isPrimary: true, buttons: 1, clientY: 300 };
    const move = (type: string, x: number) =>
      view.dispatchEvent(new PointerEvent(type, { ...held, clientX: x }));
    const gaps: number[] = [];
    if (doing === 'pan') move('pointerdown', 700);
    let before = await new Promise<number>(requestAnimationFrame);
    for (let i = 0; i < 150; i++) {
      if (doing === 'pan') move('pointermove', 700 + Math.round(60 * Math.sin(i / 8)));
      else if (i % 10 === 0) {
        const to = (i / 10) % 2 === 0 ? 'zoom-result-2' : 'zoom-result-1';
        document.querySelector<HTMLElement>(`label[for="${to}"]`)!.click();
      }
      const now = await new Promise<number>(requestAnimationFrame);
      gaps.push(now - before);
      before = now;
    }
    if (doing === 'pan') move('pointerup', 700);
    return gaps.sort((a, b) => a - b)[Math.floor(gaps.length * 0.95)]!;
  }, what);

await onDemoShop({ width: 1280, height: 800 }, async (page, url) => {
  await page.getByRole('row', { name: /Dome at dusk/ }).click();
  await painted(page);
  const jobId = page.url().split('/').at(-1)!;
  const post = async (path: string, data: unknown) => {
    const answer = await page.request.post(`${url}${path}`, { data });
    if (!answer.ok()) throw new Error(await answer.text());
    return (await answer.json()) as unknown;
  };
  const read = async () =>
    JobView.parse(await (await page.request.get(`${url}/api/jobs/${jobId}`)).json());
  const change = async (path: string, value: unknown) => {
    const { piece } = await read();
    const patch = [{ op: 'replace', path, value }];
    await post(`/api/pieces/${piece.id}/changes`, { revision: piece.revision, label: 'x', patch });
    await page.reload();
    await painted(page);
  };
  const treatments = {
    classical: [newStep('enlarge', { method: 'lanczos3' })],
    learned: (await read()).piece.work.trials[0]!.treatment,
  };
  const closer = async () => {
    await page.locator('label[for="zoom-result-1"]').click();
    await painted(page);
  };

  for (const [words, most] of [
    ['classical', 150],
    ['learned', 700],
  ] as const) {
    await change('/trials/0/treatment', treatments[words]);
    await openSection(page, 'Output');
    await closer();
    const one = await looks(page, 'result alone');
    figure(`one pane, ${words}: a coarse answer`, one.first, 'ms', 100);
    figure(`one pane, ${words}: its own pixels`, one.last, 'ms', most);
    const two = await looks(page, 'side by side');
    figure(`side by side, ${words}: a coarse answer`, two.first, 'ms', 100);
    figure(`side by side, ${words}: its own pixels`, two.last, 'ms', most);
    const grid = await looks(page, 'grid');
    figure(`grid of four to one pane, ${words}`, grid.last / one.last, 'x', 4);
    const wipe = await looks(page, 'wipe');
    const difference = await looks(page, 'difference');
    figure(`difference to two panes, ${words}`, difference.last / wipe.last, 'x', 1.3);
    if (words === 'classical') continue;
    await page.locator('label[for="compare-side by side"]').click();
    await painted(page);
    await page.waitForTimeout(3000);
    await computeAround(page);
    figure('panning on computed pixels, 95th of 100 frames', await frames(page, 'pan'), 'ms', 20);
    await closer();
    await page.waitForTimeout(2000);
    await frames(page, 'zoom');
    await painted(page);
    figure('zooming on computed pixels, 95th of 100 frames', await frames(page, 'zoom'), 'ms', 20);
  }

  // The file of a run of 108 megapixels.
  await change('/trials/0/treatment', treatments.classical);
  await change('/trials/0/ppi', 270);
  const { piece } = await read();
  const { id } = Task.parse(
    await post(`/api/pieces/${piece.id}/runs`, { revision: piece.revision, trialId: 'a' }),
  );
  for (let state = ''; state !== 'done';) {
    await page.waitForTimeout(1000);
    const task = Task.parse(await (await page.request.get(`${url}/api/tasks/${id}`)).json());
    if (task.state === 'failed') throw new Error(task.error!);
    ({ state } = task);
  }
  await page.reload();
  await painted(page);
  await openSection(page, 'Compare');
  const beside = page.getByLabel('Compared with', { exact: true });
  const option = beside.locator('option').filter({ hasText: 'file of' }).first();
  const value = (await option.getAttribute('value'))!;
  const name = (await option.textContent())!;
  // What is measured beside has its turn first.
  await page.waitForTimeout(8000);
  const opening = (key: string) =>
    page.evaluate(
      async ({ to, of }) => {
        const select = document.querySelector<HTMLSelectElement>('.caption-choice')!;
        const set = Object.getOwnPropertyDescriptor(HTMLSelectElement.prototype, 'value')!.set!;
        const started = performance.now();
        set.call(select, to);
        select.dispatchEvent(new Event('change', { bubbles: true }));
        for (;;) {
          await new Promise(requestAnimationFrame);
          const pane = document.querySelector<HTMLCanvasElement>(
            `.pane canvas[aria-label="${of}"]`,
          );
          if (pane?.dataset.wanted && pane.dataset.painted === pane.dataset.wanted) break;
        }
        return performance.now() - started;
      },
      { to: key, of: name },
    );
  figure('the file of a run of 108 megapixels as a pane, whole', await opening(value), 'ms', 1000);
  await beside.selectOption('original');
  await page.locator('label[for="zoom-result-1"]').click();
  await painted(page);
  figure('the same at 1:1', await opening(value), 'ms', 1000);

  // Stops of 24 megapixels.
  const truth = await sharp('demo/originals/dome-at-dusk.jpg')
    .resize(6000, 4000, { kernel: 'lanczos3' })
    .jpeg({ quality: 80 })
    .toBuffer();
  const upload = await page.request.post(`${url}/api/originals`, {
    headers: { 'x-file-name': 'large.jpg' },
    data: truth,
  });
  const taken = TakenIn.parse(await upload.json());
  const job = JobView.parse(
    await post('/api/jobs', {
      ...{ title: 'Large', customer: '', due: null, distance: 2 },
      pictures: [{ digest: taken.digest, fileName: taken.fileName }],
      paper: (await read()).piece.work.paper,
    }),
  );
  await page.goto(`${url}/bench/${job.id}`);
  await painted(page);
  await page.waitForTimeout(2000);
  const seconds = await page.evaluate(async () => {
    const started = performance.now();
    [...document.querySelectorAll<HTMLButtonElement>('.section h2 button')]
      .find((button) => button.textContent!.startsWith('Compare'))!
      .click();
    while (!document.querySelector('.stop')) await new Promise(requestAnimationFrame);
    return (performance.now() - started) / 1000;
  });
  figure('stops of an original of 24 megapixels', seconds, 's', 3);
});
finished();
