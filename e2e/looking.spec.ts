import { expect, test } from '@playwright/test';
import { BenchPage } from './bench-page';

test.describe('the board', () => {
  test('is searched, filtered, sorted and walked by keyboard', async ({ page }) => {
    await page.goto('/');
    const rows = page.locator('.jobs tbody tr');
    await expect(rows.first()).toBeVisible();
    const all = await rows.count();
    await page.keyboard.press('/');
    await page.keyboard.type('badge');
    await expect(rows).toHaveCount(1);
    await expect(rows.first()).toContainText('5.4 ppi');
    await page.getByLabel('Search job or customer').fill('');
    await expect(rows).toHaveCount(all);
    await page.getByRole('button', { name: /^Received/ }).click();
    await expect(rows.filter({ hasText: 'Dome at dusk' })).toHaveCount(0);
    await page.getByRole('button', { name: /^All/ }).click();
    await page.getByRole('button', { name: 'Effective resolution' }).click();
    await expect(page.getByRole('columnheader', { name: /Effective resolution/ })).toHaveAttribute(
      'aria-sort',
      /ending/,
    );
    await rows.filter({ hasText: 'Star chart' }).focus();
    await page.keyboard.press('Enter');
    await expect(page.getByRole('heading', { name: 'Star chart, reading room' })).toBeVisible();
  });

  test('shows how far a job has come', async ({ page }) => {
    const bench = new BenchPage(page);
    await bench.open('Symbol from the control screen');
    await page.getByLabel('State of the job').selectOption('approved');
    await page.getByRole('link', { name: 'Board' }).click();
    const row = page.getByRole('row', { name: /Symbol from the control screen/ });
    await expect(row.locator('.state')).toHaveText('approved');
  });

  test('asks again for what a new job needs', async ({ page }) => {
    await page.goto('/');
    await page.locator('input[type=file]').setInputFiles('demo/originals/control-symbol.png');
    const dialog = page.getByRole('dialog');
    await expect(dialog).toContainText('Taken in before; it is stored once');
    await dialog.getByLabel('Print size').fill('wide');
    await dialog.getByLabel('Job', { exact: true }).fill('');
    await dialog.getByRole('button', { name: 'To the bench' }).click();
    await expect(dialog).toContainText('“wide” is neither a number nor a unit.');
    await expect(dialog).toContainText('The job needs a name.');
    await dialog.getByRole('button', { name: 'Cancel' }).click();
    await expect(dialog).toHaveCount(0);
  });
});

