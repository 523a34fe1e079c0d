import { expect, test, type Page } from '@playwright/test';
import sharp from 'sharp';
import { buildPdf } from '../src/server/testing/pdf';
import { testPixels } from '../src/server/testing/shop';
import { BenchPage } from './bench-page';

const png = (width: number, height: number) => testPixels(width, height).png().toBuffer();

const choose = (page: Page, files: { name: string; buffer: Buffer }[]) =>
  page
    .locator('input[type=file]')
    .first()
    .setInputFiles(files.map((file) => ({ ...file, mimeType: 'application/octet-stream' })));

test.describe('taking in', () => {
  test('several files become a job each, or one job whose pictures change places', async ({
    page,
  }) => {
    await page.goto('/');
    await choose(page, [
      { name: 'first-wing.png', buffer: await png(160, 120) },
      { name: 'second-wing.png', buffer: await png(130, 170) },
    ]);
    const dialog = page.getByRole('dialog');
    await expect(dialog).toContainText('2 new jobs');
    await dialog.getByLabel('Customer').fill('The two wings');
    await dialog.getByRole('button', { name: 'Onto the board' }).click();
    await expect(page.getByRole('row', { name: /first wing/ })).toBeVisible();
    await expect(page.getByRole('row', { name: /second wing/ })).toBeVisible();

    await choose(page, [
      { name: 'third-wing.png', buffer: await png(150, 120) },
      { name: 'first-wing.png', buffer: await png(160, 120) },
    ]);
    await expect(dialog).toContainText('Taken in before; it is stored once.');
    await dialog.locator('label[for="together-all"]').click();
    await dialog.getByLabel('Job', { exact: true }).fill('Both wings');
    await dialog.getByRole('button', { name: 'To the bench' }).click();
    const bench = new BenchPage(page);
    await expect(bench.section('Original')).toContainText('150 × 120');
    await page.getByRole('button', { name: 'first-wing.png' }).click();
    await expect(bench.section('Original')).toContainText('160 × 120');
    await bench.resolved();
  });

  test('a picture is pasted, and one that is cut off says so', async ({ page }) => {
    await page.goto('/');
    await expect(page.getByRole('button', { name: 'New job' })).toBeVisible();
    const whole = await testPixels(300, 240).jpeg({ quality: 85 }).toBuffer();
    const paste = (buffer: Buffer) =>
      page.evaluate(
        (bytes) => {
          const data = new DataTransfer();
          data.items.add(new File([new Uint8Array(bytes)], 'image.jpg', { type: 'image/jpeg' }));
          dispatchEvent(new ClipboardEvent('paste', { clipboardData: data }));
        },
        [...buffer],
      );
    const dialog = page.getByRole('dialog');
    // The page shows before it listens.
    await expect(async () => {
      await paste(whole);
      await expect(dialog).toBeVisible({ timeout: 4000 });
    }).toPass();
    await expect(dialog).toContainText(/pasted-[\d-]+\.jpg/);
    await expect(dialog).toContainText('300 × 240');
    await dialog.getByRole('button', { name: 'Cancel' }).click();
    await paste(whole.subarray(0, whole.length * 0.6));
    await expect(dialog.getByRole('alert')).toContainText('cut off or damaged');
    await dialog.getByRole('button', { name: 'To the bench' }).click();
    const bench = new BenchPage(page);
    await expect(page.locator('.field-trouble')).toContainText('of the');
    await expect(page.locator('.field-trouble')).toContainText('picture is missing');
    await bench.openSection('Size');
    await expect(page.locator('.verdict')).toContainText('A part of the file is missing');
  });

  test('of a document the page is chosen, and changed on the bench', async ({ page }) => {
    const sheet = (grey: number) => ({
      width: 300,
      height: 200,
      content: `${grey} g 0 0 300 200 re f 1 0 0 rg 20 20 60 60 re f`,
    });
    await page.goto('/');
    await choose(page, [
      {
        name: 'leaves.pdf',
        buffer: buildPdf([sheet(0.9), { ...sheet(0.2), width: 400 }, sheet(0.5)]),
      },
    ]);
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('Page').fill('2');
    await dialog.getByRole('button', { name: 'To the bench' }).click();
    const bench = new BenchPage(page);
    await expect(bench.section('Original')).toContainText('141 × 71 mm · PDF, shapes');
    await expect(bench.section('Clean')).toContainText('nothing to do');
    await bench.resolved();
    const [dark] = await bench.pixels('Trial A', { x: 466, y: 300, width: 1, height: 1 });
    expect(dark).toBe(51);
    await page.getByLabel('Page, of 3').fill('3');
    await page.getByLabel('Page, of 3').press('Enter');
    await expect(bench.section('Original')).toContainText('106 × 71 mm');
    await bench.resolved();
    expect((await bench.pixels('Trial A', { x: 466, y: 300, width: 1, height: 1 }))[0]).toBe(128);
  });

  test('jobs leave for the archive by a key, and come back', async ({ page }) => {
    await page.goto('/');
    const row = page.getByRole('row', { name: /Brass instruments/ });
    await row.focus();
    await page.keyboard.press('a');
    await expect(row).toBeHidden();
    await page.getByRole('button', { name: /^Archive/ }).click();
    await expect(page.getByRole('heading', { name: 'In the archive' })).toBeVisible();
    await row.focus();
    await page.keyboard.press('a');
    await page.getByRole('button', { name: 'Back to the board' }).click();
    await expect(row).toBeVisible();
    // Arrow keys go along the rack.
    await page.getByRole('row', { name: /Dome at dusk/ }).focus();
    await page.keyboard.press('ArrowDown');
    await expect(page.getByRole('row', { name: /Enamel badge/ })).toBeFocused();
  });
});

