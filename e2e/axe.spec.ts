import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';
import { BenchPage } from './bench-page';

// What fades in is looked at once it is there.
test.use({ contextOptions: { reducedMotion: 'reduce' } });

/** What axe finds serious on a page as it is. */
async function serious(page: Page): Promise<string[]> {
  // It comes a moment after the page.
  await expect(page).toHaveTitle(/./);
  const { violations } = await new AxeBuilder({ page }).analyze();
  return violations
    .filter(({ impact }) => impact === 'serious' || impact === 'critical')
    .flatMap(({ id, nodes }) =>
      nodes.map(({ target, failureSummary }) => `${id}: ${target.join(' ')}\n${failureSummary}`),
    );
}

const fine = async (page: Page, where: string) => expect(await serious(page), where).toEqual([]);

const SECTIONS = ['Original', 'Size', 'Clean', 'Enlarge', 'Finish', 'Compare', 'Output'];
const WAYS = ['wipe', 'side by side', 'grid', 'window', 'blink', 'difference', 'result alone'];

test.describe('Whoever can’t see or use a mouse', () => {
  test('finds nothing in the way on the board, in the shop, and in a new order', async ({
    page,
  }) => {
    await page.goto('/');
    await expect(page.getByRole('row').nth(1)).toBeVisible();
    await fine(page, 'board');
    await page
      .getByRole('checkbox', { name: /^Select job/ })
      .first()
      .check();
    await fine(page, 'board, selected');
    await page.keyboard.press('Escape');
    // A segment is one stop of the Tab key, not two.
    const stops = page.locator('.choices label[tabindex="0"]');
    await expect(stops).toHaveCount(0);
    await page
      .locator('input[type="file"]')
      .first()
      .setInputFiles('demo/originals/enamel-badge.png');
    await expect(page.getByRole('dialog')).toBeVisible();
    await fine(page, 'a new order');
    await page.keyboard.press('Escape');
    for (const part of ['How it stands', 'Settings', 'Storage', 'Backup']) {
      await page.goto('/shop');
      await page.getByRole('link', { name: part }).click();
      await expect(page.locator('.shop-parts h2').first()).toBeVisible();
      await fine(page, `shop, ${part}`);
    }
    await page.goto('/recipes');
    await expect(page.getByRole('article')).toBeVisible();
    await fine(page, 'recipes');
    await page.goto('/batches');
    await page.getByRole('link', { name: /East wing/ }).waitFor();
    await fine(page, 'batches');
    await page
      .locator('input[aria-label="Files"]')
      .setInputFiles(['demo/originals/enamel-badge.png', 'demo/originals/star-chart.jpg']);
    await expect(page.getByRole('dialog')).toBeVisible();
    await fine(page, 'a new batch');
    await page.keyboard.press('Escape');
    await page.getByRole('link', { name: /East wing/ }).click();
    await expect(page.getByRole('row').nth(1)).toBeVisible();
    await page
      .getByRole('checkbox', { name: /^Select / })
      .first()
      .check();
    await fine(page, 'batch, selected');
    await page.getByText('One by one', { exact: true }).click();
    await expect(page.locator('.both .spot canvas')).toHaveCount(2);
    await fine(page, 'batch, one by one');
  });

  test('finds nothing in the way on the bench, section by section, nor in its lists', async ({
    page,
  }) => {
    const bench = new BenchPage(page);
    await bench.open('Brass instruments');
    for (const section of SECTIONS) {
      await bench.openSection(section);
      await bench.resolved();
      await fine(page, section);
    }
    await page.getByRole('button', { name: 'List of changes' }).click();
    await fine(page, 'list of changes');
    await page.keyboard.press('Escape');
    await page.locator('.view').focus();
    await page.keyboard.press('?');
    await expect(page.getByRole('dialog')).toBeVisible();
    await fine(page, 'keys');
    await page.keyboard.press('Escape');
  });

  test('finds nothing in the way in any way to compare, nor in its dialogs', async ({ page }) => {
    const bench = new BenchPage(page);
    await bench.open('Brass instruments');
    await bench.openSection('Compare');
    for (const way of WAYS) {
      await page.locator(`label[for="compare-${way}"]`).click();
      await bench.resolved();
      await fine(page, way);
    }
    await page.getByRole('button', { name: 'Lay a probe' }).click();
    await fine(page, 'probe');
    for (const measure of ['spectrum', 'histogram']) {
      await page.locator(`label[for="measure-${measure}"]`).click();
      await fine(page, measure);
    }
    await page.getByRole('button', { name: 'Mark this place' }).click();
    await expect(page.getByLabel('Note to this mark')).toBeVisible();
    await fine(page, 'a mark');
    await page.getByRole('button', { name: 'Take this mark away' }).click();
    await page.getByRole('button', { name: 'True size' }).click();
    await expect(page.getByRole('dialog')).toBeVisible();
    await fine(page, 'calibration');
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Comparison sheet …' }).click();
    await expect(page.getByRole('dialog')).toBeVisible();
    await fine(page, 'comparison sheet');
  });
});
