// npm run screenshots: takes the pictures of docs/screenshots anew, from a fresh demo shop.
import { spawn } from 'node:child_process';
import { chromium, type Page } from '@playwright/test';
import config from '../playwright.config';

const PORT = 4393;
const url = `http://127.0.0.1:${PORT}`;
const server = spawn(process.execPath, ['scripts/demo.mjs', '--fresh'], {
  stdio: 'ignore',
  env: { ...process.env, PORT: String(PORT), LONTANO_DATA: 'var/screenshots' },
});
const ready = () =>
  fetch(`${url}/api/jobs`).then(
    (answer) => answer.ok,
    () => false,
  );
while (!(await ready())) await new Promise((resolve) => setTimeout(resolve, 1000));

const browser = await chromium.launch(config.use!.launchOptions);
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
const shoot = (name: string) => page.screenshot({ path: `docs/screenshots/${name}.png` });
const section = (of: Page, name: string) =>
  of.getByRole('button', { name: new RegExp(`^${name} `) }).click();
const painted = async () => {
  await page.waitForFunction(() => {
    const panes = [...document.querySelectorAll<HTMLCanvasElement>('.pane canvas')];
    return panes.length > 0 && panes.every((pane) => pane.dataset.painted === pane.dataset.wanted);
  });
  await page.waitForTimeout(400);
};

try {
  await page.goto(url);
  await page.getByRole('row', { name: /Dome at dusk/ }).waitFor();
  await page.waitForTimeout(800);
  for (const box of [0, 2]) await page.locator('.select-box input').nth(box).check();
  await page.mouse.move(0, 0);
  await shoot('board');
  await page.keyboard.press('Escape');
  await page.goto(`${url}/batches`);
  await page.getByRole('link', { name: /East wing/ }).click();
  await page.getByRole('button', { name: 'Make all' }).click();
  await page.getByText(/[3-5] of 6 made/).waitFor({ timeout: 120_000 });
  await page.waitForTimeout(600);
  await shoot('batch');
  await page.getByText('One by one', { exact: true }).click();
  await page.locator('.both .spot canvas').nth(1).waitFor();
  await page.waitForFunction(() => !document.querySelector('.both .spot[data-busy="true"]'));
  await page.waitForTimeout(600);
  await shoot('one-by-one');
  await page.goto(`${url}/shop/settings`);
  await page.getByRole('region', { name: 'Materials' }).waitFor();
  await page.waitForTimeout(600);
  await shoot('shop');
  await page.goto(url);
  await page.getByRole('row', { name: /Dome at dusk/ }).waitFor();
  await page.locator('input[type=file]').setInputFiles('demo/originals/star-chart.jpg');
  await page.getByRole('dialog').waitFor();
  await page.getByLabel('Print size').fill('70 cm');
  await page.waitForTimeout(600);
  await shoot('new-job');
  await page.getByRole('button', { name: 'Cancel' }).click();

  await page.getByRole('row', { name: /Dome at dusk/ }).click();
  await painted();
  await shoot('bench');
  await page.getByRole('button', { name: 'See what it makes' }).click();
  await page.locator('.spot canvas').nth(1).waitFor();
  await page.waitForFunction(() => !document.querySelector('.spot[data-busy="true"]'));
  await page.waitForTimeout(600);
  await shoot('recipe');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Show blocking on the picture' }).click();
  await painted();
  await shoot('original');
  await page.getByRole('button', { name: 'Show blocking on the picture' }).click();
  await section(page, 'Size');
  await painted();
  const corner = (await page.getByTitle('lower right corner').boundingBox())!;
  await page.mouse.move(corner.x, corner.y);
  await page.mouse.down();
  await page.mouse.move(corner.x - 150, corner.y - 100);
  await page.mouse.up();
  await painted();
  await shoot('size');
  await page.getByRole('button', { name: 'Undo' }).click();
  await section(page, 'Clean');
  await page.locator('label[for="zoom-original-4"]').click();
  await painted();
  await page.getByRole('button', { name: /^JPEG clean-up/ }).click();
  await painted();
  await page.waitForTimeout(2500);
  await shoot('clean');
  await section(page, 'Enlarge');
  await page.locator('label[for="zoom-result-1"]').click();
  await page.getByRole('button', { name: 'Try on this spot' }).click();
  await page.waitForFunction(() => {
    const panes = [...document.querySelectorAll<HTMLCanvasElement>('.tried canvas')];
    return panes.length === 4 && panes.every(({ dataset }) => dataset.painted === dataset.wanted);
  });
  await page.waitForTimeout(400);
  await shoot('try');
  await page.getByRole('button', { name: 'Try on this spot' }).click();
  await section(page, 'Finish');
  await page.locator('label[for="zoom-result-1"]').click();
  await painted();
  await page
    .locator('.finish-figures')
    .getByText(/→ .* levels/)
    .waitFor();
  await shoot('finish');
  await section(page, 'Compare');
  await page.locator('label[for="compare-side by side"]').click();
  await page.locator('.stop').filter({ hasText: 'edges' }).last().click();
  await painted();
  await page.getByRole('button', { name: 'Lay a probe' }).click();
  await page.waitForFunction(
    () => [...document.querySelectorAll('.evidence td')].every((cell) => cell.textContent !== '…'),
    undefined,
    { timeout: 120_000 },
  );
  await painted();
  await shoot('compare');
  await page.locator('label[for="compare-side by side"]').click();
  await page.locator('label[for="zoom-original-2"]').click();
  await page.getByRole('button', { name: 'Run Trial A' }).click();
  await page.locator('.run[data-state="done"]').waitFor({ timeout: 120_000 });
  await painted();
  await page.waitForTimeout(7000);
  await shoot('output');
  const form = page.locator('form.send').first();
  await form.getByLabel(/Why is it sent/).fill('A strip for the customer');
  await form.getByLabel('Initials').fill('mk');
  await form.getByRole('button', { name: 'Send' }).click();
  await page.getByRole('button', { name: 'Look at the print' }).click({ timeout: 60_000 });
  await page.locator('label[for="zoom-result-4"]').click();
  await painted();
  await page.waitForTimeout(7000);
  await shoot('print');
  await page.getByText('What happened').click();
  await page.getByRole('link', { name: 'The whole record' }).click();
  await page.getByText('Order again').waitFor();
  await page.waitForTimeout(600);
  await shoot('record');

  await page.goto(url);
  await page.getByRole('row', { name: /The long telescope/ }).click();
  await painted();
  await section(page, 'Clean');
  await page.getByRole('button', { name: /^Tones/ }).click();
  await page.getByLabel('Where tones works').selectOption({ label: 'a new zone …' });
  await page.getByRole('group', { name: 'Zone Zone 1' }).waitFor();
  const stage = (await page.locator('.view').boundingBox())!;
  await page.mouse.move(stage.x + 500, stage.y + 420);
  await page.mouse.down();
  await page.mouse.move(stage.x + 760, stage.y + 220, { steps: 12 });
  await page.mouse.up();
  await painted();
  await page.waitForTimeout(1500);
  await shoot('zone');

  await page.goto(url);
  await page.getByRole('row', { name: /with photograph/ }).click();
  await painted();
  await page.getByRole('button', { name: 'Open picture 1' }).click();
  await painted();
  await shoot('on-a-page');

  await page.goto(url);
  await page.getByRole('row', { name: /The founder/ }).click();
  await painted();
  await page.getByRole('button', { name: 'Show faces on the picture' }).click();
  await painted();
  await shoot('faces');
} finally {
  await browser.close();
  server.kill('SIGTERM');
}