test.describe('sizing on the picture', () => {
  test('the paper is dragged by a corner and a side, with its figures, and undone', async ({
    page,
  }) => {
    const bench = new BenchPage(page);
    await bench.open('long telescope');
    await bench.openSection('Size');
    await bench.resolved();
    const caption = page.locator('.laid-caption');
    await expect(caption).toContainText('100 × 75 cm');
    await expect(caption).toContainText('23 ppi');
    const drag = async (words: string, dx: number, dy: number) => {
      const box = (await page.getByTitle(words).boundingBox())!;
      await page.mouse.move(box.x, box.y);
      await page.mouse.down();
      await page.mouse.move(box.x + dx / 2, box.y + dy / 2);
      await page.mouse.move(box.x + dx, box.y + dy);
      await page.mouse.up();
    };
    await drag('lower right corner', -400, -300);
    await expect(caption).toContainText('100 × 75 cm');
    await expect(caption).toContainText(/1[0-3] ppi/);
    await drag('right side', 120, 0);
    await expect(caption).toContainText(/12\d(\.\d)? × 75 cm/);
    await page.locator('.laid').focus();
    await page.keyboard.press('ArrowLeft');
    await page.getByRole('button', { name: 'List of changes' }).click();
    await expect(page.locator('.dropdown-menu.show')).toContainText('A larger or smaller part');
    await expect(page.locator('.dropdown-menu.show')).toContainText('Longer or shorter paper');
    await page.getByRole('button', { name: /Proposed first trial/ }).click();
    await expect(caption).toContainText('23 ppi');
  });

  test('a part is taken by numbers, turned and straightened, and the original stays whole', async ({
    page,
  }) => {
    const bench = new BenchPage(page);
    await bench.open('Brass instruments');
    await page.getByText('Turn, straighten, crop').click();
    await page.getByRole('button', { name: 'Crop', exact: true }).click();
    for (const [label, value] of [
      ['Width, px', '400'],
      ['Height, px', '300'],
      ['Left, px', '90'],
    ] as const) {
      await page.getByLabel(label).fill(value);
      await page.getByLabel(label).press('Enter');
    }
    await expect(page.locator('.laid-caption')).toContainText('400 × 300 px');
    await page.getByRole('button', { name: 'Right', exact: true }).click();
    await expect(page.locator('.laid-caption')).toContainText('300 × 400 px');
    await page.getByLabel('Straighten, figure').fill('5');
    await page.getByLabel('Straighten, figure').press('Enter');
    await expect(bench.section('Original')).toContainText('800 × 533');
    await bench.resolved();
    await page.getByLabel('Width, px').fill('9000');
    await page.getByLabel('Width, px').press('Enter');
    await expect(page.locator('.field-trouble')).toContainText('From 1 to');
  });

  test('only the size tag: every pixel of the file is the original’s', async ({ page }) => {
    await page.goto('/');
    const original = await png(240, 160);
    await choose(page, [{ name: 'tagged.png', buffer: original }]);
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('Print size').fill('20 cm');
    await dialog.getByRole('button', { name: 'To the bench' }).click();
    const bench = new BenchPage(page);
    await bench.openSection('Size');
    await page.locator('label[for="pixels-kept"]').click();
    await expect(bench.section('Size')).toContainText('tag only');
    const file = await bench.run(/\.tif/);
    expect((await sharp(file).metadata()).density).toBe(30);
    const expected = await sharp(original).raw().toBuffer();
    expect((await sharp(file).raw().toBuffer()).equals(expected)).toBe(true);
  });

  test('repeated pixels are taken back to their grid', async ({ page }) => {
    const bench = new BenchPage(page);
    await bench.open('Symbol from the control screen');
    await expect(page.locator('.offer')).toContainText('24 × 24');
    await page.getByRole('button', { name: 'Back to its true grid' }).click();
    await expect(bench.section('Clean')).toContainText('nothing to do');
    await bench.zoom('zoom-original-16');
    await expect(page.getByRole('button', { name: 'Keep the repeated pixels' })).toBeVisible();
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(page.getByRole('button', { name: 'Back to its true grid' })).toBeVisible();
  });

  test('shapes are drawn fresh: what the stage shows at 1:1 stands in the file', async ({
    page,
  }) => {
    const bench = new BenchPage(page);
    await bench.open('Banner over the gate$');
    await expect(bench.section('Enlarge')).toContainText('nothing to do');
    await bench.openSection('Size');
    await page.getByLabel('Resolution', { exact: true }).fill('40');
    await page.getByLabel('Resolution', { exact: true }).press('Enter');
    await bench.openSection('Output');
    await bench.zoom('zoom-result-1');
    await expect(page.getByText('exact pixels')).toBeVisible();
    const at = { x: 120, y: 90, width: 200, height: 150 };
    const seen = await bench.pixels('Trial A', at);
    const { width, height } = await bench.canvas('Trial A').evaluate((canvas) => ({
      width: (canvas as HTMLCanvasElement).width,
      height: (canvas as HTMLCanvasElement).height,
    }));
    const file = await bench.run(/\.tif/);
    expect(await sharp(file).metadata()).toMatchObject({ width: 4724, height: 1575, density: 40 });
    const left = -Math.round(width / 2 - 2362);
    const top = -Math.round(height / 2 - 787.5);
    const written = await sharp(file)
      .extract({ left: left + at.x, top: top + at.y, width: at.width, height: at.height })
      .ensureAlpha()
      .raw()
      .toBuffer();
    expect(Buffer.from(seen).equals(written)).toBe(true);
  });
});
