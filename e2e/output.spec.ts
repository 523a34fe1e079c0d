import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { expect, test, type Locator } from '@playwright/test';
import sharp from 'sharp';
import { JobView } from '../src/core/shop/job';
import { readPdf } from '../src/server/output/pdf-read';
import { sharedBench } from './bench-page';

const bench = sharedBench(async (on) => {
  await on.open('Programme leaf');
  await on.openSection('Output');
});

const job = async () =>
  JobView.parse(
    await (await bench.page.request.get(`/api/jobs/${bench.page.url().split('/').at(-1)}`)).json(),
  );
const colours = (): Locator => bench.page.getByLabel('Colours', { exact: true });
const format = (name: string) => bench.page.locator(`label[for="format-${name}"]`).click();

test.describe('Output', () => {
  test('shows the result as printed, by the profile that its file will carry', async () => {
    const { page } = bench;
    await bench.zoom('zoom-result-1');
    const at = { x: 100, y: 100, width: 200, height: 200 };
    const plain = await bench.pixels('Trial A', at);
    await colours().selectOption({ label: 'Coated paper, offset (CMYK)' });
    await page.getByLabel('Soft proof: the result as printed').check();
    await bench.resolved();
    await expect(page.locator('.caption.right')).toContainText('as printed: Coated paper, offset');
    await expect(page.locator('.exactness')).toHaveText('as printed');
    const lightest = (rgba: number[]) => Math.max(...rgba.filter((_, i) => i % 4 === 2));
    const printed = await bench.pixels('Trial A', at);
    expect(lightest(printed)).toBeLessThan(lightest(plain));
    // The screen's own picture of it can stand beside.
    const beside = page.getByLabel('Compared with', { exact: true });
    await beside.selectOption({ label: 'Trial A on the screen' });
    await bench.resolved();
    await page.getByLabel('with the paper’s own white').uncheck();
    await bench.resolved();
    const white = await bench.pixels('Trial A', at);
    expect(lightest(white)).toBeGreaterThan(lightest(printed));
    await page.getByLabel('Soft proof: the result as printed').uncheck();
    await bench.resolved();
    expect(await bench.pixels('Trial A', at)).toEqual(plain);
  });

  test('writes a PDF of exactly the ordered paper, with marks and its colours', async () => {
    const { page } = bench;
    await format('pdf');
    await page.getByText('Marks about the print').click();
    await page.getByLabel('Crop marks at the trim').check();
    await page.getByLabel('Slug line: job, trial, size, date').check();
    await page.getByRole('button', { name: 'Fold', exact: true }).click();
    const fold = page.getByLabel('Fold 1', { exact: true });
    await fold.fill('5 cm');
    await fold.press('Enter');
    await expect(fold).toHaveValue('50');
    await expect(page.locator('.ticket')).toHaveAttribute('data-saving', 'false');
    const file = await bench.run(/\.pdf$/);
    const path = test.info().outputPath('leaf.pdf');
    await writeFile(path, file);
    const { width, height, ppi, boxes, profile } = readPdf(path);
    const { recipe } = (await job()).runs[0]!.payload;
    expect({ width, height }).toMatchObject({
      width: recipe.target.width,
      height: recipe.target.height,
    });
    expect(ppi!.x).toBeCloseTo(recipe.target.ppi, 2);
    const inches = (recipe.target.width - 2 * recipe.target.bleed) / recipe.target.ppi;
    expect(boxes.trim.width).toBeCloseTo(inches * 72, 2);
    expect(boxes.media.width).toBeGreaterThan(boxes.bleed.width);
    expect(profile!.length).toBeGreaterThan(100_000);
    await expect(page.locator('.run').first()).toContainText('Coated paper, offset');
  });

  test('refuses what a format does not hold, and keeps what it can', async () => {
    const { page } = bench;
    await format('png');
    await expect(page.locator('.ticket').getByText(/A PNG holds no CMYK/)).toBeVisible();
    await page.getByRole('button', { name: 'Run Trial A' }).click();
    await expect(page.locator('.notices')).toContainText('A PNG holds no CMYK');
    await colours().selectOption('own');
    await expect(page.locator('.ticket').getByText(/A PNG holds no CMYK/)).toHaveCount(0);
  });

  test('names the file by the shop’s pattern, or by hand', async () => {
    const { page } = bench;
    const name = page.getByLabel('File name');
    await expect(name).toHaveValue(/^\d{4}-programme-leaf.*\.png$/);
    await name.fill('Leaf for the door');
    await name.press('Enter');
    await expect(name).toHaveValue('Leaf for the door.png');
    const file = await bench.run(/^Leaf for the door\.png$/);
    const metadata = await sharp(file).metadata();
    expect(metadata.format).toBe('png');
    await page.getByRole('button', { name: 'By pattern' }).click();
    await expect(name).toHaveValue(/^\d{4}-programme-leaf/);
  });

  test('tells what a JPEG’s quality costs this picture', async () => {
    const { page } = bench;
    await format('jpeg');
    await expect(page.getByText(/^At 95: about .* dB, block edges/)).toBeVisible({
      timeout: 60_000,
    });
    const cost = page.locator('.jpeg-cost');
    await expect(cost.getByRole('img', { name: /at quality 95/ })).toBeVisible({ timeout: 30_000 });
    await page.getByRole('slider', { name: 'Quality' }).focus();
    for (let i = 0; i < 20; i++) await page.keyboard.press('ArrowLeft');
    await expect(page.getByText(/^At 75: about/)).toBeVisible();
    await expect(cost.getByRole('img', { name: /at quality 75/ })).toBeVisible();
  });

  test('is approved with its file, and asks anew once something changed', async () => {
    const { page } = bench;
    await format('tiff');
    await bench.resolved();
    await expect(page.getByText(/To approve it, run Trial A first/)).toBeVisible();
    await bench.run(/\.tif$/);
    const group = page.getByRole('group', { name: 'Approval' });
    await expect(group.getByRole('button', { name: 'Approve' })).toBeDisabled();
    await group.getByLabel('Initials').fill('kv');
    await group.getByLabel('Note').fill('for the door');
    await group.getByRole('button', { name: 'Approve' }).click();
    await expect(group).toContainText(/Approved by KV.*Trial A.*not seen at 1:1.*for the door/);
    await expect(page.getByLabel('State of the job')).toHaveValue('approved');
    await page.locator('label[for="depth-16"]').click();
    await expect(group).toContainText('It was changed since');
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(group).not.toContainText('It was changed since');
    await group.getByRole('button', { name: 'Take the approval back' }).click();
    await expect(page.getByLabel('State of the job')).toHaveValue('on the bench');
  });

  test('takes a profile in, and says what is none', async () => {
    const { page } = bench;
    const add = async (name: string, buffer: Buffer) => {
      const [chooser] = await Promise.all([
        page.waitForEvent('filechooser'),
        colours().selectOption('add'),
      ]);
      await chooser.setFiles({ name, mimeType: 'application/octet-stream', buffer });
    };
    await add('notes.icc', Buffer.from('no profile at all'));
    await expect(page.locator('.notices')).toContainText(/notes\.icc can't be used as a profile/);
    const coated = await readFile(join('profiles', 'coated.icc'));
    coated.write('Canvas', coated.indexOf('Coated paper'), 'latin1');
    await add('canvas.icc', coated);
    await expect(colours().locator('option:checked')).toContainText('Canvas');
    await page.goto('/shop/settings');
    const list = page.getByRole('region', { name: 'Colour profiles' });
    await expect(list).toContainText('Canvas');
    await list.getByRole('button', { name: /^Take Canvas/ }).click();
    await expect(list).not.toContainText('Canvas');
  });
});
