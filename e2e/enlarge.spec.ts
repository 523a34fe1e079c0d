import { expect, test } from '@playwright/test';
import { readFile } from 'node:fs/promises';
import sharp from 'sharp';
import { sharedBench } from './bench-page';

const bench = sharedBench();

test.describe('Enlarge', () => {
  test('says what automatic comes to, and what each method would take', async () => {
    const { page } = bench;
    await bench.open('Enamel badge');
    await bench.openSection('Enlarge');
    await expect(bench.section('Enlarge')).toContainText('auto: traced');
    await expect(page.getByText('Traced, since that stays sharp')).toBeVisible();
    const methods = page.getByRole('radiogroup', { name: 'Method', exact: true });
    await expect(methods.getByRole('radio')).toHaveCount(13);
    await expect(methods.locator('label').first()).toContainText(/\d+(–\d+)? (s|min)/);
  });

  test('offers what a method can be told', async () => {
    const { page } = bench;
    await page.getByRole('radio', { name: /^Stepped bicubic/ }).click();
    await page.getByLabel('Step size, figure').fill('20');
    await page.getByLabel('Step size, figure').press('Enter');
    await page.locator('label[for="light-linear"]').click();
    await page.getByLabel('Limit ringing, figure').fill('60');
    await page.getByLabel('Limit ringing, figure').press('Enter');
    await bench.resolved();
    await page.getByRole('radio', { name: /^Nearest neighbour/ }).click();
    await expect(page.getByLabel('Limit ringing, figure')).toBeHidden();
    await page.keyboard.press('Control+z');
    await expect(page.getByLabel('Limit ringing, figure')).toHaveValue('60');
    await page.getByRole('radio', { name: /^Automatic/ }).click();
  });

  test('tries methods beside each other on one spot, and takes one', async () => {
    const { page } = bench;
    await page.getByRole('button', { name: 'Try on this spot' }).click();
    const tried = page.locator('.tried');
    await expect(tried).toHaveCount(4);
    await page.getByLabel('Method 3').selectOption('mitchell');
    await page.waitForFunction(() => {
      const panes = [...document.querySelectorAll<HTMLCanvasElement>('.tried canvas')];
      return panes.length === 4 && panes.every(({ dataset }) => dataset.painted === dataset.wanted);
    });
    await expect(tried.nth(0)).toContainText('Original');
    await expect(tried.nth(3)).toContainText(/spot [\d.]+ s/);
    // The bar speaks of the spots, not of what was looked at before.
    await expect(page.locator('.exactness')).toHaveText('exact pixels');
    const middle = { x: 150, y: 150, width: 60, height: 60 };
    const of = (name: string) => bench.pixels(name, middle);
    expect(await of('Network for drawings')).not.toEqual(await of('Soft bicubic'));
    expect(await of('The original')).not.toEqual(await of('Soft bicubic'));
    await tried.nth(3).getByRole('button', { name: 'Take it' }).click();
    await expect(bench.section('Enlarge')).toContainText('soft bicubic');
    await expect(tried).toHaveCount(0);
  });

  test('tests every method on the very picture', async () => {
    const { page } = bench;
    await page.getByRole('button', { name: 'Test on this picture' }).click();
    const rows = page.getByRole('region', { name: 'Test on this picture' }).locator('tbody tr');
    await expect(rows).toHaveCount(13, { timeout: 90_000 });
    const figure = async (name: string, column: number) => {
      const row = rows.filter({ hasText: new RegExp(`^${name}`) });
      return Number(await row.locator('td').nth(column).textContent());
    };
    expect(await figure('Network for drawings', 0)).toBeGreaterThan(await figure('Bilinear', 0));
    expect(await figure('Bicubic', 1)).toBeNaN();
    await page.getByRole('button', { name: 'Lanczos-3' }).click();
    await page.getByRole('button', { name: 'Take it' }).click();
    await expect(bench.section('Enlarge')).toContainText('lanczos-3');
    // What was found stays beside the methods.
    const method = page.locator('label.method', { hasText: 'Network for drawings' });
    await expect(method).toContainText(/[+−]\d\.\d\d dB/);
  });

  test('shows what a network may have invented, and leads to its worst places', async () => {
    const { page } = bench;
    await expect(page.getByLabel('Show uncertain detail (low … high)')).toBeHidden();
    await page.getByRole('radio', { name: /^Network for drawings/ }).click();
    await page.getByLabel('Show uncertain detail (low … high)').click();
    const places = page.getByRole('group', { name: 'Worst places' }).getByRole('button');
    await expect(places.first()).toContainText(/±\d+/, { timeout: 60_000 });
    await expect(page.locator('.map-overlay rect').first()).toBeAttached();
    await places.first().click();
    await bench.resolved();
    await expect(places.first()).toHaveAttribute('aria-current', 'true');
    await page.keyboard.press('n');
    await expect(places.nth(1)).toHaveAttribute('aria-current', 'true');
    await page.keyboard.press('Shift+N');
    await expect(places.first()).toHaveAttribute('aria-current', 'true');
    await bench.resolved();
    await page.getByLabel('Show uncertain detail (low … high)').click();
    await expect(page.locator('.map-overlay')).toHaveCount(0);
  });

  test('writes the very pixels that were seen, by a network of its own', async () => {
    const { page } = bench;
    await bench.zoom('zoom-result-1');
    await bench.resolved();
    const canvas = bench.canvas('Trial A');
    const size = await canvas.evaluate((pane) => ({
      width: (pane as HTMLCanvasElement).width,
      height: (pane as HTMLCanvasElement).height,
    }));
    const seen = await bench.pixels('Trial A', {
      ...{ x: size.width - 140, y: (size.height >> 1) - 20, width: 100, height: 40 },
    });
    const file = await bench.run(/\.tif$/);
    const { data, info } = await sharp(file)
      .removeAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    // Somewhere in the file stands just what the stage shows; a line of it may stand in other places too.
    const lines = Array.from({ length: 40 }, (_, y) =>
      Buffer.from(
        Array.from({ length: 100 }, (_, x) =>
          [0, 1, 2].map((channel) => seen[(y * 100 + x) * 4 + channel]!),
        ).flat(),
      ),
    );
    const stands = (at: number) =>
      lines.every((line, y) =>
        line.equals(data.subarray(at + y * info.width * 3).subarray(0, 300)),
      );
    let at = data.indexOf(lines[0]!);
    while (at >= 0 && !stands(at)) at = data.indexOf(lines[0]!, at + 1);
    expect(at).toBeGreaterThan(0);
    await page.getByRole('button', { name: 'Undo' }).click();
  });

  test('draws artwork fresh, writes what was seen, and saves it as shapes', async () => {
    const { page } = bench;
    await bench.openSection('Enlarge');
    await page.getByRole('radio', { name: /^Traced/ }).click();
    await bench.zoom('zoom-result-1');
    await bench.resolved();
    const part = { x: 300, y: 150, width: 160, height: 90 };
    const seen = await bench.pixels('Trial A', part);
    const { left, top } = await bench
      .canvas('Trial A')
      .evaluate((pane) => ({ ...(pane as HTMLCanvasElement).dataset }) as Record<string, string>);
    const file = await bench.run(/\.tif$/);
    const written = await sharp(file)
      .extract({ ...part, left: part.x - Number(left), top: part.y - Number(top) })
      .removeAlpha()
      .raw()
      .toBuffer();
    expect(seen.filter((_, i) => i % 4 < 3)).toEqual([...written]);
    await bench.openSection('Enlarge');
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Save as SVG' }).click(),
    ]);
    const svg = await readFile(await download.path(), 'utf8');
    expect(svg.match(/<path/g)!.length).toBeGreaterThan(20);
    // As large as its print: 60 cm.
    expect(svg).toContain('width="23.6');
    expect(await sharp(Buffer.from(svg)).metadata()).toMatchObject({ format: 'svg' });
    const [other] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Save as PDF' }).click(),
    ]);
    expect(other.suggestedFilename()).toMatch(/\.pdf$/);
    const pdf = await readFile(await other.path(), 'latin1');
    // 60 cm, in points.
    expect(pdf).toContain('/MediaBox [0 0 1701.');
    await page.getByRole('radio', { name: /^Automatic/ }).click();
  });
});

