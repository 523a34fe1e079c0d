import { mkdtemp, readdir, readFile, rm, stat, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import sharp from 'sharp';
import yauzl from 'yauzl';
import { z } from 'zod';
import { BatchHead, ItemsNews, type BatchItem } from '../src/core/batch/batch';

let page: Page;
let folder: string;
let files: string[];
let id: number;

/** A customer's files: crops of the demo's pictures, one of them twice, one cut off, and a letter. */
async function customersFiles(): Promise<string[]> {
  const dome = sharp('demo/originals/dome-at-dusk.jpg');
  const put = async (name: string, bytes: Buffer | string) => {
    await writeFile(join(folder, name), bytes);
    return join(folder, name);
  };
  const crop = (left: number, width = 120) =>
    dome.clone().extract({ left, top: 180, width, height: 90 }).jpeg({ quality: 70 }).toBuffer();
  const first = await crop(0);
  return Promise.all([
    put('east.jpg', first),
    put('west.jpg', await crop(200)),
    put('north.jpg', await crop(400, 60)),
    put('east-again.jpg', first),
    put('cut.jpg', (await crop(300, 240)).subarray(0, 200)),
    put('letter.txt', 'Please print these.'),
  ]);
}

test.beforeAll(async ({ browser }) => {
  folder = await mkdtemp(join(tmpdir(), 'lontano-e2e-'));
  files = await customersFiles();
  page = await (await browser.newContext()).newPage();
});
test.afterAll(async () => {
  await page.context().close();
  await rm(folder, { recursive: true, force: true });
});
test.describe.configure({ mode: 'serial' });

const head = async () =>
  BatchHead.parse(await (await page.request.get(`/api/batches/${id}`)).json());
const items = async (): Promise<BatchItem[]> =>
  ItemsNews.parse(await (await page.request.get(`/api/batches/${id}/items`)).json()).rows.sort(
    (a, b) => a.position - b.position,
  );
const rows = () => page.locator('.jobs tbody tr[data-index]');
const row = (name: string) => page.getByRole('row', { name });
const made = () => expect.poll(async () => (await head()).state, { timeout: 120_000 }).toBe('done');

test.describe('Many files at once', () => {
  test('are taken in and planned by one rule; those that are none are answered for', async () => {
    await page.goto('/batches');
    await page.locator('input[aria-label="Files"]').setInputFiles(files);
    const dialog = page.getByRole('dialog');
    await expect(dialog).toContainText('6 files');
    // What is not understood is said at its field, and nothing is begun.
    await dialog.getByLabel('How much').fill('wide');
    await dialog.getByRole('button', { name: 'Take in 6 files' }).click();
    await expect(dialog.getByRole('alert')).toContainText('“wide” is neither a number nor a unit');
    await dialog.getByLabel('How much').fill('12');
    await dialog.getByLabel('Batch', { exact: true }).fill('Wings');
    await dialog.getByLabel('Treated').selectOption('as is proposed for each');
    await dialog.getByLabel('File', { exact: true }).selectOption('PNG');
    await dialog.getByRole('button', { name: 'Take in 6 files' }).click();
    await page.waitForURL(/batches\/\d+$/);
    id = Number(page.url().split('/').at(-1));
    await expect(page.getByRole('button', { name: 'Not taken in 3' })).toBeVisible({
      timeout: 60_000,
    });
    await expect(rows()).toHaveCount(3);
    await expect(row('north.jpg')).toContainText('8 × 12 cm');
    await expect(row('east.jpg')).toContainText('12 × 9 cm');
    await page.getByRole('button', { name: 'Not taken in 3' }).click();
    const refused = page.getByRole('list', { name: 'Files that were not taken in' });
    await expect(refused).toContainText('The same picture is in the batch already');
    await expect(refused).toContainText(/letter\.txt.*not a picture/);
    await page.getByRole('button', { name: 'All 3' }).click();
  });

  test('are changed in a cell, and by selection, and all is taken back', async () => {
    await page.getByRole('button', { name: 'west.jpg: ppi, 160: change' }).click();
    await page.getByRole('textbox', { name: 'west.jpg: ppi' }).fill('many');
    await expect(page.getByRole('textbox', { name: 'west.jpg: ppi' })).toHaveAttribute(
      'aria-invalid',
      'true',
    );
    await page.getByRole('textbox', { name: 'west.jpg: ppi' }).fill('200');
    await page.keyboard.press('Enter');
    await expect
      .poll(async () => (await items()).map(({ facts }) => facts.ppi))
      .toEqual([160, 200, 160]);
    await row('east.jpg').focus();
    await page.keyboard.press('Space');
    await page.keyboard.press('Shift+ArrowDown');
    await expect(page.getByRole('toolbar')).toContainText('2 selected');
    await page.getByRole('button', { name: /^west\.jpg: treated by/ }).click();
    await page
      .getByRole('combobox', { name: 'west.jpg: treated by' })
      .selectOption('Pixel squares');
    const treated = async () => (await items()).map(({ facts }) => facts.house?.name ?? null);
    await expect.poll(treated).toEqual(['Pixel squares', 'Pixel squares', null]);
    await page.getByRole('button', { name: 'Take it back' }).click();
    await expect.poll(treated).toEqual([null, null, null]);
    await page.getByRole('button', { name: 'Change …' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('Size').selectOption('Two sides');
    await dialog.getByLabel('How much').fill('6x4');
    await dialog.getByLabel('Other shapes').selectOption('whole, with margins');
    await dialog.getByRole('button', { name: 'Change', exact: true }).click();
    await expect(row('west.jpg')).toContainText('6 × 4 cm');
    await expect(row('north.jpg')).toContainText('8 × 12 cm');
    await page.keyboard.press('Escape');
    await expect(page.getByRole('toolbar')).toBeHidden();
    // Dashes lie between rows only where the names of columns stand in one line.
    const [head, named] = await page.locator('.jobs thead').evaluate((element) => {
      const style = getComputedStyle(element.closest('.jobs')!);
      return [element.getBoundingClientRect().height, parseFloat(style.getPropertyValue('--head'))];
    });
    expect(head).toBeCloseTo(named!, 0);
    // A column is changed as a whole, and nothing but it is asked for.
    await page
      .getByRole('button', { name: 'Change the file of all that are shown' })
      .press('Enter');
    await expect(dialog).toContainText('Change 3 pictures');
    await expect(dialog.getByLabel('Size')).toHaveCount(0);
    await dialog.getByLabel('File', { exact: true }).selectOption('JPEG');
    await dialog.getByLabel('Quality').fill('71');
    await dialog.getByLabel('Quality').press('Enter');
    const files = async () =>
      new Set((await items()).map(({ facts: { file } }) => `${file.format} ${file.quality}`));
    await expect.poll(files).toEqual(new Set(['jpeg 71']));
    await page.getByRole('button', { name: 'Take it back' }).click();
    await expect.poll(async () => [...(await files())].join()).toMatch(/^png/);
  });

  test('are made, and fetched in one ZIP whose pictures are the files’', async () => {
    await page.getByRole('button', { name: 'Make all' }).click();
    await made();
    await expect(page.getByRole('button', { name: 'Made 3' })).toBeVisible();
    const download = page.waitForEvent('download');
    await page.getByRole('link', { name: 'Fetch 3' }).click();
    const path = join(folder, 'wings.zip');
    const file = await download;
    expect(file.suggestedFilename()).toBe('Wings.zip');
    await file.saveAs(path);
    const zip = await yauzl.openPromise(path, { lazyEntries: true });
    const inside: string[] = [];
    for await (const entry of zip.eachEntry()) inside.push(entry.fileName);
    zip.close();
    expect(inside.sort()).toEqual(
      ['batch.csv', 'east-6x4cm.png', 'north-12cm.png', 'west-6x4cm.png'].sort(),
    );
    // A browser shows how far it is.
    const head = await page.request.head(file.url());
    expect(head.headers()['content-length']).toBe(String((await stat(path)).size));
  });

  test('are looked through at 1:1 by keys, and judged by one', async () => {
    await row('east.jpg').focus();
    await page.keyboard.press('Enter');
    const spots = page.locator('.both .spot canvas');
    await expect(spots).toHaveCount(2);
    await expect(page.locator('.both .spot[data-busy="true"]')).toHaveCount(0);
    await page.keyboard.press('g');
    await expect(page.locator('.look-through header')).toContainText('west.jpg');
    await page.keyboard.press('b');
    await expect(page.locator('.look-through header')).toContainText('north.jpg');
    await page.keyboard.press('ArrowLeft');
    await expect(page.getByRole('button', { name: /^To the bench B/ })).toHaveAttribute(
      'aria-pressed',
      'true',
    );
    expect((await items()).map(({ judgement }) => judgement)).toEqual([
      'good',
      'to the bench',
      null,
    ]);
    await page.getByRole('button', { name: 'To the bench 1' }).click();
    await page.keyboard.press('Escape');
    await expect(rows()).toHaveCount(1);
  });

  test('one that is changed on the bench is made anew, alone', async () => {
    await row('west.jpg').focus();
    await page.keyboard.press('Enter');
    await page.getByRole('link', { name: 'Open it' }).click();
    await page.waitForURL(/bench\/\d+/);
    await expect(page.locator('.ticket')).toContainText('west.jpg');
    const before = (await items()).map(({ task }) => task);
    const [, west] = await items();
    const piece = z
      .object({ revision: z.int() })
      .parse(await (await page.request.get(`/api/pieces/${west!.piece}`)).json());
    const patch = [{ op: 'replace', path: '/trials/0/ppi', value: 220 }];
    const changed = await page.request.post(`/api/pieces/${west!.piece}/changes`, {
      data: { revision: piece.revision, label: '220 ppi', patch },
    });
    expect(changed.ok()).toBe(true);
    await page.goto(`/batches/${id}`);
    await expect(row('west.jpg')).toContainText('changed since');
    await page.getByRole('button', { name: 'Go on' }).click();
    await made();
    const after = (await items()).map(({ task }) => task);
    expect(after.map((task, i) => task === before[i])).toEqual([true, false, true]);
  });

  test('go into a folder that the server names', async () => {
    await page.getByRole('button', { name: 'More about this batch' }).click();
    await page.getByRole('button', { name: 'Name and where results go' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('Results go').selectOption('into “Print files”');
    await dialog.getByRole('button', { name: 'Keep' }).click();
    await expect
      .poll(async () => (await items()).every(({ delivered }) => delivered !== null))
      .toBe(true);
    const there = await readdir('var/e2e/print-files').catch(() => null);
    // A server elsewhere has its folder elsewhere.
    if (there) {
      for (const { delivered } of await items()) expect(there).toContain(delivered);
      expect(
        (await readFile(join('var/e2e/print-files', 'east-6x4cm.png'))).length,
      ).toBeGreaterThan(500);
    }
  });

  test('leave the batch and come back; a batch is deleted and put back', async () => {
    await row('north.jpg').focus();
    await page.keyboard.press('Delete');
    await expect(rows()).toHaveCount(2);
    await page.getByRole('button', { name: 'Take it back' }).click();
    await expect(rows()).toHaveCount(3);
    await page.getByRole('button', { name: 'More about this batch' }).click();
    await page.getByRole('button', { name: 'Delete the batch' }).click();
    await page.waitForURL(/batches$/);
    await expect(page.getByRole('link', { name: /Wings/ })).toBeHidden();
    await page.getByRole('button', { name: 'Put it back' }).click();
    await page.getByRole('link', { name: /Wings/ }).click();
    await expect(rows()).toHaveCount(3);
  });

  test('jobs of the board become a batch that keeps what is decided about each', async () => {
    await page.goto('/');
    await page.getByRole('searchbox').fill('Wings');
    await expect(rows()).toHaveCount(1);
    await rows().first().focus();
    await page.keyboard.press('Space');
    await page.getByRole('button', { name: 'Into a batch …' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('Batch', { exact: true }).fill('Wings once more');
    await dialog.getByRole('button', { name: 'To the batch' }).click();
    await page.waitForURL(/batches\/\d+$/);
    await expect(rows()).toHaveCount(3);
    await expect(row('west.jpg')).toContainText('6 × 4 cm');
    await expect(row('west.jpg')).toContainText('220');
  });
});
