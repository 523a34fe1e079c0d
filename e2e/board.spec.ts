import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';
import { testPaper } from '../src/core/testing';
import { BoardPage } from '../src/core/shop/board';
import { TakenIn } from '../src/core/shop/job';
import { readFile } from 'node:fs/promises';

let page: Page;

/** Jobs that no other test works on, of a customer of their own. */
test.beforeAll(async ({ browser }) => {
  page = await (await browser.newContext()).newPage();
  const answer = await page.request.post('/api/originals', {
    data: await readFile('demo/originals/control-symbol.png'),
    headers: { 'x-file-name': 'symbol.png' },
  });
  const { digest, fileName } = TakenIn.parse(await answer.json());
  for (const [title, material, due] of [
    ['Desk one', 'Canvas', '2026-01-05'],
    ['Desk two', 'Canvas', null],
    ['Desk three', 'Window film', null],
  ]) {
    const begun = await page.request.post('/api/jobs', {
      data: {
        ...{ title, customer: 'The desk', due, distance: 2, device: null, material },
        paper: testPaper({ width: { value: 40, unit: 'cm' } }),
        pictures: [{ digest, fileName }],
      },
    });
    expect(begun.ok()).toBe(true);
  }
  await page.goto('/');
  await page.getByLabel('For which customer').selectOption('The desk');
});
test.afterAll(() => page.context().close());
test.describe.configure({ mode: 'serial' });

const rows = () => page.locator('.jobs tbody tr[data-index]');
const row = (name: string) => page.getByRole('row', { name: new RegExp(name) });
const stored = async () => {
  const answer = await page.request.get('/api/jobs?customer=The+desk');
  return BoardPage.parse(await answer.json()).rows;
};

test.describe('Several jobs at once', () => {
  test('shows jobs by customer, material and when they are due', async () => {
    await expect(rows()).toHaveCount(3);
    await page.getByLabel('Printed on what').selectOption('Window film');
    await expect(rows()).toHaveCount(1);
    await page.getByLabel('Printed on what').selectOption('any material');
    await page.getByLabel('Due when').selectOption('late');
    await expect(rows()).toHaveCount(1);
    await expect(row('Desk one')).toContainText('late');
    await page.getByRole('button', { name: 'All jobs' }).click();
    await page.getByLabel('For which customer').selectOption('The desk');
    await expect(rows()).toHaveCount(3);
  });

  test('a job is edited by keys after it was taken in', async () => {
    await row('Desk two').focus();
    await page.keyboard.press('e');
    const dialog = page.getByRole('dialog');
    await expect(dialog.getByLabel('Job')).toBeFocused();
    await dialog.getByLabel('Job').fill('Desk two, larger');
    await dialog.getByLabel('Note').fill('Call before printing');
    const { violations } = await new AxeBuilder({ page }).include('.modal').analyze();
    expect(violations.filter(({ impact }) => impact === 'serious')).toEqual([]);
    await page.keyboard.press('Tab');
    await dialog.getByLabel('Job').press('Enter');
    await expect(dialog).toBeHidden();
    await expect(row('Desk two, larger')).toContainText('Call before printing');
    await page.getByRole('searchbox').fill('before printing');
    await expect(rows()).toHaveCount(1);
    await page.getByRole('searchbox').fill('');
  });

  test('several are selected by keys and boxes, and changed at once', async () => {
    await expect(rows()).toHaveCount(3);
    await rows().first().focus();
    await page.keyboard.press('Space');
    await page.keyboard.press('Shift+ArrowDown');
    const bar = page.getByRole('toolbar', { name: 'Selected jobs' });
    await expect(bar).toContainText('2 selected');
    await bar.getByRole('button', { name: 'All 3' }).click();
    await expect(bar).toContainText('3 selected');
    await bar.getByRole('button', { name: 'Change …' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('Due').fill('2027-02-03');
    await dialog.getByRole('button', { name: 'Keep' }).click();
    await expect(dialog).toBeHidden();
    await expect
      .poll(async () => (await stored()).map(({ due }) => due))
      .toEqual([...['2027-02-03', '2027-02-03', '2027-02-03']]);
    // What was left empty stayed as it was.
    expect((await stored()).map(({ note }) => note)).toContain('Call before printing');
    await page.getByRole('button', { name: 'Take it back' }).last().click();
    await expect
      .poll(async () => (await stored()).filter(({ due }) => due === '2027-02-03').length)
      .toBe(0);
    await page.keyboard.press('Escape');
    await expect(bar).toBeHidden();
  });

  test('one is duplicated, two are deleted after asking, and brought back', async () => {
    await page
      .getByRole('checkbox', { name: /^Select job/ })
      .first()
      .check();
    const bar = page.getByRole('toolbar', { name: 'Selected jobs' });
    await bar.getByRole('button', { name: 'Duplicate' }).click();
    await expect(rows()).toHaveCount(4);
    await page
      .getByRole('checkbox', { name: /^Select job/ })
      .nth(1)
      .check();
    await bar.getByRole('button', { name: 'Delete …' }).click();
    const dialog = page.getByRole('dialog');
    await expect(dialog).toContainText('Delete 2 jobs with their pictures?');
    await expect(dialog).toContainText('record of what was sent');
    await dialog.getByRole('button', { name: 'Delete' }).click();
    await expect(rows()).toHaveCount(2);
    await page.getByRole('button', { name: 'Take it back' }).last().click();
    await expect(rows()).toHaveCount(4);
  });

  test('a recipe is seen on each picture before it is applied to all', async () => {
    await rows().first().focus();
    await page.keyboard.press('Space');
    await page.keyboard.press('Shift+ArrowDown');
    const bar = page.getByRole('toolbar', { name: 'Selected jobs' });
    await bar.getByRole('button', { name: 'By a recipe …' }).click();
    const dialog = page.getByRole('dialog');
    await expect(dialog).toContainText('A house recipe for 2 pictures');
    await dialog.getByRole('button', { name: /^Line drawing/ }).click();
    const table = dialog.getByRole('table');
    await expect(table.getByRole('row', { name: /^Unsharp mask/ })).toContainText('0.3 mm');
    await expect(dialog.locator('.spot[data-busy="true"]')).toHaveCount(0, { timeout: 60_000 });
    const { violations } = await new AxeBuilder({ page }).include('.modal').analyze();
    expect(violations.filter(({ impact }) => impact === 'serious')).toEqual([]);
    await dialog.getByRole('list', { name: 'Pictures' }).getByRole('button').last().click();
    await expect(table.getByRole('row', { name: /^Comes to/ })).toContainText('ppi');
    await dialog.getByRole('button', { name: 'Begin a trial by it on 2 pictures' }).click();
    await expect(dialog).toBeHidden();
    await expect(page.getByText('“Line drawing” is a trial of 2 pictures now.')).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(bar).toBeHidden();
  });

  test('a selection goes into the archive as one', async () => {
    await rows().first().focus();
    await page.keyboard.press('Space');
    await page.keyboard.press('Shift+ArrowDown');
    await page.keyboard.press('a');
    await expect(rows()).toHaveCount(2);
    await page.getByRole('button', { name: 'Take it back' }).last().click();
    await expect(rows()).toHaveCount(4);
  });
});
