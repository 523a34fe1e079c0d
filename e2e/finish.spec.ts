import { createHash } from 'node:crypto';
import { expect, test } from '@playwright/test';
import { sharedBench } from './bench-page';

const bench = sharedBench();

/** Most of the result's side of the wipe: guards leave much of a picture as it is. */
const PART = { x: 560, y: 100, width: 240, height: 320 };
/** Names what shows: a difference would be too long to print. */
const seen = async () =>
  createHash('sha256')
    .update(Buffer.from(await bench.pixels('Trial A', PART)))
    .digest('hex');
const caption = () => bench.page.locator('.caption.right');

test.describe('Finish', () => {
  test('says how far rims and noise went', async () => {
    const { page } = bench;
    await bench.open('Brass instruments');
    await bench.openSection('Finish');
    await bench.zoom('zoom-result-1');
    await expect(page.locator('.finish-figures')).toContainText(/\+\d+ −\d+ levels/);
    await expect(page.locator('.finish-figures')).toContainText(/→ [\d.]+ levels/);
  });

  test('shows a high-pass by itself, and the layer that it lays over the picture', async () => {
    const { page } = bench;
    await page.getByRole('button', { name: 'Add a step' }).click();
    await page.getByRole('button', { name: /^High-pass/ }).click();
    await bench.resolved();
    const finished = await seen();
    await page.getByRole('button', { name: 'High-pass alone' }).click();
    await expect(caption()).toContainText('high-pass alone');
    await bench.resolved();
    expect(await seen()).not.toEqual(finished);
    await page.getByRole('button', { name: 'See the filtered layer' }).click();
    await expect(caption()).toContainText('high-pass: the filtered layer');
    await bench.resolved();
    const layer = await bench.pixels('Trial A', PART);
    const off = layer.map((value, i) => (i % 4 === 3 ? 0 : Math.abs(value - layer[i - (i % 4)]!)));
    expect(off.reduce((most, one) => Math.max(most, one), 0)).toBeLessThan(2);
    const reds = layer.filter((_, i) => i % 4 === 0);
    expect(reds.reduce((sum, one) => sum + one, 0) / reds.length).toBeCloseTo(127.5, -1);
    await page.getByRole('button', { name: 'See the filtered layer' }).click();
    await bench.resolved();
    await expect.poll(seen).toEqual(finished);
  });

  test('shows the picture without it for as long as a key is held', async () => {
    const { page } = bench;
    const finished = await seen();
    await page.keyboard.down('f');
    await expect(caption()).toContainText('without Finish');
    await bench.resolved();
    const plain = await seen();
    expect(plain).not.toEqual(finished);
    await page.keyboard.up('f');
    await expect(caption()).not.toContainText('without Finish');
    await bench.resolved();
    await expect.poll(seen).toEqual(finished);
    await page.locator('label[for="finish-look-without"]').click();
    await bench.resolved();
    await expect.poll(seen).toEqual(plain);
    await page.locator('label[for="finish-look-from afar"]').click();
    await expect(caption()).toContainText(/as seen from [\d.]+ m/);
    await bench.resolved();
    expect(await seen()).not.toEqual(finished);
    await page.locator('label[for="finish-look-all"]').click();
    await bench.resolved();
  });

  test('holds rims to what lies about them, and can be told not to', async () => {
    const { page } = bench;
    await page.getByText('Guards', { exact: true }).click();
    const guarded = await seen();
    await page.getByLabel('flat areas').uncheck();
    await page.getByLabel('skin tones').uncheck();
    await page.getByLabel('what is soft on purpose').uncheck();
    await page.getByLabel('Hold halos to what lies about them').uncheck();
    await bench.resolved();
    expect(await seen()).not.toEqual(guarded);
    await expect(page.getByText('halos as they come')).toBeVisible();
    await page.getByRole('button', { name: 'Mark halos that would be seen' }).click();
    await expect(page.getByText(/^Ochre: halos that would be seen from/)).toBeVisible();
    await page.getByRole('button', { name: 'Hide the marks of halos' }).click();
    await expect(page.getByText(/^Ochre: halos/)).toBeHidden();
    for (let i = 0; i < 4; i++) await page.keyboard.press('Control+z');
    // The first that was switched off comes back last: not before it are all pixels due.
    await expect(page.getByLabel('flat areas')).toBeChecked();
    await expect(page.getByLabel('Hold halos to what lies about them')).toBeChecked();
    await bench.resolved();
    await expect.poll(seen).toEqual(guarded);
  });

  test('works everywhere but in a zone, in a copy, and in two that are joined', async () => {
    const { page } = bench;
    const where = page.getByLabel('Where high-pass works');
    const take = async (words: string | RegExp) => {
      const option = where.locator('option').filter({ hasText: words }).first();
      await where.selectOption(await option.getAttribute('value'));
    };
    const everywhere = await seen();
    await take('a new zone');
    const editor = page.getByRole('group', { name: /^Zone / });
    await editor.getByRole('button', { name: /Select automatically/ }).click();
    await page.getByRole('button', { name: 'Edges', exact: true }).click();
    await editor.getByRole('button', { name: 'Done' }).click();
    await bench.resolved();
    const inside = await seen();
    expect(inside).not.toEqual(everywhere);
    await take('everywhere but Zone 1');
    await expect(page.locator('.step.open .step-head')).toContainText('everywhere but Zone 1');
    await bench.resolved();
    const outside = await seen();
    expect(outside).not.toEqual(inside);
    await take('a copy of Zone 1');
    await editor.getByRole('button', { name: 'Done' }).click();
    await expect(where.locator('option:checked')).toHaveText('Zone 1, copied');
    await expect.poll(seen).toEqual(inside);
    await take('Zone 1, copied and Zone 1, joined');
    await expect(editor.locator('.zone-part')).toHaveCount(2);
    await editor.getByRole('button', { name: 'Done' }).click();
    await expect.poll(seen).toEqual(inside);
    await take(/^everywhere$/);
    await expect.poll(seen).toEqual(everywhere);
  });

  test('finds a zone on the print’s own pixels', async () => {
    const { page } = bench;
    const where = page.getByLabel('Where high-pass works');
    const first = where.locator('option').filter({ hasText: /^Zone 1$/ });
    await where.selectOption(await first.getAttribute('value'));
    await bench.resolved();
    const onOriginal = await seen();
    await page.locator('.step.open').getByRole('button', { name: 'Edit' }).click();
    const editor = page.getByRole('group', { name: /^Zone / });
    await editor.getByLabel('Look at the print’s own pixels').check();
    await expect(editor).toContainText('found on the enlarged picture');
    await editor.getByRole('button', { name: 'Done' }).click();
    await bench.resolved();
    await expect.poll(seen).not.toEqual(onOriginal);
    await page.keyboard.press('Control+z');
    await expect.poll(seen).toEqual(onOriginal);
    await page.keyboard.press('Control+z');
  });

  test('sharpens by brush where one paints, stroke by stroke', async () => {
    const { page } = bench;
    await bench.resolved();
    const plain = await seen();
    await page.getByRole('button', { name: 'Add a step' }).click();
    await page.getByRole('button', { name: /^Sharpen by brush/ }).click();
    const editor = page.getByRole('group', { name: 'Zone Sharpened by hand' });
    await expect(editor).toBeVisible();
    const tool = (await page.locator('.picture-tool').boundingBox())!;
    const stroke = async (down: number) => {
      await page.mouse.move(tool.x + 600, tool.y + down);
      await page.mouse.down();
      await page.mouse.move(tool.x + 760, tool.y + down, { steps: 8 });
      await page.mouse.up();
    };
    await stroke(160);
    await editor.getByRole('button', { name: 'Done' }).click();
    await expect.poll(seen).not.toEqual(plain);
    await page.keyboard.press('Control+z');
    await expect.poll(seen).toEqual(plain);
    // The step and its zone were begun at once.
    await page.keyboard.press('Control+z');
    await expect(page.locator('.step-head').getByText('Sharpened by hand')).toBeHidden();
    await page.locator('.step-head button').filter({ hasText: 'High-pass' }).click();
  });

  test('says at the field what cannot be, and keeps what there was', async () => {
    const { page } = bench;
    const field = page.locator('.step.open').getByLabel(/^Radius .*figure$/);
    const kept = await field.inputValue();
    const said = page.locator('.step.open .field-trouble');
    for (const [wrong, words] of [
      ['0', 'From 0.01 to 10 mm.'],
      ['5000', 'From 0.01 to 10 mm.'],
      ['wide', '“wide” is neither a number nor a unit.'],
    ] as const) {
      await field.fill(wrong);
      await field.press('Enter');
      await expect(said).toHaveText(words);
    }
    await field.press('Escape');
    await expect(field).toHaveValue(kept);
    await expect(said).toHaveCount(0);
    await field.fill('0,08 cm');
    await field.press('Enter');
    await expect(field).toHaveValue('0.8');
    await page.keyboard.press('Control+z');
    await bench.resolved();
  });

  test('adds grain that covers, and undoes it', async () => {
    const { page } = bench;
    const plain = await seen();
    await page.getByRole('button', { name: 'Add a step' }).click();
    await page.getByRole('button', { name: /^Grain/ }).click();
    await bench.resolved();
    await expect(page.locator('.step-head').getByText('0.4 mm · 3', { exact: true })).toBeVisible();
    expect(await seen()).not.toEqual(plain);
    await page.keyboard.press('Control+z');
    await expect(page.locator('.step-head').getByText('0.4 mm · 3', { exact: true })).toBeHidden();
    await expect.poll(seen).toEqual(plain);
  });

  test('tells what ink and eye take away', async () => {
    const { page } = bench;
    await page.getByRole('button', { name: 'Add a step' }).click();
    await page.getByRole('button', { name: /^For paper/ }).click();
    await expect(
      page.getByText(/ink spreads by 0\.\d+ mm; from [\d.]+ m the eye blurs/),
    ).toBeVisible();
    await page.locator('label[for^="surface-"][for$="-textile"]').click();
    await expect(page.getByText(/On textile ink spreads by 0\.17 mm/)).toBeVisible();
    await bench.resolved();
  });
});
