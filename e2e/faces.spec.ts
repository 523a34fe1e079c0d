import { expect, test } from '@playwright/test';
import { sharedBench } from './bench-page';

test.describe('a portrait', () => {
  const bench = sharedBench();

  test('tells of its face, and outlines it on the picture', async () => {
    const { page } = bench;
    await bench.open('The founder');
    await bench.openSection('Original');
    await expect(page.getByText(/One face was found, \d+ px high/)).toBeVisible();
    await page.getByRole('button', { name: 'Show faces on the picture' }).click();
    const outline = page.getByRole('img', { name: 'Faces outlined: 1' }).locator('ellipse');
    const [at, stage] = [await outline.boundingBox(), await bench.canvas('Trial A').boundingBox()];
    // About the middle of the picture, and well within it.
    expect(at!.x).toBeGreaterThan(stage!.x + 0.2 * stage!.width);
    expect(at!.x + at!.width).toBeLessThan(stage!.x + 0.8 * stage!.width);
    await page.getByRole('button', { name: 'Show faces on the picture' }).click();
    await expect(outline).toHaveCount(0);
  });

  test('is treated in a zone of its own, which the brush and other parts may change', async () => {
    const { page } = bench;
    await bench.openSection('Clean');
    await page.getByRole('button', { name: /^Texture/ }).click();
    await expect(page.getByRole('button', { name: /^Texture/ })).toContainText('Faces');
    await bench.zoom('zoom-result-1');
    const { width, height } = await bench
      .canvas('Trial A')
      .evaluate(({ width: w, height: h }: HTMLCanvasElement) => ({ width: w, height: h }));
    const middle = { x: width - 160, y: height >> 1, width: 30, height: 20 };
    const before = await bench.pixels('Trial A', middle);
    await page.getByLabel('Detail given back, figure').fill('100');
    await page.getByLabel('Detail given back, figure').press('Enter');
    await bench.resolved();
    expect(await bench.pixels('Trial A', middle)).not.toEqual(before);
    await page.getByRole('button', { name: 'Undo' }).click();
    await bench.resolved();
    expect(await bench.pixels('Trial A', middle)).toEqual(before);
    await page.getByRole('button', { name: 'Edit' }).first().click();
    await expect(page.getByText(/One face was found, \d+ px high/)).toBeVisible();
    await expect(page.getByLabel('Size, of each face, figure')).toHaveValue('120');
  });

  test('is looked at first', async () => {
    const { page } = bench;
    await page.reload();
    await bench.resolved();
    await bench.openSection('Compare');
    const stops = page.getByRole('region', { name: 'Stops' });
    await expect(stops.getByRole('button', { name: /1 face/ })).toBeVisible({ timeout: 30_000 });
  });
});
