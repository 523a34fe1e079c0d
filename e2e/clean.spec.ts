import { expect, test } from '@playwright/test';
import { BenchPage } from './bench-page';

/** Cleaning, zones and retouching on the archive scan, which has dust, scratches and faded tones. */
test.describe('cleaning', () => {
  test('limits a step to a painted zone, and undoes stroke by stroke', async ({ page }) => {
    const bench = new BenchPage(page);
    await bench.open('The long telescope');
    await bench.openSection('Clean');
    await page.getByRole('button', { name: /^Tones/ }).click();
    await page.getByLabel('Where tones works').selectOption({ label: 'a new zone …' });
    const zone = page.getByRole('group', { name: 'Zone Zone 1' });
    await expect(zone).toBeVisible();
    expect(await page.evaluate(() => document.documentElement.scrollTop)).toBe(0);
    await bench.resolved();

    // An empty zone: tones work nowhere. What is painted gets them.
    const sides = { width: 40, height: 40 };
    const [inside, beside] = [
      { x: 300, y: 350, ...sides },
      { x: 700, y: 150, ...sides },
    ];
    const [before, far] = [
      await bench.pixels('Trial A', inside),
      await bench.pixels('Trial A', beside),
    ];
    const stage = (await page.locator('.view').boundingBox())!;
    const stroke = async (x: number, y: number, dx: number) => {
      const kept = page.waitForResponse(
        (answer) => answer.url().includes('/changes') && answer.request().method() === 'POST',
      );
      await page.mouse.move(stage.x + x, stage.y + y);
      await page.mouse.down();
      await page.mouse.move(stage.x + x + dx, stage.y + y, { steps: 6 });
      await page.mouse.up();
      expect((await kept).status()).toBe(200);
      await bench.resolved();
    };
    await stroke(280, 370, 80);
    const painted = await bench.pixels('Trial A', inside);
    expect(painted).not.toEqual(before);
    expect(await bench.pixels('Trial A', beside)).toEqual(far);

    await page.keyboard.down('Alt');
    await stroke(280, 370, 80);
    await page.keyboard.up('Alt');
    expect(await bench.pixels('Trial A', inside)).toEqual(before);

    await page.getByRole('button', { name: 'Undo' }).click();
    await bench.resolved();
    await expect.poll(() => bench.pixels('Trial A', inside)).toEqual(painted);
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect.poll(() => bench.pixels('Trial A', inside)).toEqual(before);
    await page.getByRole('button', { name: 'Redo' }).click();
    await expect.poll(() => bench.pixels('Trial A', inside)).toEqual(painted);

    // Strokes in quick succession don't lose each other.
    const places = [
      { x: 480, y: 560 },
      { x: 620, y: 500 },
      { x: 760, y: 440 },
    ];
    const spots = () =>
      Promise.all(places.map(({ x, y }) => bench.pixels('Trial A', { x, y, width: 6, height: 6 })));
    const unpainted = await spots();
    for (const { x, y } of places) {
      await page.mouse.move(stage.x + x, stage.y + y);
      await page.mouse.down();
      await page.mouse.move(stage.x + x + 8, stage.y + y + 4);
      await page.mouse.up();
    }
    await expect
      .poll(async () =>
        (await spots()).every((now, i) => JSON.stringify(now) !== JSON.stringify(unpainted[i])),
      )
      .toBe(true);

    // Computed parts join what was painted; the zone can be seen alone.
    await zone.getByRole('button', { name: /Select automatically/ }).click();
    await page.getByRole('button', { name: 'Highlights', exact: true }).click();
    await expect(zone.getByText('Tones', { exact: true })).toBeVisible();
    await zone.locator('label[for="zone-look-alone"]').click();
    const map = page.getByRole('img', { name: 'Zone Zone 1' });
    await expect
      .poll(() =>
        map.evaluate((canvas) => {
          const context = (canvas as HTMLCanvasElement).getContext('2d')!;
          const [r, g, b, a] = context.getImageData(300, 370, 1, 1).data;
          return a === 255 && r === g && g === b;
        }),
      )
      .toBe(true);
    // A colour is picked by clicking on it, and Escape leaves the zone.
    await zone.getByRole('button', { name: /Select automatically/ }).click();
    await page.getByRole('button', { name: 'A colour', exact: true }).click();
    await zone.getByRole('button', { name: 'Pick from the picture' }).click();
    const about = await bench.pixels('Trial A', { x: 698, y: 148, width: 5, height: 5 });
    const mean = (channel: number) =>
      about.filter((_, i) => i % 4 === channel).reduce((sum, level) => sum + level, 0) / 25;
    await page.mouse.click(stage.x + 700, stage.y + 150);
    const picked = zone.getByLabel('Picked colour');
    await expect(picked).not.toHaveValue('#808080');
    const value = await picked.inputValue();
    for (const i of [0, 1, 2]) {
      const level = parseInt(value.slice(1 + 2 * i, 3 + 2 * i), 16);
      expect(Math.abs(level - mean(i))).toBeLessThan(1);
    }
    await page.keyboard.press('Escape');
    await expect(zone).toBeHidden();
    await expect(page.getByRole('button', { name: /^Tones.*Zone 1/ })).toBeVisible();
  });

  test('finds dust, heals it, and undoes a single spot', async ({ page }) => {
    const bench = new BenchPage(page);
    await bench.open('The long telescope');
    await bench.openSection('Clean');
    await page.getByRole('button', { name: 'Add a step' }).click();
    await page.getByRole('button', { name: /^Dust and scratches/ }).click();
    await page.getByRole('button', { name: 'Look for dust and scratches' }).click();
    const suggested = page.getByRole('button', { name: 'Heal this suggested spot' });
    await expect(suggested.first()).toBeVisible({ timeout: 90_000 });
    const found = await suggested.count();
    expect(found).toBeGreaterThan(20);
    await suggested.first().press('Enter');
    await expect(suggested).toHaveCount(found - 1);
    await page.getByRole('button', { name: 'Heal all' }).click();
    const spots = page.getByRole('list', { name: 'Spots' });
    await expect(spots.getByRole('listitem')).toHaveCount(found);
    await bench.resolved();

    // One is looked at closely, undone, and healed again by hand.
    await spots.getByRole('button', { name: /^2\. healed/ }).click();
    await bench.resolved();
    const box = (await bench.canvas('Trial A').boundingBox())!;
    const middle = {
      x: Math.round(box.width / 2) - 20,
      y: Math.round(box.height / 2) - 20,
      width: 40,
      height: 40,
    };
    const healed = await bench.pixels('Trial A', middle);
    await spots.getByRole('button', { name: 'Undo spot 2', exact: true }).click();
    await expect(spots.getByRole('listitem')).toHaveCount(found - 1);
    await bench.resolved();
    expect(await bench.pixels('Trial A', middle)).not.toEqual(healed);
    await page.locator('label[for^="spotting-"][for$="-heal"]').click();
    await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
    await expect(spots.getByRole('listitem')).toHaveCount(found);

    // Cloning asks for its source first.
    await page.locator('label[for^="spotting-"][for$="-clone"]').click();
    await page.mouse.click(box.x + box.width / 2 + 120, box.y + box.height / 2);
    await page.mouse.click(box.x + box.width / 2 - 60, box.y + box.height / 2);
    await expect(spots.getByRole('listitem').last()).toContainText('cloned');
  });

  test('shows what was removed, the figures, and the same bytes in the file', async ({ page }) => {
    const bench = new BenchPage(page);
    await bench.open('The long telescope');
    await bench.openSection('Clean');
    const figures = page.locator('.cleaning-figures');
    await expect(figures.getByRole('row', { name: /Cleaned/ })).not.toContainText('…');
    await page.locator('label[for="removed-4"]').click();
    await expect(page.getByText('what cleaning took, × 4')).toBeVisible();
    await bench.resolved();
    await page.locator('label[for="removed-off"]').click();

    // A network ends on its own result, not on the quick estimate, and hears what is set by hand.
    await page.getByRole('button', { name: /^Restore/ }).click();
    await bench.zoom('zoom-result-1');
    // Small: telling apart thousands of unequal figures takes a poll longer than it has.
    const part = { x: 200, y: 150, width: 40, height: 30 };
    const learned = await bench.pixels('Trial A', part);
    await page.getByLabel('Blur, figure').fill('1.4');
    await page.getByLabel('Blur, figure').press('Enter');
    await bench.resolved();
    expect(await bench.pixels('Trial A', part)).not.toEqual(learned);
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect.poll(() => bench.pixels('Trial A', part)).toEqual(learned);
  });
});
