import { expect, test } from '@playwright/test';
import { Comparing } from '../src/core/shop/comparing';
import { sharedBench } from './bench-page';

const bench = sharedBench(async (on) => {
  await on.open('Brass instruments');
  await on.openSection('Compare');
});

const press = async (keys: string) => {
  await bench.page.locator('.view').focus();
  await bench.page.keyboard.press(keys);
};
const zoomed = () =>
  bench.page.locator('.zooms input:checked').evaluateAll((all) => all.map(({ id }) => id));

test.describe('Places', () => {
  test('are suggested, and N walks them at 1:1 and on the original’s grid', async () => {
    const { page } = bench;
    const stops = page.locator('.stop');
    await expect(stops.filter({ hasText: 'lettering' }).first()).toBeVisible();
    await expect(stops.filter({ hasText: 'edges' }).first()).toBeVisible();
    await press('n');
    await expect(stops.first()).toHaveAttribute('aria-current', 'true');
    expect(await zoomed()).toEqual(['zoom-result-1']);
    await press('n');
    await expect(stops.first()).toHaveAttribute('aria-current', 'true');
    expect(await zoomed()).toEqual(['zoom-original-4']);
    await press('n');
    await expect(stops.nth(1)).toHaveAttribute('aria-current', 'true');
    await press('Shift+N');
    await press('Shift+N');
    await expect(stops.first()).toHaveAttribute('aria-current', 'true');
    expect(await zoomed()).toEqual(['zoom-result-1']);
  });

  test('show picture up to the rim of the stage, however near the paper’s edge they are', async () => {
    const { page } = bench;
    const stops = page.locator('.stop');
    for (let i = 0; i < (await stops.count()); i++) {
      await stops.nth(i).click();
      await bench.resolved();
      const name = 'Trial A';
      const { width, height } = await bench
        .canvas(name)
        .evaluate((canvas: HTMLCanvasElement) => ({ width: canvas.width, height: canvas.height }));
      for (const [x, y] of [
        [0, 0],
        [width - 1, 0],
        [0, height - 1],
        [width - 1, height - 1],
      ] as const) {
        expect((await bench.pixel(name, x, y))[3], `stop ${i} at ${x}, ${y}`).toBe(255);
      }
    }
  });

  test('are marked with a note, kept beside the history, and put back', async () => {
    const { page } = bench;
    await page.getByRole('button', { name: 'List of changes' }).click();
    const history = await page.locator('.dropdown-menu.show .dropdown-item').count();
    await page.keyboard.press('Escape');
    await bench.zoom('zoom-result-1');
    const stage = (await page.locator('.view').boundingBox())!;
    await page.mouse.move(stage.x + 700, stage.y + 260);
    await press('m');
    const mark = page.locator('.stop').filter({ hasText: 'mark' });
    await expect(mark).toHaveAttribute('aria-current', 'true');
    const note = page.getByLabel('Note to this mark');
    await note.fill('Second screw: rim?');
    await note.press('Enter');
    await page.reload();
    await bench.resolved();
    await bench.openSection('Compare');
    await mark.click();
    await expect(note).toHaveValue('Second screw: rim?');
    await page.getByRole('button', { name: 'List of changes' }).click();
    await expect(page.locator('.dropdown-menu.show .dropdown-item')).toHaveCount(history);
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Take this mark away' }).click();
    await expect(mark).toHaveCount(0);
    await page.getByRole('button', { name: 'Put it back' }).click();
    await expect(mark).toHaveCount(1);
  });

  test('that were seen at 1:1 are counted, and the sweep goes to those that were not', async () => {
    const { page } = bench;
    await page.locator('label[for="compare-result alone"]').click();
    const share = page.locator('.sweep .figure');
    await bench.zoom('zoom-fit');
    const before = parseFloat((await share.textContent())!);
    await press('s');
    await bench.resolved();
    await expect.poll(async () => parseFloat((await share.textContent())!)).toBeGreaterThan(before);
    const once = parseFloat((await share.textContent())!);
    await press('s');
    await bench.resolved();
    await expect.poll(async () => parseFloat((await share.textContent())!)).toBeGreaterThan(once);
    // What was seen is kept, and counts after a reload as well.
    const twice = await share.textContent();
    const piece = await page.evaluate(async () => {
      const job = location.pathname.split('/').at(-1);
      return ((await (await fetch(`/api/jobs/${job}`)).json()) as { piece: { id: number } }).piece;
    });
    await expect
      .poll(async () => {
        const answer = await page.request.get(`/api/pieces/${piece.id}/comparing`);
        return Comparing.parse(await answer.json()).sweeps.length;
      })
      .toBeGreaterThan(0);
    await page.waitForTimeout(1800);
    await page.reload();
    await bench.resolved();
    await bench.openSection('Compare');
    await expect(share).toHaveText(twice!);
    // Another result has not been seen.
    await bench.openSection('Finish');
    await page.getByRole('slider').filter({ visible: true }).first().focus();
    await page.keyboard.press('PageUp');
    await bench.openSection('Compare');
    await expect(share).toHaveText('0 %');
    await page.keyboard.press('Control+z');
    await expect(share).toHaveText(twice!);
  });
});

