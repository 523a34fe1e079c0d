import { expect, test } from '@playwright/test';
import sharp from 'sharp';
import { BenchPage, sharedBench } from './bench-page';

test.describe('a photograph on a banner of shapes', () => {
  const bench = sharedBench();
  const row = () =>
    bench.page.getByRole('list', { name: 'Pictures on the page' }).getByRole('listitem');
  const openPicture = async () => {
    await bench.page.getByRole('button', { name: 'Open picture 1' }).click();
    await expect(bench.section('Enlarge')).toBeVisible();
    await bench.resolved();
  };
  const back = async () => {
    await bench.page.getByRole('button', { name: 'Back to the page' }).click();
    await expect(bench.section('Output')).toBeVisible();
    await bench.resolved();
  };

  test('is told with what it carries, and treated from the start', async () => {
    const { page } = bench;
    await bench.open('with photograph');
    await bench.openSection('Size');
    await page.getByLabel('Resolution', { exact: true }).fill('60');
    await page.getByLabel('Resolution', { exact: true }).press('Enter');
    await bench.resolved();
    await bench.openSection('Original');
    await expect(row()).toContainText('720 × 480 px · 52.9 × 35.3 cm');
    await expect(row()).toContainText('35 ppi → 60');
    await expect(row()).toContainText('treated as a picture of its own');
    await row().hover();
    await expect(page.getByRole('img', { name: 'Picture 1 outlined' })).toBeVisible();
  });

  test('lies on the bench as any picture does, and is cleaned there', async () => {
    const { page } = bench;
    await openPicture();
    await expect(page.getByText('Picture 1 · 52.9 × 35.3 cm')).toBeVisible();
    await expect(page.getByLabel('What it comes to')).toContainText('35 → 60 ppi');
    await expect(bench.section('Size')).toHaveCount(0);
    await bench.openSection('Original');
    await expect(page.getByText('JPEG quality 25')).toBeVisible();
    await bench.openSection('Enlarge');
    await page.getByRole('radio', { name: /Nearest/ }).click();
    await bench.resolved();
    const squares = await bench.pixels('Trial A', { x: 200, y: 200, width: 120, height: 80 });
    await page.keyboard.press('Control+z');
    await bench.resolved();
    expect(await bench.pixels('Trial A', { x: 200, y: 200, width: 120, height: 80 })).not.toEqual(
      squares,
    );
    await page.getByRole('button', { name: 'List of changes' }).click();
    await expect(page.getByRole('button', { name: /Picture 1: .*nearest/i })).toBeVisible();
    await page.keyboard.press('Escape');
  });

  test('shows on the page as it was treated, and so it is written', async () => {
    const { page } = bench;
    await back();
    await bench.zoom('zoom-result-1');
    const { width, height } = await bench
      .canvas('Trial A')
      .evaluate(({ width: w, height: h }: HTMLCanvasElement) => ({ width: w, height: h }));
    // The middle of the page lies left of the photograph.
    const stage = page.getByLabel(/^Picture: drag or arrow keys/);
    await stage.focus();
    for (let i = 0; i < 4; i++) await page.keyboard.press('ArrowRight');
    await bench.resolved();
    await expect(page.getByText('exact pixels')).toBeVisible();
    const part = { x: width - 330, y: height >> 1, width: 320, height: 160 };
    const treated = await bench.pixels('Trial A', part);
    await bench.openSection('Original');
    await openPicture();
    await page.getByLabel('Drawn as treated').click();
    await back();
    await bench.zoom('zoom-result-1');
    const untreated = await bench.pixels('Trial A', part);
    expect(untreated).not.toEqual(treated);
    await expect(row()).toContainText('drawn untouched');
    await page.keyboard.press('Control+z');
    await bench.resolved();
    expect(await bench.pixels('Trial A', part)).toEqual(treated);
    const file = await bench.run(/\.tif/);
    const { data, info } = await sharp(file, { limitInputPixels: false })
      .ensureAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    expect(info.width).toBe(7087);
    // Where it is in the file, its most varied row tells.
    const rows = Array.from({ length: part.height }, (_, y) =>
      Buffer.from(treated.slice(y * 1280, (y + 1) * 1280)),
    );
    const varied = rows.map((line) => new Set(line).size);
    const telling = varied.indexOf(Math.max(...varied));
    const found = data.indexOf(rows[telling]!) - telling * info.width * 4;
    expect(found).toBeGreaterThan(0);
    for (let y = 0; y < part.height; y++) {
      const line = data.subarray(found + y * info.width * 4, found + y * info.width * 4 + 320 * 4);
      expect(line.equals(rows[y]!)).toBe(true);
    }
  });

  test('changed, undone and switched while it is treated, it ends as another page shows it', async () => {
    const { page } = bench;
    await bench.openSection('Original');
    await openPicture();
    await bench.openSection('Enlarge');
    // Nothing of this is waited for.
    await page.getByRole('radio', { name: /Nearest/ }).click();
    await page.getByRole('button', { name: 'Back to the page' }).click();
    await page.keyboard.press('Control+z');
    await page.getByRole('button', { name: 'Open picture 1' }).click();
    await page.getByLabel('Drawn as treated').click();
    await bench.openSection('Enlarge');
    await page.getByRole('radio', { name: /Bilinear/ }).click();
    await page.getByRole('button', { name: 'Back to the page' }).click();
    await page.getByRole('button', { name: 'Open picture 1' }).click();
    await page.getByLabel('Drawn as treated').click();
    await back();
    const other = new BenchPage(await page.context().newPage());
    await other.open('with photograph');
    const parts: number[][] = [];
    for (const one of [bench, other]) {
      await one.zoom('zoom-fit');
      await one.zoom('zoom-result-1');
      const stage = one.page.getByLabel(/^Picture: drag or arrow keys/);
      await stage.focus();
      for (let i = 0; i < 4; i++) await one.page.keyboard.press('ArrowRight');
      await one.resolved();
      await expect(one.page.getByText('exact pixels')).toBeVisible();
      parts.push(await one.pixels('Trial A', { x: 400, y: 200, width: 320, height: 160 }));
    }
    expect(parts[1]).toEqual(parts[0]);
    expect(new Set(parts[0]).size).toBeGreaterThan(50);
    await other.page.close();
  });
});
