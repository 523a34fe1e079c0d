import { readFile } from 'node:fs/promises';
import AxeBuilder from '@axe-core/playwright';
import { expect, test, type APIRequestContext } from '@playwright/test';
import { ShopDevice } from '../src/core/shop/device';
import { JobView, TakenIn } from '../src/core/shop/job';
import { testPaper } from '../src/core/testing';
import { sharedBench } from './bench-page';

/** A job that no other test works on. */
async function begin(request: APIRequestContext): Promise<void> {
  const answer = await request.post('/api/originals', {
    data: await readFile('demo/originals/control-symbol.png'),
    headers: { 'x-file-name': 'symbol.png' },
  });
  const { digest, fileName } = TakenIn.parse(await answer.json());
  const begun = await request.post('/api/jobs', {
    data: {
      ...{ title: 'A symbol on record', customer: '', due: null, distance: 2 },
      paper: testPaper({ width: { value: 40, unit: 'cm' } }),
      pictures: [{ digest, fileName }],
    },
  });
  expect(begun.ok()).toBe(true);
}

/** Paper that an A4 proof fits on, whatever another test left in the sheet printer. */
async function loadSheets(request: APIRequestContext): Promise<void> {
  const devices = ShopDevice.array().parse(await (await request.get('/api/devices')).json());
  const { id } = devices.find(({ name }) => name === 'Sheet printer')!;
  const data = { act: 'load', material: 'Photo paper, satin' };
  expect((await request.post(`/api/devices/${id}/act`, { data })).ok()).toBe(true);
}

const bench = sharedBench(async (on) => {
  await begin(on.page.request);
  await on.open('A symbol on record');
  await on.openSection('Output');
});

const jobAt = async (url: string) =>
  JobView.parse(await (await bench.page.request.get(`/api/jobs/${url.split('/').at(-1)}`)).json());

test.describe('Proof and record', () => {
  test('a proof is made of chosen places, and sent to sheets', async () => {
    const { page } = bench;
    await page.getByText('Proof strip').click();
    const places = page.getByRole('group', { name: 'Places' }).getByRole('checkbox');
    await expect(places.first()).toBeVisible();
    const count = await places.count();
    if (count > 1) await places.last().uncheck();
    await page.locator('label[for="proof-format-tiff"]').click();
    await page.getByRole('button', { name: 'Make a proof' }).click();
    const made = page.locator('.folded .run[data-state="done"]');
    await expect(made).toHaveCount(1, { timeout: 60_000 });
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      made.getByRole('link', { name: /-proof\.tif$/ }).click(),
    ]);
    expect((await readFile(await download.path())).subarray(0, 2).toString()).toBe('II');
    const { proofs, state } = await jobAt(page.url());
    expect(state).toBe('proofed');
    expect(proofs[0]!.payload.words.stops).toHaveLength(count > 1 ? count - 1 : 1);
    // It goes to sheets by itself, and nobody asks why.
    const form = made.locator('form.send');
    await loadSheets(page.request);
    await expect(form.getByLabel('Device').locator('option:checked')).toHaveText('Sheet printer');
    await form.getByLabel('Initials').fill('mk');
    await form.getByRole('button', { name: 'Send' }).click();
    await expect(page.locator('.sending').first()).toHaveAttribute('data-state', 'printed', {
      timeout: 60_000,
    });
    // A proof is no print of the job.
    expect((await jobAt(page.url())).state).toBe('proofed');
  });

  test('panels are files in a ZIP, of whichever format', async () => {
    const { page } = bench;
    await page.getByText('Panels', { exact: true }).click();
    await page.getByLabel('Cut into panels, in a ZIP').check();
    const widest = page.getByLabel('Widest panel');
    await widest.fill('15 cm');
    await widest.press('Enter');
    await expect(page.getByRole('img', { name: '3 by 1 panels' })).toBeVisible();
    const zip = await bench.run(/\.zip$/);
    expect(zip.subarray(0, 2).toString()).toBe('PK');
    expect(zip.toString('latin1').match(/panel-\d-of-3\.tif/g)!.length).toBeGreaterThanOrEqual(3);
    const form = page.locator('form.send').first();
    await expect(form.getByRole('list')).toContainText('It prints no archive');
    await page.getByLabel('Cut into panels, in a ZIP').uncheck();
  });

  test('the record says all of it, and orders again', async () => {
    const { page } = bench;
    await bench.run(/\.tif$/);
    const before = await jobAt(page.url());
    await page.getByText('What happened').click();
    await page.getByRole('link', { name: 'The whole record' }).click();
    const record = page.getByRole('main');
    await expect(record).toContainText(before.piece.digest);
    await expect(record).toContainText(before.runs[0]!.artifacts[0]!.digest!);
    await expect(record).toContainText('gives the same bytes');
    await expect(record).toContainText('From received to proofed');
    const found = await new AxeBuilder({ page }).analyze();
    expect(found.violations.map(({ id, nodes }) => [id, nodes[0]?.html])).toEqual([]);
    const pdf = await page.request.get(`/api/jobs/${before.id}/record/pdf`);
    expect((await pdf.body()).subarray(0, 5).toString()).toBe('%PDF-');
    const width = page.getByLabel('Order again, as last time, at');
    await width.fill('9 px');
    await expect(page.getByRole('button', { name: 'Begin the job' })).toBeDisabled();
    await width.fill('200');
    await width.press('Enter');
    await expect(page).toHaveURL(/\/bench\/\d+(#|$)/);
    const again = await jobAt(page.url());
    expect(again.id).not.toBe(before.id);
    expect(again.piece.work.paper.width).toEqual({ value: 200, unit: 'cm' });
    expect(again.piece.history[0]!.label).toBe(`As job ${before.number}, at 200 cm`);
    await expect(page.locator('.ticket')).toContainText(again.number);
  });
});