test.describe('A probe', () => {
  test('tells the rise and the overshoot of an edge in every pane', async () => {
    const { page } = bench;
    await page.locator('label[for="compare-side by side"]').click();
    await page.locator('.stop').filter({ hasText: 'edges' }).first().click();
    await bench.resolved();
    await page.getByRole('button', { name: 'Lay a probe' }).click();
    await expect(page.locator('.probe-end')).toHaveCount(4);
    const rows = page.locator('.beside-chart tbody tr');
    await expect(rows).toHaveCount(2);
    const end = page.getByRole('button', { name: /^Second end of the probe/ });
    await end.focus();
    for (let i = 0; i < 3; i++) await page.keyboard.press('Shift+ArrowRight');
    await expect(rows.first()).toContainText(/\d px, [\d.]+ mm|no edge here/);
    await expect(page.getByRole('img', { name: /^Levels along the probe/ })).toBeVisible();
    await page.getByLabel('What is drawn').selectOption({ label: 'R, G, B: Original' });
    // Drawn together its ends have nothing between them.
    const first = page.locator('.probe-end').first();
    const [from, to] = [
      await first.boundingBox(),
      await page.locator('.probe-end').nth(1).boundingBox(),
    ];
    await page.mouse.move(to!.x + 5, to!.y + 5);
    await page.mouse.down();
    await page.mouse.move(from!.x + 6, from!.y + 5, { steps: 4 });
    await page.mouse.up();
    await expect(page.getByText('The probe is shorter than 8 pixels')).toBeVisible();
    await press('p');
    await expect(page.locator('.probe-end')).toHaveCount(0);
  });

  test('stands beside a spectrum and a histogram of what is in view', async () => {
    const { page } = bench;
    await page.locator('label[for="measure-spectrum"]').click();
    await expect(page.getByRole('img', { name: 'Detail against scale' })).toBeVisible();
    await page.locator('label[for="measure-histogram"]').click();
    await expect(page.locator('.beside-chart li').first()).toContainText(/black [\d.]+ · white/);
    await page.getByRole('button', { name: 'Fold away' }).click();
    await expect(page.locator('.stop')).toHaveCount(0);
    await page.getByRole('button', { name: 'Show stops and probe' }).click();
    await expect(page.locator('.stop').first()).toBeVisible();
  });
});

test.describe('The size on the screen', () => {
  test('is measured once, and then the print shows as large as it hangs', async () => {
    const { page } = bench;
    await page.getByRole('button', { name: 'True size' }).click();
    const dialog = page.getByRole('dialog');
    const ppi = dialog.getByLabel('Pixels of the screen, figure');
    await ppi.fill('7');
    await ppi.press('Enter');
    await expect(dialog).toContainText('From 40 to 600');
    await ppi.fill('127');
    await ppi.press('Enter');
    const card = dialog.locator('.card-frame');
    await expect.poll(async () => Math.round((await card.boundingBox())!.width)).toBe(428);
    await dialog.getByRole('button', { name: 'Keep' }).click();
    await bench.resolved();
    // Rulers tell it: a centimetre is 50 pixels of a screen of 127 to the inch.
    await press('r');
    const figures = page
      .locator('.rulers')
      .first()
      .locator('g')
      .filter({ has: page.locator('text') });
    const [one, other] = await figures.evaluateAll((all) =>
      all.slice(0, 2).map((tick) => ({
        at: Number(/translate\(([-\d.]+)/.exec(tick.getAttribute('transform')!)![1]),
        cm: Number(tick.textContent),
      })),
    );
    expect((other!.at - one!.at) / (other!.cm - one!.cm)).toBeCloseTo(50, 1);
    await press('5');
    await bench.resolved();
    await expect(page.locator('.caption').last()).toContainText(/as seen from [\d.]+ m/);
    await press('r');
    await page.reload();
    await bench.resolved();
    await press('3');
    await expect(page.getByRole('dialog')).toHaveCount(0);
  });

  test('follows a double click, a pinch and the wheel at the pointer', async () => {
    const { page } = bench;
    await press('0');
    const stage = (await page.locator('.view').boundingBox())!;
    const at = { x: stage.x + stage.width * 0.7, y: stage.y + stage.height * 0.4 };
    await page.mouse.dblclick(at.x, at.y);
    await bench.resolved();
    await expect(page.locator('#zoom-result-1')).toBeChecked();
    await page.mouse.dblclick(at.x, at.y);
    await expect(page.locator('#zoom-fit')).toBeChecked();
    await page.mouse.move(at.x, at.y);
    await page.keyboard.down('Control');
    await page.mouse.wheel(0, -120);
    await page.keyboard.up('Control');
    await expect(page.locator('#zoom-fit')).not.toBeChecked();
  });
});

test.describe('A comparison sheet', () => {
  test('is asked for with its places, made meanwhile, and opened', async () => {
    const { page } = bench;
    await bench.openSection('Compare');
    await page.getByRole('button', { name: 'Comparison sheet …' }).click();
    const dialog = page.getByRole('dialog');
    const places = dialog.getByRole('checkbox');
    await expect(places.first()).toBeChecked();
    await places.first().uncheck();
    await dialog.locator('label[for="sheet-paper-A3"]').click();
    await dialog.getByRole('button', { name: 'Make it' }).click();
    const link = page.getByRole('link', { name: 'Open the last one' });
    await expect(link).toBeVisible({ timeout: 60_000 });
    const answer = await page.request.get((await link.getAttribute('href'))!);
    expect(answer.headers()['content-type']).toBe('application/pdf');
    expect((await answer.body()).subarray(0, 5).toString()).toBe('%PDF-');
  });
});
