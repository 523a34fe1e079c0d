import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import sharp from 'sharp';
import { JobView, TakenIn } from '../src/core/shop/job';
import { testPaper } from '../src/core/testing';
import { sharedBench } from './bench-page';

const DOME = 'demo/originals/dome-at-dusk.jpg';
let id = 0;

const bench = sharedBench(async ({ page }) => {
  const answer = await page.request.post('/api/originals', {
    data: await readFile(DOME),
    headers: { 'x-file-name': 'dome.jpg' },
  });
  const { digest, fileName } = TakenIn.parse(await answer.json());
  const begun = await page.request.post('/api/jobs', {
    data: {
      ...{ title: 'Every day', customer: '', due: null, distance: 2 },
      paper: testPaper({ width: { value: 60, unit: 'cm' } }),
      pictures: [{ digest, fileName }],
    },
  });
  id = JobView.parse(await begun.json()).id;
  await page.goto(`/bench/${id}`);
  await bench.resolved();
});
const piece = async () =>
  JobView.parse(await (await bench.page.request.get(`/api/jobs/${id}`)).json()).piece;

/** What a JPEG's decoder reads: everything from its first quantization table on. */
const pixelsOf = (jpeg: Buffer): Buffer => jpeg.subarray(jpeg.indexOf(Buffer.from([0xff, 0xdb])));

