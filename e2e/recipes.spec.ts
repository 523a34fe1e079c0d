import { readFile } from 'node:fs/promises';
import AxeBuilder from '@axe-core/playwright';
import { expect, test } from '@playwright/test';
import { z } from 'zod';
import { ListedHouse } from '../src/core/house/house-recipe';
import { readHouseFile } from '../src/core/house/recipe-file';
import { JobView } from '../src/core/shop/job';
import { sharedBench } from './bench-page';

const bench = sharedBench(async (on) => {
  await on.open('Brass instruments');
});

const recipes = async () =>
  z.array(ListedHouse).parse(await (await bench.page.request.get('/api/house')).json());

const seriousIn = async (selector: string) => {
  const { violations } = await new AxeBuilder({ page: bench.page }).include(selector).analyze();
  return violations.filter(({ impact }) => impact === 'serious' || impact === 'critical');
};

/** Opens the menu of the trial on the bench and takes an entry. */
async function fromMenu(entry: string): Promise<void> {
  const { page } = bench;
  await page.getByRole('button', { name: /^More about/ }).click();
  await page.getByRole('button', { name: entry }).click();
}

test.describe('House recipes', () => {
  test('a trial is kept as one, and it is said what of it is left out', async () => {
    const { page } = bench;
    await fromMenu('Keep as a house recipe …');
    const dialog = page.getByRole('dialog');
    await expect(dialog).toContainText('Keep Trial A as a house recipe');
    await expect(dialog.getByRole('button', { name: 'Keep', exact: true })).toBeDisabled();
    await dialog.getByLabel('Name').fill('Instruments');
    await dialog.getByLabel('Note').fill('Brass and glass.');
    expect(await seriousIn('.modal')).toEqual([]);
    await dialog.getByRole('button', { name: 'Keep', exact: true }).click();
    await expect(dialog).toBeHidden();
    const kept = (await recipes()).find(({ name }) => name === 'Instruments');
    expect(kept).toMatchObject({ version: 1, content: { note: 'Brass and glass.' } });
  });

  test('before one is applied it shows what changes, and the worst place both ways', async () => {
    const { page } = bench;
    await fromMenu('By a house recipe …');
    const dialog = page.getByRole('dialog');
    await dialog.getByRole('button', { name: /^Pixel squares/ }).click();
    const changes = dialog.getByRole('table');
    await expect(changes.getByRole('row', { name: /^Enlarge/ })).toContainText('nearest neighbour');
    await expect(changes.getByRole('row', { name: /^Comes to/ })).toContainText(/ppi.*ppi/);
    const spots = dialog.locator('.spot canvas');
    await expect(spots).toHaveCount(2);
    await expect(dialog.locator('.spot[data-busy="true"]')).toHaveCount(0, { timeout: 60_000 });
    const shown = await spots.evaluateAll((canvases) =>
      canvases.map((canvas) => (canvas as HTMLCanvasElement).toDataURL()),
    );
    expect(shown[0]).not.toBe(shown[1]);
    expect(await seriousIn('.modal')).toEqual([]);
    await dialog.getByRole('button', { name: 'Begin a trial by it' }).click();
    await expect(dialog).toBeHidden();
    await bench.resolved();
    await expect(page.getByRole('button', { name: 'Pixel squares', exact: true })).toHaveAttribute(
      'aria-current',
      'true',
    );
    const id = page.url().match(/bench\/(\d+)/)![1];
    const job = JobView.parse(await (await page.request.get(`/api/jobs/${id}`)).json());
    const [first, second] = job.piece.work.trials;
    expect(first!.house).toBeNull();
    expect(second).toMatchObject({ name: 'Pixel squares', house: { version: 1 } });
    const used = (await recipes()).find(({ name }) => name === 'Pixel squares')!;
    expect(used.evidence).toMatchObject({ pictures: 1, changed: 0 });
  });

  test('kept again under its name it is the next version, and undoing forgets its use', async () => {
    const { page } = bench;
    await fromMenu('Keep as a house recipe …');
    const dialog = page.getByRole('dialog');
    await expect(dialog).toContainText('this will be its version 2');
    await dialog.getByLabel(/Written as/).check();
    await dialog.getByRole('button', { name: 'Keep as version 2' }).click();
    await expect(dialog).toBeHidden();
    await page.getByRole('button', { name: 'Undo' }).click();
    await bench.resolved();
    const used = (await recipes()).find(({ name }) => name === 'Pixel squares')!;
    expect(used).toMatchObject({ version: 2, evidence: { pictures: 0 } });
  });

  test('the page lists them, keeps what is changed as versions, and goes back to one', async () => {
    const { page } = bench;
    await page.goto('/recipes');
    await page.getByRole('button', { name: /^Pixel squares/ }).click();
    const sheet = page.getByRole('article');
    await expect(sheet).toContainText('version 2');
    await expect(sheet.getByRole('region', { name: 'Versions' })).toContainText(
      'how it is written',
    );
    await sheet.getByRole('button', { name: 'Take this one again' }).click();
    // The button says which version is next.
    await expect(sheet.getByRole('button', { name: 'Keep as version 4' })).toBeVisible();
    await sheet.getByLabel('Name').fill('Squares');
    await sheet.getByRole('button', { name: 'Keep as version 4' }).click();
    await expect(page.getByRole('button', { name: /^Squares/ })).toBeVisible();
    expect(await seriousIn('.recipes-page')).toEqual([]);
  });

  test('files go out and come in; what is none is refused in words', async () => {
    const { page } = bench;
    await page.getByRole('button', { name: /^Instruments/ }).click();
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Save as a file' }).click(),
    ]);
    expect(download.suggestedFilename()).toBe('instruments.json');
    const text = await readFile(await download.path(), 'utf8');
    expect(readHouseFile(text)).toMatchObject({ ok: true, recipe: { name: 'Instruments' } });
    const input = page.locator('input[type=file]');
    const file = (name: string, content: string) => ({
      ...{ name, mimeType: 'application/json' },
      buffer: Buffer.from(content),
    });
    await input.setInputFiles(file('letter.json', '{"dear":"printers"}'));
    await expect(page.getByText("letter.json can't be used")).toBeVisible();
    const renamed = { ...(JSON.parse(text) as object), name: 'From elsewhere' };
    await input.setInputFiles(file('r.json', JSON.stringify(renamed)));
    await expect(page.getByRole('article', { name: 'From elsewhere' })).toBeVisible();
    await page.getByRole('button', { name: 'Take off the list' }).click();
    await expect(page.getByRole('button', { name: /^From elsewhere/ })).toHaveCount(0);
    await page.getByRole('button', { name: 'Put it back' }).click();
    await expect(page.getByRole('button', { name: /^From elsewhere/ })).toBeVisible();
  });
});
