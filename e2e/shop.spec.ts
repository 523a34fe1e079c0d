import { execFileSync } from 'node:child_process';
import { expect, test, type Page } from '@playwright/test';

/** The process of the tested shop that runs a file of ours. */
function processOf(name: string): number {
  const shopPid = Number(
    execFileSync('sh', ['-c', "pgrep -f 'dist/server/supervisor/[s]upervisor.mjs' | head -1"]),
  );
  const children = execFileSync('pgrep', ['-P', String(shopPid), '-f', name], { encoding: 'utf8' });
  return Number(children.trim().split('\n')[0]);
}

test('the shop compares what it keeps with its records', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Shop' }).click();
  await page.getByRole('link', { name: 'Storage' }).click();
  await expect(page.getByRole('row', { name: /^originals .*a day after/ })).toContainText(
    /\d [kM]B/,
  );
  await page.getByRole('button', { name: 'Compare now' }).click();
  await expect(page.getByText('All is as it was kept')).toBeVisible();
  await expect(page.getByText(/\d+ originals, .* were compared/)).toBeVisible();
});

test('a web server and a process of runs that end are started again, and the page says so', async ({
  page,
}) => {
  const line = page.waitForResponse(/\/api\/events/);
  await page.goto('/shop');
  await expect(page.getByText('Pages and previews')).toBeVisible();
  await line;
  process.kill(processOf('task-process'), 'SIGKILL');
  await expect(page.getByRole('status')).toContainText('started again');
  await expect(page.getByRole('status')).toBeHidden();
  process.kill(processOf('web-process'), 'SIGKILL');
  // The page finds it again by itself.
  await expect(page.getByText(/at work for .*, started again 1 time/)).toHaveCount(2);
  await expect(page.getByRole('status')).toBeHidden();
});

test('a job is deleted and brought back by keys', async ({ page }) => {
  await page.goto('/');
  const row = page.getByRole('row', { name: /Star chart/ });
  await row.focus();
  await page.keyboard.press('Delete');
  const asked = page.getByRole('dialog');
  await expect(asked).toContainText('Delete this job with its pictures?');
  await page.keyboard.press('Escape');
  await expect(row).toBeVisible();
  await row.focus();
  await page.keyboard.press('Delete');
  await expect(asked.getByRole('button', { name: 'Delete' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(row).toBeHidden();
  const back = page.getByRole('button', { name: 'Take it back' });
  await back.focus();
  await page.keyboard.press('Enter');
  await expect(row).toBeVisible();
});

test.describe('settings of the shop', () => {
  const part = (page: Page, name: string) => page.getByRole('region', { name, exact: true });

  test('are kept, offered where they are for, taken back, and listed as they changed', async ({
    page,
  }) => {
    await page.goto('/shop/settings');
    const materials = part(page, 'Materials');
    await materials.getByRole('button', { name: 'Add a material' }).press('Enter');
    await page.getByLabel('Material, row 7').fill('CANVAS');
    await page.getByLabel('Seen from, m, row 7').fill('far');
    await materials.getByRole('button', { name: 'Keep' }).press('Enter');
    await expect(materials.getByRole('alert')).toContainText('neither a number nor a unit');
    await page.getByLabel('Seen from, m, row 7').fill('4.5');
    await page.getByLabel('Seen from, m, row 7').press('Enter');
    await expect(materials.getByRole('alert')).toHaveText('CANVAS is in the list already.');
    await page.getByLabel('Material, row 7').fill('Cotton, 240 g');
    await page.getByLabel('Material, row 7').press('Enter');
    await expect(page.getByText('Materials: kept.')).toBeVisible();
    await expect(part(page, 'Changes').getByRole('listitem').first()).toContainText(
      'added Cotton, 240 g',
    );
    await part(page, 'People').getByRole('button', { name: 'Add somebody' }).press('Enter');
    await page.getByLabel('Initials, row 1').fill('ev');
    await page.getByLabel('Initials, row 1').press('Enter');
    await expect(page.getByLabel('Initials, row 1')).toHaveValue('EV');
    await page.locator('label[for="shop-unit-in"]').click();
    await expect(page.getByLabel('Width, in, row 1', { exact: true })).toHaveValue('8.268');

    await page.goto('/');
    await page
      .locator('input[type="file"]')
      .first()
      .setInputFiles('demo/originals/enamel-badge.png');
    const order = page.getByRole('dialog');
    await order.getByLabel('Printed on').selectOption('Cotton, 240 g');
    await expect(order.getByLabel('Seen from, m')).toHaveValue('4.5');
    await order.getByLabel('Print size').fill('24 x 24');
    await order.getByRole('button', { name: 'To the bench' }).click();
    await expect(page.getByText('24 × 24 in').first()).toBeVisible();

    await page.goto('/shop/settings');
    await part(page, 'Changes')
      .getByRole('button', { name: /^Unit of lengths: as before/ })
      .click();
    await expect(page.getByText('Unit of lengths: as it was before.')).toBeVisible();
    await part(page, 'Materials').getByRole('button', { name: 'As usual' }).press('Enter');
    await expect(page.getByLabel('Material, row 7')).toHaveCount(0);
    await page.getByRole('button', { name: 'Undo' }).press('Enter');
    await expect(page.getByLabel('Material, row 7')).toHaveValue('Cotton, 240 g');
  });

  test('show at once in another tab, and are not written over from there', async ({
    page,
    context,
  }) => {
    const other = await context.newPage();
    for (const tab of [page, other]) await tab.goto('/shop/settings');
    await other.getByLabel('Pattern of file names', { exact: true }).fill('{job}-mine');
    await page.getByLabel('Seen from, m', { exact: true }).fill('3');
    await page.getByLabel('Seen from, m', { exact: true }).press('Enter');
    await expect(other.getByLabel('Seen from, m', { exact: true })).toHaveValue('3');
    // What is being typed stays.
    await expect(other.getByLabel('Pattern of file names', { exact: true })).toHaveValue(
      '{job}-mine',
    );
    await page.getByLabel('Pattern of file names', { exact: true }).fill('{job}-theirs');
    await page.getByLabel('Pattern of file names', { exact: true }).press('Enter');
    await expect(page.getByText('Names of files: kept.')).toBeVisible();
    await other.getByLabel('Pattern of file names', { exact: true }).press('Enter');
    await expect(part(other, 'Names of files').getByRole('alert')).toContainText(
      'Somebody else changed this meanwhile',
    );
    await other.getByRole('button', { name: 'Show it as it is' }).press('Enter');
    await expect(other.getByLabel('Pattern of file names', { exact: true })).toHaveValue(
      '{job}-theirs',
    );
    for (const name of ['Names of files', 'How work begins']) {
      await part(other, name).getByRole('button', { name: 'As usual' }).click();
      await expect(other.getByText(`${name}: kept.`)).toBeVisible();
    }
  });
});

test('the shop is backed up while it works, and the archive is whole', async ({ page }) => {
  await page.goto('/shop/backup');
  await page.getByRole('button', { name: 'Back up now' }).press('Enter');
  const done = page.getByRole('region', { name: 'What was done' }).getByRole('listitem');
  await expect(done.first()).toContainText(/lontano-.*\.zip written, .*\d+ files/);
  await page
    .getByRole('button', { name: /^Check lontano-/ })
    .first()
    .press('Enter');
  await expect(done.first()).toContainText(/compared, .*Whole: \d+ files/);
});
