import { readFile } from 'node:fs/promises';
import { expect, test } from '@playwright/test';
import sharp from 'sharp';
import { BenchPage } from './bench-page';

test.describe('the dome job, from ticket to file', () => {
  test('is sized, cleaned, enlarged, sharpened, compared, run and downloaded', async ({ page }) => {
    const bench = new BenchPage(page);
    await bench.open('Dome at dusk');
    await expect(page.getByText('JPEG quality 25')).toBeVisible();
    await expect(page.getByRole('definition').filter({ hasText: 'missing' }).first()).toBeVisible();
    await expect(page.getByLabel('What it comes to')).toContainText('15 → 160 ppi');

    // Size: one side is typed and the other follows.
    await bench.openSection('Size');
    await page.getByLabel('Width', { exact: true }).fill('60');
    await page.getByLabel('Width', { exact: true }).press('Enter');
    await expect(page.getByLabel('Height', { exact: true })).toHaveValue('40');
    await page.getByLabel('Width', { exact: true }).fill('120 cm');
    await page.getByLabel('Width', { exact: true }).press('Enter');
    await page.getByLabel('Resolution', { exact: true }).fill('100');
    await page.getByLabel('Resolution', { exact: true }).press('Enter');
    await expect(page.locator('.facts').first()).toContainText('4724 × 3150');
    await expect(page.locator('.verdict')).toContainText('Seen from 2 m, 44 ppi are needed');

    // Clean: strength 0 is the original itself, pixel for pixel; 100 is not.
    await bench.openSection('Clean');
    await bench.zoom('zoom-original-4');
    await expect(page.getByText('cleaned, before enlarging')).toBeVisible();
    await page.getByLabel('Banding on').click();
    await page.getByRole('button', { name: /^JPEG clean-up/ }).click();
    const strength = page.getByLabel('Strength, figure');
    await strength.fill('0');
    await strength.press('Enter');
    await bench.resolved();
    const middle = { x: 300, y: 300 };
    const pane = async (name: string) =>
      bench.canvas(name).evaluate((canvas, at) => {
        const context = (canvas as HTMLCanvasElement).getContext('2d')!;
        return [...context.getImageData(at.x, at.y, 200, 200).data];
      }, middle);
    expect(await pane('Trial A')).toEqual(await pane('The original'));
    await strength.fill('90');
    await strength.press('Enter');
    await bench.resolved();
    expect(await pane('Trial A')).not.toEqual(await pane('The original'));
    await expect(bench.section('Clean')).toContainText('JPEG clean-up 90 %');

    // Enlarge and finish.
    await bench.openSection('Enlarge');
    await page.getByRole('radio', { name: /Lanczos-3/ }).click();
    await bench.openSection('Finish');
    await page.getByLabel('Amount, figure').fill('60');
    await page.getByLabel('Amount, figure').press('Enter');
    await expect(bench.section('Finish')).toContainText('60 %');

    // Compare: the wipe moves, the original can be held.
    await bench.zoom('zoom-result-1');
    await expect(page.getByText('exact pixels')).toBeVisible();
    const divider = page.getByRole('slider', { name: /Divider/ });
    await divider.focus();
    const before = Number(await divider.getAttribute('aria-valuenow'));
    await divider.press('Shift+ArrowRight');
    await expect(divider).toHaveAttribute('aria-valuenow', String(before + 10));
    await page.keyboard.down('o');
    await expect(divider).toBeHidden();
    await page.keyboard.up('o');
    await expect(divider).toBeVisible();

    // Run, with progress, and download.
    const seen = await page.locator('canvas[aria-label="Trial A"]').evaluate((canvas) => {
      const context = (canvas as HTMLCanvasElement).getContext('2d')!;
      return [...context.getImageData(100, 80, 300, 200).data];
    });
    await page.getByRole('button', { name: 'Run Trial A' }).click();
    await expect(page.locator('.top-bar .under-way')).toBeVisible();
    const run = page.locator('.run').first();
    await expect(run).toHaveAttribute('data-state', 'done', { timeout: 120_000 });
    await expect(run).toContainText('4724 × 3150 pixels');
    await expect(run).toContainText('100 ppi: prints at 119.99 × 80.01 cm');
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      run.getByRole('link', { name: /\.tif/ }).click(),
    ]);
    expect(download.suggestedFilename()).toMatch(/^0401-dome-at-dusk-east-wall-120cm-100ppi\.tif$/);
    const file = await readFile(await download.path());
    const head = await page.request.head(download.url());
    expect(head.headers()['content-length']).toBe(String(file.length));
    expect(await sharp(file).metadata()).toMatchObject({
      width: 4724,
      height: 3150,
      density: 100,
      format: 'tiff',
    });

    // What was seen is what was written: the stage's pixels stand in the file, to the byte.
    const { width, height } = await page
      .locator('canvas[aria-label="Trial A"]')
      .evaluate((canvas) => ({
        width: (canvas as HTMLCanvasElement).width,
        height: (canvas as HTMLCanvasElement).height,
      }));
    const left = Math.round(4724 / 2) - Math.round(width / 2);
    const top = Math.round(3150 / 2) - Math.round(height / 2);
    const written = await sharp(file, { limitInputPixels: false })
      .extract({ left: left + 100, top: top + 80, width: 300, height: 200 })
      .ensureAlpha()
      .raw()
      .toBuffer();
    expect(Buffer.from(seen).equals(written)).toBe(true);
  });

  test('undoes, redoes and jumps in the list of changes', async ({ page }) => {
    const bench = new BenchPage(page);
    await bench.open('Star chart');
    await bench.openSection('Enlarge');
    await page.getByRole('radio', { name: /Nearest/ }).click();
    await expect(bench.section('Enlarge')).toContainText('nearest neighbour');
    await page.getByRole('radio', { name: /Bilinear/ }).click();
    await expect(bench.section('Enlarge')).toContainText('bilinear');
    await page.keyboard.press('Control+z');
    await expect(bench.section('Enlarge')).toContainText('nearest neighbour');
    await page.keyboard.press('Control+Shift+z');
    await expect(bench.section('Enlarge')).toContainText('bilinear');
    await page.getByRole('button', { name: 'List of changes' }).click();
    await page.getByRole('button', { name: /Proposed first trial/ }).click();
    await expect(bench.section('Enlarge')).toContainText('auto: drawings');
    await page.reload();
    await expect(bench.section('Enlarge')).toContainText('auto: drawings');
  });

  test('cancels a run and keeps the bench usable meanwhile', async ({ page }) => {
    const bench = new BenchPage(page);
    await bench.open('Enamel badge');
    await bench.openSection('Size');
    await page.getByLabel('Resolution', { exact: true }).fill('340');
    await page.getByLabel('Resolution', { exact: true }).press('Enter');
    await expect(page.locator('.facts').first()).toContainText('8031 × 8031');
    await page.getByRole('button', { name: 'Run Trial A' }).click();
    const run = page.locator('.run').first();
    await expect(run).toHaveAttribute('data-state', 'running');
    await page.getByRole('button', { name: 'Cancel' }).click();
    await expect(run).toHaveAttribute('data-state', 'cancelled');
    await bench.openSection('Finish');
    await bench.resolved();
  });
});

