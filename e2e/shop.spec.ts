import { execFileSync } from 'node:child_process';
import { expect, test } from '@playwright/test';

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
  await page.getByRole('button', { name: 'Compare now' }).click();
  await expect(page.getByText('All is as it was kept')).toBeVisible();
  await expect(page.getByText(/\d+ originals, .* were compared/)).toBeVisible();
});

test('a web server and a process of runs that end are started again, and the page says so', async ({
  page,
}) => {
  await page.goto('/shop');
  await expect(page.getByText('Pages and previews')).toBeVisible();
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
