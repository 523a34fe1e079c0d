import { expect, test, type Locator, type Page } from '@playwright/test';
import { JobView } from '../src/core/shop/job';
import { sharedBench } from './bench-page';

/** The shop's page in a second tab, where stand-ins are told to fail. */
let shop: Page;

const bench = sharedBench(async (on) => {
  await on.open('Programme leaf');
  await on.openSection('Output');
  shop = await on.page.context().newPage();
  await shop.goto('/shop');
});

const job = async () =>
  JobView.parse(
    await (await bench.page.request.get(`/api/jobs/${bench.page.url().split('/').at(-1)}`)).json(),
  );
const newest = (): Locator => bench.page.locator('.sending').first();
const fail = async (device: string, words: string) => {
  const card = shop.getByRole('article', { name: device });
  await card.getByRole('button', { name: 'What if …' }).click();
  await card.getByRole('button', { name: words }).click();
};

/** Sends the newest file. @param again whether something was sent before */
async function send(device: string, material: string, why: string | null): Promise<void> {
  const form = bench.page.locator('form.send');
  if (!(await form.isVisible())) await bench.page.getByText('Send it once more').click();
  await form.getByLabel('Device').selectOption({ label: device });
  await form.getByLabel('On').selectOption({ label: material });
  if (why) await form.getByLabel(/Why is it sent/).fill(why);
  await form.getByLabel('Initials').fill('mk');
  const before = await bench.page.locator('.sending').count();
  await form.getByRole('button', { name: 'Send' }).click();
  await expect(newest()).toContainText(device.replace(' (does not answer)', ''));
  await expect.poll(() => bench.page.locator('.sending').count()).toBeGreaterThan(before);
}

const state = (words: string) =>
  expect(newest()).toHaveAttribute('data-state', words, { timeout: 60_000 });

test.describe('Devices', () => {
  test('one prints, jams, goes on once it is cleared, and its print is looked at', async () => {
    const { page } = bench;
    await bench.run(/\.tif$/);
    const form = page.locator('form.send');
    await form.getByLabel('Device').selectOption({ label: 'Sheet printer' });
    await expect(form.getByRole('list')).toContainText('42 × 59.4 cm does not fit');
    await form.getByLabel(/Why is it sent/).fill('it would not be');
    await form.getByLabel('Initials').fill('mk');
    await expect(form.getByRole('button', { name: 'Send' })).toBeDisabled();
    await bench.openSection('Size');
    const width = page.getByLabel('Width', { exact: true });
    await width.fill('20 cm');
    await width.press('Enter');
    await bench.run(/\.tif$/);
    await expect(form.getByRole('list')).toContainText('20 × 28.3 cm');
    await form.getByLabel(/Why is it sent/).fill('');
    // Nobody signed: it is not sent without a reason.
    await form.getByLabel('Initials').fill('mk');
    await expect(form.getByRole('button', { name: 'Send' })).toBeDisabled();
    await send('Wide inkjet, latex', 'Photo paper, satin', 'A strip to look at');
    await state('printing');
    await fail('Wide inkjet, latex', 'It jams');
    await expect(newest().getByRole('alert')).toContainText('It jammed at');
    await newest().getByRole('button', { name: 'The jam is cleared' }).click();
    await state('printed');
    await expect(newest()).toContainText('cm spoilt');
    await newest().getByRole('button', { name: 'Look at the print' }).click();
    await expect(page.locator('.caption.left')).toContainText('720 dots an inch');
    await bench.resolved();
    await bench.zoom('zoom-result-4');
    await bench.resolved();
    await expect(page.locator('.lower-bar, .look-bar').first()).toBeVisible();
  });

  test('another asks for its material, and runs out of ink', async () => {
    await send('Flatbed, UV', 'Window film', 'A second opinion');
    await expect(newest().getByRole('alert')).toContainText('waits for Window film');
    await newest().getByRole('button', { name: 'It is loaded' }).click();
    await state('printing');
    await fail('Flatbed, UV', 'The ink runs out');
    await expect(newest().getByRole('alert')).toContainText('Out of black');
    await newest().getByRole('button', { name: 'The ink is changed' }).click();
    await state('printed');
    await expect(newest()).not.toContainText('spoilt');
  });

  test('a third loses its power in the middle, and prints nothing twice', async () => {
    const { page } = bench;
    await page.getByRole('group', { name: 'Approval' }).getByLabel('Initials').fill('mk');
    await page.getByRole('button', { name: 'Approve' }).click();
    await expect(page.getByText('Approved by MK,')).toBeVisible();
    await send('Sheet printer', 'A4', null);
    await newest().getByRole('button', { name: 'It is loaded' }).click();
    await state('printing');
    await fail('Sheet printer', 'Its power goes');
    await expect(newest().getByRole('alert')).toContainText('The power was lost');
    await newest().getByRole('button', { name: 'Print it again' }).click();
    await state('printed');
    const { events } = await job();
    const kinds = events.map(({ kind }) => kind);
    expect(kinds.filter((kind) => kind === 'sent')).toHaveLength(3);
    expect(kinds.filter((kind) => kind === 'printed')).toHaveLength(3);
    expect((await job()).state).toBe('printed');
    await page.getByText('What happened').click();
    await expect(page.getByRole('list', { name: 'What happened to the job' })).toContainText(
      'without approval: “A strip to look at”',
    );
  });

  test('one that is off the network is waited for', async () => {
    await fail('Wide inkjet, latex', 'It goes off the network');
    const card = shop.getByRole('article', { name: 'Wide inkjet, latex' });
    await expect(card).toContainText('does not answer');
    await send('Wide inkjet, latex (does not answer)', 'Photo paper, satin', null);
    await expect(newest()).toContainText('does not answer');
    await fail('Wide inkjet, latex', 'It is back on the network');
    await state('printed');
    // Taken off the list and put back.
    await card.getByRole('button', { name: 'Take Wide inkjet, latex off the list' }).click();
    await expect(card).toHaveCount(0);
    await shop.getByRole('button', { name: 'Put it back' }).click();
    await expect(card).toContainText('ready');
  });
});