test.describe('a file of one’s own', () => {
  test('is dropped, becomes a job, and is run to a JPEG', async ({ page }) => {
    await page.goto('/');
    const pixels = Buffer.alloc(200 * 150 * 3, 0).map((_, i) => (i * 7) % 256);
    const png = await sharp(pixels, { raw: { width: 200, height: 150, channels: 3 } })
      .png()
      .toBuffer();
    await page
      .locator('input[type=file]')
      .setInputFiles({ name: 'My "own" <b>file.png', mimeType: 'image/png', buffer: png });
    const dialog = page.getByRole('dialog');
    await expect(dialog).toContainText('My "own" <b>file.png');
    await dialog.getByLabel('Print size').fill('15 cm');
    await dialog.getByLabel('Customer').fill('A neighbour');
    await dialog.getByRole('button', { name: 'To the bench' }).click();
    const bench = new BenchPage(page);
    await expect(bench.section('Original')).toContainText('200 × 150');
    await bench.resolved();
    await bench.openSection('Output');
    await page.locator('label[for="format-jpeg"]').click();
    await page.getByRole('button', { name: 'Run Trial A' }).click();
    const run = page.locator('.run').first();
    await expect(run).toHaveAttribute('data-state', 'done', { timeout: 60_000 });
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      run.getByRole('link', { name: /\.jpg/ }).click(),
    ]);
    expect(await sharp(await download.path()).metadata()).toMatchObject({
      format: 'jpeg',
      width: 945,
      height: 709,
      density: 160,
    });
  });

  test('that cannot be used is answered in words, and nothing is lost', async ({ page }) => {
    await page.goto('/');
    await expect(page.locator('.jobs tbody tr').first()).toBeVisible();
    const rows = await page.locator('.jobs tbody tr').count();
    const refused = async (name: string, buffer: Buffer, words: RegExp) => {
      await page
        .locator('input[type=file]')
        .setInputFiles({ name, mimeType: 'image/jpeg', buffer });
      await expect(page.locator('.notices')).toContainText(words);
    };
    await refused('empty.jpg', Buffer.alloc(0), /empty\.jpg is empty/);
    await refused('letter.jpg', Buffer.from('Dear printers'), /letter\.jpg is not a picture/);
    await refused('large.jpg', Buffer.alloc(6_000_000, 1), /large\.jpg is larger than 5\.0 MB/);
    await expect(page.locator('.jobs tbody tr')).toHaveCount(rows);
    await expect(page.getByRole('dialog')).toHaveCount(0);
  });
});

test('an address that leads nowhere says so', async ({ page }) => {
  await page.goto('/bench/99999');
  await expect(page.getByText('There is no such job')).toBeVisible();
  await page.goto('/nowhere');
  await expect(page.getByText('There is nothing at this address')).toBeVisible();
});