test.describe('Another method in a zone', () => {
  test('shows there what that method makes, and nowhere else', async () => {
    const { page } = bench;
    await bench.open('Enamel badge');
    await bench.openSection('Enlarge');
    await page.getByRole('radio', { name: /^Lanczos-3/ }).click();
    await bench.zoom('zoom-result-1');
    const spot = { x: 300, y: 200, width: 60, height: 60 };
    const plain = await bench.pixels('Trial A', spot);
    await page.getByText('Other methods in zones').click();
    await page.getByRole('button', { name: 'Another method in a zone' }).click();
    await page.getByLabel('Method in zone 1').selectOption('nearest');
    await page.locator('label[for="zone-look-hidden"]').click();
    await bench.resolved();
    // Nothing belongs to the zone yet; inverted it is everything.
    expect(await bench.pixels('Trial A', spot)).toEqual(plain);
    await page.getByLabel('Inverted').click();
    await bench.resolved();
    const inside = await bench.pixels('Trial A', spot);
    expect(inside).not.toEqual(plain);
    await page.getByRole('button', { name: 'Done' }).click();
    await page.getByRole('button', { name: 'Take this part out' }).click();
    await page.getByRole('radio', { name: /^Nearest neighbour/ }).click();
    await bench.resolved();
    expect(await bench.pixels('Trial A', spot)).toEqual(inside);
    await page.getByRole('radio', { name: /^Automatic/ }).click();
    await bench.zoom('zoom-fit');
  });
});

