import { readFile } from 'node:fs/promises';
import { expect, test } from '@playwright/test';
import { JobView, TakenIn } from '../src/core/shop/job';
import { testPaper } from '../src/core/testing';
import { BenchPage } from './bench-page';

/** Told from other jobs, however often this runs. */
const TITLE = `Looked at twice ${Date.now()}`;
let address: string;

test.beforeAll(async ({ request }) => {
  const answer = await request.post('/api/originals', {
    data: await readFile('demo/originals/control-symbol.png'),
    headers: { 'x-file-name': 'symbol.png' },
  });
  const { digest, fileName } = TakenIn.parse(await answer.json());
  const paper = testPaper({ width: { value: 40, unit: 'cm' } });
  const begun = await request.post('/api/jobs', {
    data: {
      ...{ title: TITLE, customer: '', due: null, distance: 2, paper },
      pictures: [{ digest, fileName }],
    },
  });
  address = `/bench/${JobView.parse(await begun.json()).id}`;
});

test.describe('One picture, seen twice', () => {
  test('a second tab of a browser follows without being touched, and both change it', async ({
    page,
    context,
  }) => {
    const [one, other] = [new BenchPage(page), new BenchPage(await context.newPage())];
    for (const bench of [one, other]) {
      await bench.page.goto(address);
      await bench.resolved();
    }
    await one.openSection('Enlarge');
    await page.getByRole('radio', { name: /Bilinear/ }).click();
    await expect(other.section('Enlarge')).toContainText('bilinear');
    await other.openSection('Size');
    const width = other.page.getByLabel('Width', { exact: true });
    await width.fill('55 cm');
    await width.press('Enter');
    await expect(one.section('Size')).toContainText('55 × 55 cm');
    await expect(one.section('Enlarge')).toContainText('bilinear');
    // One's own tabs are nothing to be told of.
    for (const { page: tab } of [one, other]) await expect(tab.locator('.notices')).toBeEmpty();
    // The board hears of it as well.
    await other.page.goto('/');
    await other.page.getByLabel('Search job or customer').fill(TITLE);
    const row = other.page.getByRole('row', { name: new RegExp(TITLE) });
    await expect(row).toContainText('55 × 55 cm');
    await one.openSection('Size');
    await page.getByLabel('Width', { exact: true }).fill('60 cm');
    await page.keyboard.press('Enter');
    await expect(row).toContainText('60 × 60 cm');
  });

  test('many tabs of a browser follow by one line, and the next tab takes it up', async ({
    context,
  }) => {
    // More than a browser has lines to one server.
    const tabs = await Promise.all(Array.from({ length: 8 }, () => context.newPage()));
    for (const tab of tabs) {
      await tab.goto(address);
      await new BenchPage(tab).resolved();
    }
    const change = async (tab: (typeof tabs)[number], text: string) => {
      await new BenchPage(tab).openSection('Size');
      await tab.getByLabel('Width', { exact: true }).fill(text);
      await tab.keyboard.press('Enter');
    };
    await change(tabs[7]!, '33 cm');
    for (const tab of tabs) {
      await expect(new BenchPage(tab).section('Size')).toContainText('33 × 33 cm');
    }
    for (const tab of tabs.splice(0, 4)) await tab.close();
    await change(tabs[3]!, '34 cm');
    for (const tab of tabs) {
      await expect(new BenchPage(tab).section('Size')).toContainText('34 × 34 cm');
      await expect(tab.locator('.process-line')).toHaveCount(0);
      await tab.close();
    }
  });

  test('two people: what goes together is kept of both, and each is told of the other', async ({
    page,
    browser,
  }) => {
    const one = new BenchPage(page);
    await page.goto('/');
    await page.evaluate(() =>
      localStorage.setItem(
        'lontano-author',
        JSON.stringify({ state: { browser: 'press-room-1', initials: 'mk' }, version: 0 }),
      ),
    );
    const other = new BenchPage(await (await browser.newContext()).newPage());
    // What they hear of each other comes too late for both.
    await other.page.route('/api/events', (route) => route.abort());
    for (const bench of [one, other]) {
      await bench.page.goto(address);
      await bench.resolved();
    }
    const change = async (bench: BenchPage, label: string, text: string) => {
      await bench.openSection('Size');
      const field = bench.page.getByLabel(label, { exact: true });
      await field.fill(text);
      const kept = bench.page.waitForResponse(/\/changes$/);
      await field.press('Enter');
      await kept;
    };
    await change(one, 'Width', '70 cm');
    await change(other, 'Resolution', '120');
    const notices = other.page.locator('.notices');
    await expect(notices).toContainText('MK changed this picture: Width 70 cm.');
    await expect(other.section('Size')).toContainText('70 × 70 cm');
    await expect(one.page.locator('.notices')).toContainText(
      'Somebody else changed this picture: 120 ppi.',
    );
    await expect(page.getByLabel('Resolution', { exact: true })).toHaveValue('120');
    await page.getByRole('button', { name: 'List of changes' }).click();
    await expect(page.getByRole('button', { name: /Width 70 cm/ })).toContainText('MK');
    await page.keyboard.press('Escape');
    // The same thing set by both: the first stays, the second is offered once more.
    await change(one, 'Width', '80 cm');
    await change(other, 'Width', '90 cm');
    await expect(notices).toContainText('Not done of yours: Width 90 cm.');
    await expect(other.section('Size')).toContainText('80 × 80 cm');
    await notices.getByRole('button', { name: 'Apply it again' }).click();
    await expect(one.section('Size')).toContainText('90 × 90 cm');
    await other.page.context().close();
  });
});
