import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import sharp from 'sharp';
import { JobView } from '../src/core/shop/job';
import { sharedBench } from './bench-page';

const bench = sharedBench(async (on) => {
  await on.open('Brass instruments');
});

const with_ = () => bench.page.getByLabel('Compared with', { exact: true });
const job = async () =>
  JobView.parse(
    await (await bench.page.request.get(`/api/jobs/${bench.page.url().split('/').at(-1)}`)).json(),
  );

test.describe('Files beside the result', () => {
  test('of a finished run show the very pixels that it wrote', async () => {
    const { page } = bench;
    await bench.openSection('Output');
    await bench.run(/\.tif$/);
    await bench.openSection('Compare');
    await page.locator('label[for="compare-difference"]').click();
    const option = with_()
      .locator('option')
      .filter({ hasText: /^Trial A, file of/ });
    await with_().selectOption((await option.getAttribute('value'))!);
    await page.getByLabel('How differences are shown').selectOption('signed 32');
    await bench.zoom('zoom-result-1');
    const part = { x: 200, y: 150, width: 300, height: 220 };
    const levels = await bench.pixels('Difference of Trial A', part);
    const off = levels.filter((_, i) => i % 4 !== 3).map((level) => Math.abs(level - 128));
    // 8 bits are off by half a level at most: 16 levels when shown 32 times as strong.
    expect(off.reduce((a, b) => Math.max(a, b))).toBeLessThanOrEqual(17);
    await page.locator('label[for="compare-wipe"]').click();
    await bench.resolved();
    const name = await option.textContent();
    await expect(bench.canvas(name!)).toBeVisible();
    const [r, g, b] = await bench.pixel(name!, 300, 250);
    const [r1, g1, b1] = await bench.pixel('Trial A', 300, 250);
    expect(Math.max(Math.abs(r! - r1!), Math.abs(g! - g1!), Math.abs(b! - b1!))).toBeLessThan(2);
  });

  test('from outside are laid on the same paper, moved to where they belong', async () => {
    const { page } = bench;
    const { piece } = await job();
    const original = await readFile(join('demo', 'originals', piece.fileName));
    // Another shop's attempt: twice as large, and everything in it lies 12 to the right and 6 lower.
    const twice = { width: 2 * piece.findings.width, height: 2 * piece.findings.height };
    const extended = await sharp(original)
      .resize(twice.width, twice.height, { kernel: 'nearest' })
      .extend({ left: 12, top: 6, extendWith: 'copy' })
      .png()
      .toBuffer();
    const moved = await sharp(extended)
      .extract({ left: 0, top: 0, ...twice })
      .jpeg({ quality: 88 })
      .toBuffer();
    const [chooser] = await Promise.all([
      page.waitForEvent('filechooser'),
      with_().selectOption({ label: 'Bring a picture …' }),
    ]);
    await chooser.setFiles({ name: 'their attempt.jpg', mimeType: 'image/jpeg', buffer: moved });
    const caption = page.locator('.caption').first();
    await expect(caption).toContainText('its place is looked for');
    await expect(caption).toContainText(/moved -\d+, -\d+ px/, { timeout: 60_000 });
    const [, x, y] = /moved (-?\d+), (-?\d+) px/.exec((await caption.textContent())!)!;
    const target = await page.evaluate(
      () => document.querySelector('.view .caption.right .figure')!.textContent,
    );
    const scale = Number(/^(\d+)/.exec(target)![1]) / twice.width;
    expect(Math.abs(Number(x) + 12 * scale)).toBeLessThanOrEqual(1);
    expect(Math.abs(Number(y) + 6 * scale)).toBeLessThanOrEqual(1);
    const list = page.getByRole('list', { name: 'Brought from outside' });
    await expect(list).toContainText('their attempt.jpg');
    // It stays with the picture, and goes when it is put away.
    await page.reload();
    await bench.resolved();
    await bench.openSection('Compare');
    await expect(with_().locator('option').filter({ hasText: 'their attempt.jpg' })).toHaveCount(1);
    await page.getByRole('button', { name: 'Put their attempt.jpg away' }).click();
    await expect(list).toHaveCount(0);
    await expect(with_()).toHaveValue('original');
  });

  test('that can’t be read are answered in words, and nothing changes', async () => {
    const { page } = bench;
    const [chooser] = await Promise.all([
      page.waitForEvent('filechooser'),
      with_().selectOption({ label: 'Bring a picture …' }),
    ]);
    const buffer = Buffer.from('no picture at all');
    await chooser.setFiles({ name: 'notes.jpg', mimeType: 'image/jpeg', buffer });
    await expect(page.locator('.notices')).toContainText('notes.jpg');
    await expect(with_()).toHaveValue('original');
    await expect(page.getByRole('list', { name: 'Brought from outside' })).toHaveCount(0);
  });
});