test.describe('Trials', () => {
  test('branch, are named, compared and deleted, and come back', async () => {
    const { page } = bench;
    await bench.open('Enamel badge');
    const trials = page.getByRole('group', { name: 'Trials' });
    await page.getByRole('button', { name: 'Branch this trial' }).click();
    await expect(trials.getByRole('button')).toHaveText(['Trial A', 'Trial B']);
    await bench.openSection('Enlarge');
    await page.getByRole('radio', { name: /^Nearest neighbour/ }).click();
    await page.locator('label[for="compare-side by side"]').click();
    await expect(page.getByLabel('Compared with')).toHaveValue('trial a');
    await expect(page.getByLabel('Compared with').locator('option:checked')).toHaveText('Trial A');
    await bench.resolved();
    await page.getByRole('button', { name: 'More about Trial B' }).click();
    await page.getByRole('button', { name: 'Rename …' }).click();
    await page.getByLabel('Name of the trial').fill('Squares');
    await page.getByLabel('Name of the trial').press('Enter');
    await expect(trials.getByRole('button', { name: 'Squares' })).toBeVisible();
    await expect(page.getByRole('button', { name: 'Run Squares' })).toBeVisible();
    await page.getByRole('button', { name: 'More about Squares' }).click();
    await page.getByRole('button', { name: 'Delete' }).click();
    await expect(trials.getByRole('button')).toHaveText(['Trial A']);
    await page.keyboard.press('Control+z');
    await expect(trials.getByRole('button')).toHaveText(['Trial A', 'Squares']);
    await trials.getByRole('button', { name: 'Trial A' }).click();
    await expect(page.getByRole('button', { name: 'Run Trial A' })).toBeVisible();
  });

  test('lay their result into a zone of another', async () => {
    const { page } = bench;
    await bench.openSection('Finish');
    await page.getByRole('button', { name: 'Add a step' }).click();
    await page.getByRole('button', { name: /^From another trial/ }).click();
    await page.getByLabel('The other trial').selectOption({ label: 'Squares' });
    await expect(page.locator('.step.open')).toContainText('100 % of another trial');
    await bench.zoom('zoom-result-1');
    await bench.resolved();
  });

  test('wait in a queue that is ordered and cancelled from the top bar', async () => {
    const { page } = bench;
    await bench.openSection('Size');
    await page.getByLabel('Resolution', { exact: true }).fill('340');
    await page.getByLabel('Resolution', { exact: true }).press('Enter');
    const trials = page.getByRole('group', { name: 'Trials' });
    const run = async (name: string) => {
      await trials.getByRole('button', { name }).click();
      await page.getByRole('button', { name: `Run ${name}` }).click();
    };
    await run('Trial A');
    await run('Squares');
    // Asked for again as it is, a run that waits would be the same one.
    await trials.getByRole('button', { name: 'Trial A' }).click();
    await bench.openSection('Size');
    await page.getByLabel('Resolution', { exact: true }).fill('341');
    await page.getByLabel('Resolution', { exact: true }).press('Enter');
    await run('Trial A');
    await page.getByLabel('Runs under way').click();
    const queued = page.locator('.queued');
    await expect(queued).toHaveCount(3);
    await expect(queued.nth(2)).toContainText(/Trial A.*waits, \d+/);
    await queued.nth(2).getByRole('button', { name: 'Earlier' }).click();
    await expect(queued.nth(1)).toContainText('Trial A');
    await expect(queued.nth(2)).toContainText('Squares');
    while ((await queued.count()) > 0) {
      const count = await queued.count();
      await queued.last().getByRole('button', { name: 'Cancel' }).click();
      await expect(queued).toHaveCount(count - 1);
    }
    await expect(page.getByLabel('Runs under way')).toHaveCount(0);
  });
});