test.describe('Forty a day', () => {
  test('both sides, a sheet, sums and fractions are typed in one field; what is wrong moves nothing', async () => {
    const { page } = bench;
    await bench.openSection('Size');
    const width = page.getByLabel('Width', { exact: true });
    const height = page.getByLabel('Height', { exact: true });
    const type = async (text: string) => {
      await width.fill(text);
      await width.press('Enter');
      await bench.resolved();
    };
    await type('90x60');
    await expect(width).toHaveValue('90');
    await expect(height).toHaveValue('60');
    await type('A1');
    await expect(width).toHaveValue('84.1');
    await expect(height).toHaveValue('59.4');
    await type('60+2*0.3 cm');
    await expect(width).toHaveValue('60.6');
    await type('23 1/2 in');
    await expect(width).toHaveValue('23.5');
    const below = page.getByLabel('Resolution', { exact: true });
    const place = await below.boundingBox();
    await width.fill('as wide as the door');
    await width.press('Enter');
    await expect(page.locator('.field-trouble')).toContainText(
      '“as” is neither a number nor a unit',
    );
    expect(await below.boundingBox()).toEqual(place);
    await width.press('Escape');
    await type('x 40 cm');
    await expect(height).toHaveValue('40');
    await expect(bench.section('Size')).toContainText('60 × 40 cm');
  });

  test('arrow keys that follow each other are one change', async () => {
    const { page } = bench;
    const before = (await piece()).history.length;
    const ppi = page.getByLabel('Resolution', { exact: true });
    await ppi.focus();
    for (let i = 0; i < 12; i++) await ppi.press('ArrowUp');
    await expect(ppi).toHaveValue('172');
    await expect(page.locator('.ticket')).toHaveAttribute('data-saving', 'true');
    await bench.resolved();
    expect((await piece()).history.map(({ label }) => label).slice(before)).toEqual(['172 ppi']);
    // An undo takes back what keys changed, though they hardly rest.
    await bench.openSection('Finish');
    const step = page.locator('.step-head > button', { hasText: 'Unsharp mask' });
    if ((await step.getAttribute('aria-expanded')) !== 'true') await step.click();
    const amount = page.getByRole('slider', { name: 'Amount' });
    const was = await amount.inputValue();
    await amount.focus();
    for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowRight');
    await page.keyboard.press('Control+z');
    await bench.resolved();
    await expect(amount).toHaveValue(was);
  });

  test('only the size tag: the very pixels of the JPEG, and nothing said of treating them', async () => {
    const { page } = bench;
    await bench.openSection('Size');
    await page.getByText('Only set the size tag').click();
    for (const name of ['Clean', 'Enlarge', 'Finish']) {
      await expect(bench.section(name)).toContainText('nothing to do');
      await expect(bench.section(name)).not.toContainText(/sharp|unsharp|%/);
    }
    await bench.openSection('Output');
    await page.locator('label[for="format-jpeg"]').click();
    const file = await bench.run(/\.jpg$/);
    const original = await readFile(DOME);
    expect(pixelsOf(file).equals(pixelsOf(original))).toBe(true);
    expect((await sharp(file).metadata()).density).toBe(30);
    await page.keyboard.press('Control+z');
    await page.keyboard.press('Control+z');
    await bench.resolved();
    await expect(bench.section('Clean')).toContainText('JPEG clean-up 100 %');
  });

  test('the paper on the picture shows nothing that a crop took away', async () => {
    const { page } = bench;
    await bench.openSection('Original');
    await page.getByText('Turn, straighten, crop').click();
    await page.getByRole('button', { name: 'Crop', exact: true }).click();
    const right = page.getByLabel('Width, px');
    await right.fill('360');
    await right.press('Enter');
    await page.getByRole('button', { name: 'Done' }).click();
    await bench.openSection('Size');
    await page.getByLabel('Width', { exact: true }).fill('60x40');
    await page.getByLabel('Width', { exact: true }).press('Enter');
    await page.getByText('Margins', { exact: true }).click();
    await bench.resolved();
    const box = async (selector: string, nth = 0) =>
      (await page.locator(selector).nth(nth).boundingBox())!;
    const paper = await box('.arrangement .laid');
    const bare = [await box('.arrangement .bare'), await box('.arrangement .bare', 1)];
    // Left and right of the part that is printed the paper is bare, as wide as it is left.
    const area = bare.reduce((sum, { width, height }) => sum + width * height, 0);
    const share = 1 - 360 / 480 / (60 / 40);
    expect(area / (paper.width * paper.height)).toBeCloseTo(share, 1);
    for (let i = 0; i < 4; i++) await page.keyboard.press('Control+z');
    await bench.resolved();
  });

  test('N says why it does nothing, and Home leads the divider home', async () => {
    const { page } = bench;
    await bench.openSection('Enlarge');
    await page.locator('.view').focus();
    await page.keyboard.press('n');
    await expect(page.locator('.notices')).toContainText('There is no stop yet');
    const divider = page.getByRole('slider', { name: 'Divider between original and result' });
    await divider.focus();
    await page.keyboard.press('Home');
    await expect(divider).toHaveAttribute('aria-valuenow', '2');
    await page.keyboard.press('End');
    await expect(divider).toHaveAttribute('aria-valuenow', '98');
  });

  test('Try goes to a telling place where a flat one is in view, and stays where there is one', async () => {
    const { page } = bench;
    await bench.openSection('Enlarge');
    await bench.zoom('zoom-result-2');
    // The sky is above.
    await page.locator('.view').focus();
    for (let i = 0; i < 30; i++) await page.keyboard.press('Shift+ArrowUp');
    await bench.resolved();
    const spread = async () => {
      const pixels = await bench.pixels('The original', { x: 0, y: 0, width: 200, height: 200 });
      const greens = pixels.filter((_, i) => i % 4 === 1);
      const mean = greens.reduce((sum, level) => sum + level, 0) / greens.length;
      return Math.sqrt(greens.reduce((sum, level) => sum + (level - mean) ** 2, 0) / greens.length);
    };
    const sky = await spread();
    const button = page.getByRole('button', { name: 'Try on this spot' });
    await button.click();
    await expect(page.locator('.tried')).toHaveCount(4);
    const spots = () =>
      page.waitForFunction(() => {
        const panes = [...document.querySelectorAll<HTMLCanvasElement>('.tried canvas')];
        return panes.length === 4 && panes.every(({ dataset: d }) => d.painted === d.wanted);
      });
    await expect.poll(spread, { timeout: 20_000 }).toBeGreaterThan(2 * sky + 5);
    await spots();
    const there = await spread();
    await button.click();
    await button.click();
    await spots();
    expect(Math.abs((await spread()) - there)).toBeLessThan(1);
    await button.click();
    await page.locator('label[for="zoom-fit"]').click();
  });

  test('a zone is painted, the ticket widened and its figures copied by keys alone', async () => {
    const { page } = bench;
    await page.context().grantPermissions(['clipboard-read', 'clipboard-write']);
    await bench.openSection('Original');
    await page.locator('.view').focus();
    await page.keyboard.press('c');
    await expect(page.locator('.notices')).toContainText(/Copied: \d+ figures/);
    expect(await page.evaluate(() => navigator.clipboard.readText())).toContain(
      'Pixels\t720 × 480',
    );
    const edge = page.getByRole('separator', { name: 'Width of the ticket' });
    const wide = async () => (await page.locator('.ticket').boundingBox())!.width;
    const before = await wide();
    await edge.focus();
    for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowRight');
    expect(await wide()).toBe(before + 48);
    await edge.dblclick();
    expect(await wide()).toBe(before);
    await bench.openSection('Clean');
    await page.getByText('Zones', { exact: true }).click();
    await page.getByRole('button', { name: 'Begin a zone' }).click();
    await bench.resolved();
    const brush = page.getByRole('application', { name: /^Brush on/ });
    await brush.focus();
    await page.keyboard.down(' ');
    for (let i = 0; i < 4; i++) await page.keyboard.press('Shift+ArrowRight');
    await page.keyboard.up(' ');
    const labels = async () => (await piece()).history.map(({ label }) => label);
    await expect.poll(labels).toContainEqual(expect.stringMatching(/^Painted on/));
    await page.keyboard.press('Control+z');
    await page.keyboard.press('Control+z');
    await bench.resolved();
  });

  test('times are ranges, and sections say why they are there', async () => {
    const { page } = bench;
    await expect(page.getByLabel('What it comes to')).toContainText(/\d+(–\d+)? (s|min)/);
    for (const name of ['Original', 'Size', 'Clean', 'Enlarge', 'Finish', 'Compare', 'Output']) {
      await bench.openSection(name);
      await page.getByRole('button', { name: `Why ${name}?` }).click();
      await expect(page.getByRole('note')).toContainText(/On this picture: .*\d/);
    }
  });

  test('going back, a reload and the address find the open section; what is not there is not found', async () => {
    const { page } = bench;
    await bench.openSection('Clean');
    await expect(page).toHaveURL(/#clean$/);
    await page.reload();
    await bench.resolved();
    await expect(bench.section('Clean')).toHaveAttribute('aria-expanded', 'true');
    await page.getByRole('link', { name: 'Board' }).click();
    await expect(page.locator('.jobs')).toBeVisible();
    await page.goBack();
    await bench.resolved();
    await expect(bench.section('Clean')).toHaveAttribute('aria-expanded', 'true');
    expect((await page.request.get('/bench/99999')).status()).toBe(404);
    expect((await page.request.get('/bench/nothing')).status()).toBe(404);
  });

  test('the board asks for nothing that nobody wants yet', async () => {
    const { page } = bench;
    const asked: string[] = [];
    page.on('request', (request) => asked.push(request.url()));
    await page.goto('/');
    await expect(page.locator('.jobs tbody tr').first()).toBeVisible();
    await page.waitForLoadState('networkidle').catch(() => {});
    expect(asked.filter((url) => url.includes('_rsc='))).toEqual([]);
  });

  test('the board is sorted as it was last chosen, and says how many days are left', async () => {
    const { page } = bench;
    await page.goto('/');
    const first = page.locator('.jobs tbody tr[data-index="0"]');
    await expect(first).toContainText(/in \d+ days|today|tomorrow|late/);
    await page.getByLabel('Order', { exact: true }).selectOption('Newest first');
    await expect(first).toContainText('Every day');
    await page.reload();
    await expect(first).toContainText('Every day');
    await page.getByRole('button', { name: 'Print', exact: true }).click();
    await expect(page.getByLabel('Order', { exact: true })).toHaveValue('');
    await page.getByLabel('Order', { exact: true }).selectOption('Most urgent first');
  });

  test('nine pictures and a letter: each is answered for, and nothing lies over a button', async () => {
    const { page } = bench;
    await page.goto('/');
    await expect(page.locator('.jobs')).toBeVisible();
    const names = (await readdir('demo/originals')).filter((name) => /\.(jpg|png)$/.test(name));
    const whole = await readFile(DOME);
    const files = [
      ...(await Promise.all(
        names.map(async (name) => ({
          ...{ name, mimeType: 'image/jpeg' },
          buffer: await readFile(join('demo/originals', name)),
        })),
      )),
      { name: 'half.jpg', mimeType: 'image/jpeg', buffer: whole.subarray(0, whole.length >> 1) },
      { name: 'letter.txt', mimeType: 'text/plain', buffer: Buffer.from('Dear printers') },
    ];
    await page.locator('input[type=file]').setInputFiles(files);
    const dialog = page.getByRole('dialog');
    await expect(dialog).toContainText(`${names.length + 1} new jobs`, { timeout: 60_000 });
    const rows = dialog.locator('.taken-picture');
    await expect(rows.nth(0)).toContainText('letter.txt');
    await expect(rows.nth(0)).toContainText('Not taken in');
    await expect(rows.nth(1)).toContainText('half.jpg');
    await expect(rows.nth(1)).toContainText('% of it is missing');
    await expect(rows.nth(1)).toBeInViewport();
    await dialog.getByLabel('Print size').fill('2 m');
    await expect(dialog.locator('.order-verdict')).toContainText('want another file');
    for (const name of ['Cancel', 'Onto the board']) {
      const { x, y, width, height } = (await dialog.getByRole('button', { name }).boundingBox())!;
      const on = await page.evaluate(
        ([u, v]) => document.elementFromPoint(u!, v!)?.closest('button')?.textContent ?? '',
        [x + width / 2, y + height / 2],
      );
      expect(on).toContain(name);
    }
    await dialog.getByRole('button', { name: 'Cancel' }).click();
  });
});
