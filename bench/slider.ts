// From a slider's movement to exact pixels on a stage of 900 x 650 at 1:1, in chromium.
import { spawn } from 'node:child_process';
import { chromium } from '@playwright/test';
import config from '../playwright.config';
import { figure, median } from './report';

const PORT = 4392;
const MOVES = 15;
const server = spawn(process.execPath, ['scripts/demo.mjs', '--fresh'], {
  stdio: 'ignore',
  env: { ...process.env, PORT: String(PORT), LONTANO_DATA: 'var/bench' },
});
const url = `http://127.0.0.1:${PORT}`;
for (let tries = 0; tries < 600; tries++) {
  if (
    await fetch(`${url}/api/jobs`).then(
      (answer) => answer.ok,
      () => false,
    )
  )
    break;
  await new Promise((resolve) => setTimeout(resolve, 1000));
}

const browser = await chromium.launch(config.use!.launchOptions);
try {
  // The stage is what the bar above, the ticket and the bar below leave of the window.
  const page = await browser.newPage({ viewport: { width: 900 + 348, height: 650 + 46 + 46 } });
  await page.goto(url);
  await page.getByRole('row', { name: /Dome at dusk/ }).click();
  const painted = () =>
    page.waitForFunction(() => {
      const panes = [...document.querySelectorAll<HTMLCanvasElement>('.pane canvas')];
      return (
        panes.length > 0 && panes.every((pane) => pane.dataset.painted === pane.dataset.wanted)
      );
    });
  await painted();
  await page.locator('label[for="zoom-result-1"]').click();
  await painted();

  const measure = async (
    section: string,
    slider: string | RegExp,
    values: (i: number) => number,
  ) => {
    const button = page.getByRole('button', { name: new RegExp(`^${section} `) });
    if ((await button.getAttribute('aria-expanded')) !== 'true') await button.click();
    const row = page.getByRole('button', { name: /^Compression/ });
    if (section === 'Clean' && (await row.getAttribute('aria-expanded')) !== 'true') {
      await row.click();
    }
    const range = page.getByRole('slider', { name: slider, exact: true });
    const times: number[] = [];
    for (let i = 0; i < MOVES; i++) {
      times.push(
        await range.evaluate(async (input, value) => {
          const canvas = document.querySelector<HTMLCanvasElement>('canvas[aria-label="Trial A"]')!;
          const had = canvas.dataset.painted;
          const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!;
          const started = performance.now();
          set.call(input, String(value));
          input.dispatchEvent(new Event('input', { bubbles: true }));
          await new Promise<void>((resolve) => {
            const observer = new MutationObserver(() => {
              const { painted, wanted } = canvas.dataset;
              if (painted === had || painted !== wanted) return;
              observer.disconnect();
              resolve();
            });
            observer.observe(canvas, { attributes: true });
          });
          return performance.now() - started;
        }, values(i)),
      );
      await page.waitForTimeout(60);
    }
    await range.blur();
    return times;
  };

  const { width, height } = await page
    .locator('canvas[aria-label="Trial A"]')
    .evaluate((canvas) => ({
      width: (canvas as HTMLCanvasElement).width,
      height: (canvas as HTMLCanvasElement).height,
    }));
  console.log(`stage ${width} x ${height}, medians of ${MOVES} moves`);
  figure(
    'slider Amount to exact pixels',
    median(await measure('Finish', 'Amount', (i) => 40 + 7 * i)),
    'ms',
    120,
  );
  figure(
    'slider Radius to exact pixels',
    median(await measure('Finish', /^Radius \(/, (i) => 0.5 + 0.03 * i)),
    'ms',
    120,
  );
  figure(
    'slider Clean to exact pixels',
    median(await measure('Clean', 'Strength', (i) => 30 + 4 * i)),
    'ms',
    120,
  );

  // A place that nobody looked at yet, on the original's grid: the estimate, then the network's result.
  const looks: { first: number; last: number }[] = [];
  // The dome's other step would be measured along.
  await page.getByLabel('Banding on').click();
  await page.locator('label[for="zoom-original-4"]').click();
  await painted();
  for (const name of ['Luminance', 'Colour', 'Luminance', 'Colour', 'Luminance']) {
    looks.push(
      await page.getByRole('slider', { name, exact: true }).evaluate(
        async (input, value) => {
          const canvas = document.querySelector<HTMLCanvasElement>('canvas[aria-label="Trial A"]')!;
          const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!;
          const started = performance.now();
          const had = canvas.dataset.drafted;
          let first = 0;
          set.call(input, String(value));
          input.dispatchEvent(new Event('input', { bubbles: true }));
          await new Promise<void>((resolve) => {
            const observer = new MutationObserver(() => {
              if (!first && canvas.dataset.drafted !== had) first = performance.now() - started;
              if (canvas.dataset.painted !== canvas.dataset.wanted) return;
              observer.disconnect();
              resolve();
            });
            observer.observe(canvas, { attributes: true });
          });
          return { first, last: performance.now() - started };
        },
        40 + 9 * looks.length,
      ),
    );
  }
  figure('view at 4:1, to the classical estimate', median(looks.map((l) => l.first)), 'ms', 150);
  figure('view at 4:1, to the learned result', median(looks.map((l) => l.last)), 'ms', 1000);
} finally {
  await browser.close();
  server.kill('SIGTERM');
}
