import { expect, test } from '@playwright/test';
import { sharedBench } from './bench-page';

const bench = sharedBench();

const way = async (name: string) => {
  await bench.page.locator(`label[for="compare-${name}"]`).click();
  await bench.resolved();
};
/** Most and least of what a part of a pane shows, alpha aside. */
async function rangeIn(name: string, at: { x: number; y: number; width: number; height: number }) {
  const levels = (await bench.pixels(name, at)).filter((_, i) => i % 4 !== 3);
  return [Math.min(...levels), Math.max(...levels)];
}
const PART = { x: 300, y: 200, width: 200, height: 150 };

test.describe('Compare', () => {
  test('shows four on the same place, each by its name, and what one chooses', async () => {
    const { page } = bench;
    await bench.open('Brass instruments');
    await bench.openSection('Compare');
    await bench.zoom('zoom-result-1');
    await way('grid');
    await expect(page.locator('.pane canvas')).toHaveCount(4);
    await expect(page.getByLabel('Compared with', { exact: true })).toHaveValue('original');
    const third = page.getByLabel('Compared with, pane 3');
    await third.selectOption({ label: 'Trial A after enlarging' });
    await bench.resolved();
    await expect(page.getByRole('img', { name: 'Trial A after enlarging' })).toBeVisible();
    // Held, the first of them shows alone.
    await page.locator('.view').focus();
    await page.keyboard.down('o');
    await expect(page.locator('.view > .caption')).toHaveCount(1);
    await expect(page.locator('.view > .caption')).toContainText('Original');
    await page.keyboard.up('o');
    await expect(page.locator('.pane canvas')).toHaveCount(4);
    // What was chosen stays where another way of looking has fewer panes.
    await way('wipe');
    await way('grid');
    await expect(third.locator('option:checked')).toHaveText('Trial A after enlarging');
  });

  test('wipes level too, and moves the divider by keys', async () => {
    const { page } = bench;
    await way('wipe');
    await page.locator('.view').focus();
    await page.keyboard.press('l');
    const divider = page.getByRole('slider', { name: /^Divider/ });
    await expect(divider).toHaveAttribute('aria-orientation', 'vertical');
    await divider.focus();
    const before = Number(await divider.getAttribute('aria-valuenow'));
    await page.keyboard.press('Shift+ArrowDown');
    await expect(divider).toHaveAttribute('aria-valuenow', String(before + 10));
    await page.keyboard.press('Home');
    await expect(divider).toHaveAttribute('aria-valuenow', '2');
    await page.keyboard.press('l');
    await expect(divider).toHaveAttribute('aria-orientation', 'horizontal');
  });

  test('carries a window by mouse and keys', async () => {
    const { page } = bench;
    await way('window');
    const rim = page.getByLabel(/^Place of the window/);
    const at = async () => (await rim.boundingBox())!;
    const before = await at();
    await rim.focus();
    await page.keyboard.press('ArrowRight');
    await expect.poll(async () => (await at()).x).toBeGreaterThan(before.x + 5);
    await page.mouse.move(before.x + 100, before.y + 100);
    await page.mouse.down();
    await page.mouse.move(before.x + 180, before.y + 140, { steps: 5 });
    await page.mouse.up();
    await expect.poll(async () => (await at()).y).toBeGreaterThan(before.y + 20);
    await page.getByLabel(/^Size of the window/).focus();
    const { width } = await at();
    await page.keyboard.press('Shift+ArrowLeft');
    await expect.poll(async () => (await at()).width).toBeLessThan(width - 20);
    await page.getByRole('button', { name: 'The other way round' }).click();
    await expect(page.locator('.in-window .caption')).toContainText('Original');
  });

  test('blinks by a key, in the same place', async () => {
    const { page } = bench;
    await page.locator('.view').focus();
    await page.keyboard.press('v');
    await bench.resolved();
    const shown = page.locator('.view > .caption').first();
    await expect(shown).toContainText('Trial A');
    await page.keyboard.press('v');
    await expect(shown).toContainText('pixels as they print');
    await page.keyboard.press('v');
    await expect(shown).toContainText('Trial A');
  });

  test('subtracts: nothing between equals, and what a step did otherwise', async () => {
    const { page } = bench;
    await page.getByRole('button', { name: 'Branch this trial' }).click();
    await way('difference');
    await expect(page.getByLabel('Compared with').locator('option:checked')).toHaveText('Trial A');
    await expect(bench.canvas('Difference of Trial B')).toBeVisible();
    await bench.resolved();
    // Middle grey is between two levels.
    expect(await rangeIn('Difference of Trial B', PART)).toEqual([128, 128]);
    await page.getByLabel('How differences are shown').selectOption({ label: '× 32' });
    await bench.resolved();
    expect(await rangeIn('Difference of Trial B', PART)).toEqual([0, 0]);
    await page.getByLabel('Compared with').selectOption({ label: 'Trial B after enlarging' });
    await bench.resolved();
    const [least, most] = await rangeIn('Difference of Trial B', PART);
    expect(least).toBe(0);
    expect(most).toBeGreaterThan(30);
    // Whoever looks elsewhere sees no picture under the name of a difference, not even coarsely.
    await page.waitForTimeout(2500);
    await expect(page.getByRole('img', { name: /^Difference of/ })).not.toHaveAttribute(
      'data-coarse',
    );
    // Its largest places are stops: of what is subtracted, not of other trials.
    const apart = page.locator('.stop').filter({ hasText: 'differ most' });
    await expect(apart.first()).toBeVisible({ timeout: 60_000 });
    await expect(apart.first()).toHaveAttribute('title', /^Trial B and Trial B after enlarging/);
  });

  test('measures trials beside their original, and says how they differ', async () => {
    const { page } = bench;
    await bench.openSection('Enlarge');
    await page.getByRole('radio', { name: /^Bilinear/ }).click();
    await bench.openSection('Compare');
    const table = page.locator('.evidence table');
    const row = (name: string) => table.getByRole('row', { name: new RegExp(`^${name}`) });
    await expect(row('Edges rise in').getByRole('cell').nth(2)).toHaveText(/^\d/, {
      timeout: 120_000,
    });
    await expect(row('Edges rise in').getByRole('cell').nth(3)).toHaveText(/^\d/, {
      timeout: 120_000,
    });
    await expect(row('Reduced back')).toContainText('more');
    await expect(page.getByText(/^Trial B beside Trial A: .*edges/)).toBeVisible();
  });

  test('reads the place and every pane’s colour under the pointer', async () => {
    const { page } = bench;
    await way('side by side');
    const stage = (await page.locator('.view').boundingBox())!;
    await page.mouse.move(stage.x + 200, stage.y + 300);
    await page.mouse.move(stage.x + 210, stage.y + 300);
    const readout = page.locator('.readout');
    await expect(readout).toContainText(/[\d.]+ × [\d.]+ mm/);
    await expect(readout.locator('b')).toHaveCount(2);
    const [r, g, b] = await bench.pixel('Trial B', 210, 300);
    await expect(readout.locator('b').last()).toHaveText(
      [r, g, b].map((level) => String(level).padStart(3, '\u2007')).join(' '),
    );
  });
});