test.describe('looking', () => {
  test('zooms and moves by keys and wheel, and says what is exact', async ({ page }) => {
    const bench = new BenchPage(page);
    await bench.open('Dome at dusk');
    const status = page.getByRole('status');
    await expect(status).toContainText('small');
    await page.keyboard.press('1');
    await expect(status).toHaveText('exact pixels');
    const view = page.locator('.view');
    const pane = page.getByRole('img', { name: 'Trial A' });
    const before = await pane.screenshot();
    await view.focus();
    await page.keyboard.press('ArrowRight');
    await bench.resolved();
    expect(Buffer.compare(before, await pane.screenshot())).not.toBe(0);
    await page.keyboard.press('-');
    await expect(status).toContainText('small');
    await page.keyboard.press('0');
    await expect(page.locator('#zoom-fit')).toBeChecked();
    await view.hover({ position: { x: 500, y: 300 } });
    await page.mouse.wheel(0, -120);
    await expect(page.locator('#zoom-fit')).not.toBeChecked();
    await expect(page.locator('.map')).toBeVisible();
    await page.keyboard.press('w');
    await expect(page.getByRole('slider', { name: /Divider/ })).toHaveCount(0);
    await expect(page.getByRole('img')).toHaveCount(2);
    // Back by the divider to the last of all ways.
    await page.keyboard.press('Shift+W');
    await page.keyboard.press('Shift+W');
    await bench.resolved();
    await expect(page.getByRole('img')).toHaveCount(1);
  });

  test('keeps both sides on the same place of the paper', async ({ page }) => {
    const bench = new BenchPage(page);
    await bench.open('Symbol from the control screen');
    await bench.openSection('Enlarge');
    await page.getByRole('radio', { name: /Nearest/ }).click();
    await bench.openSection('Finish');
    await page.getByLabel('Unsharp mask on').uncheck();
    await bench.zoom('zoom-result-1');
    // Without any treatment both sides hold the same pixels in the same place.
    const pixels = (name: string) =>
      bench.canvas(name).evaluate((canvas) => {
        const { width, height } = canvas as HTMLCanvasElement;
        const context = (canvas as HTMLCanvasElement).getContext('2d')!;
        return [...context.getImageData(width / 2 - 60, height / 2 - 60, 120, 120).data];
      });
    expect(await pixels('Trial A')).toEqual(await pixels('The original'));
  });

  test('drags the viewer nearer, and the verdict follows', async ({ page }) => {
    const bench = new BenchPage(page);
    await bench.open('Star chart');
    await bench.openSection('Size');
    await expect(page.locator('.verdict')).toContainText('Seen from 5 m');
    const figure = page.getByRole('slider', { name: 'Viewing distance in metres' });
    await figure.fill('1');
    await expect(page.locator('.verdict')).toContainText(
      'Seen from 1 m, 175 ppi are needed, twice as many',
    );
    await figure.blur();
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(page.locator('.verdict')).toContainText('Seen from 5 m');
  });

  test('opens a section at its beginning, however far the one before was scrolled', async ({
    page,
  }) => {
    const bench = new BenchPage(page);
    await bench.open('Dome at dusk');
    await page.getByText('Turn, straighten, crop').click();
    await page.locator('.ticket-sections').evaluate((ticket) => ticket.scrollTo(0, 9999));
    await page.keyboard.press('Alt+2');
    await expect(page.getByLabel('Width', { exact: true })).toBeInViewport();
    await expect(bench.section('Size')).toBeInViewport();
  });

  test('answers while a size is typed, and forgets it with Escape', async ({ page }) => {
    const bench = new BenchPage(page);
    await bench.open('Dome at dusk');
    await bench.openSection('Size');
    const width = page.getByLabel('Width', { exact: true });
    const height = page.getByLabel('Height', { exact: true });
    await width.fill('45');
    await expect(height).toHaveValue('30');
    await expect(page.locator('.verdict')).toContainText('at 45 x 30 cm: 41 ppi');
    await expect(width).toHaveValue('45');
    await width.press('Escape');
    await expect(width).toHaveValue('120');
    await expect(height).toHaveValue('80');
    await width.fill('180 mm');
    await expect(height).toHaveValue('120');
    await width.press('Enter');
    await expect(page.locator('.verdict')).toContainText('at 18 x 12 cm');
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(width).toHaveValue('120');
  });

  test('says at the field what is wrong with a size, and keeps what was there', async ({
    page,
  }) => {
    const bench = new BenchPage(page);
    await bench.open('Enamel badge');
    await bench.openSection('Size');
    const width = page.getByLabel('Width', { exact: true });
    for (const [wrong, words] of [
      ['0', 'It must be more than 0.'],
      ['-3', 'It must be more than 0.'],
      ['wide', '“wide” is neither a number nor a unit.'],
      ['1e9', '“e9” is neither a number nor a unit.'],
    ] as const) {
      await width.fill(wrong);
      await width.press('Enter');
      await expect(page.locator('.field-trouble')).toHaveText(words);
    }
    await width.press('Escape');
    await expect(width).toHaveValue('60');
    await width.fill('900 m');
    await width.press('Enter');
    await expect(page.locator('.stage-message')).toContainText('more than Lontano makes');
    await expect(page.getByRole('button', { name: 'Run Trial A' })).toBeDisabled();
    await page.keyboard.press('Tab');
    await page.locator('.view').focus();
    await page.keyboard.press('Control+z');
    await expect(page.getByRole('button', { name: 'Run Trial A' })).toBeEnabled();
    await page.keyboard.press('?');
    await expect(page.getByRole('dialog')).toContainText('show the original');
  });

  test('fits small and large windows without scrolling the page', async ({ page }) => {
    const bench = new BenchPage(page);
    for (const viewport of [
      { width: 1024, height: 700 },
      { width: 1280, height: 800 },
      { width: 2560, height: 1300 },
    ]) {
      await page.setViewportSize(viewport);
      await bench.open('Dome at dusk');
      await bench.openSection('Size');
      const overflow = await page.evaluate(() => ({
        x: document.documentElement.scrollWidth - innerWidth,
        y: document.documentElement.scrollHeight - innerHeight,
        ticket:
          document.querySelector('.ticket-sections')!.scrollWidth -
          document.querySelector('.ticket-sections')!.clientWidth,
      }));
      expect(overflow).toEqual({ x: 0, y: 0, ticket: 0 });
    }
  });
});
