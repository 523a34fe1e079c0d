import { expect, test, type Page } from '@playwright/test';
import { BenchPage } from './bench-page';

/** Windows that people work in, in CSS pixels; the last is 1280 x 800 at 150 %. */
const WINDOWS = [
  [1024, 700],
  [1280, 800],
  [1440, 900],
  [1920, 1080],
  [2560, 1440],
  [853, 533],
] as const;

const FILES = ['demo/originals/enamel-badge.png', 'demo/originals/star-chart.jpg'];
const SECTIONS = ['Original', 'Size', 'Clean', 'Enlarge', 'Finish', 'Compare', 'Output'];

/** What is cut off, too small, or lies over something else, in words that name it. */
const troublesOn = (page: Page, within = 'body'): Promise<string[]> =>
  page.evaluate((within_) => {
    const troubles: string[] = [];
    const name = (element: Element) => {
      const words = (element.getAttribute('aria-label') ?? element.textContent ?? '').trim();
      return `${element.tagName.toLowerCase()}.${element.className.toString().split(' ')[0]} “${words.slice(0, 30)}”`;
    };
    const isSeen = (element: Element) =>
      element.checkVisibility({ opacityProperty: true, visibilityProperty: true }) &&
      !element.closest('.visually-hidden, [aria-hidden="true"]');
    if (document.documentElement.scrollWidth > innerWidth)
      troubles.push('the page scrolls sideways');
    if (document.documentElement.scrollHeight > innerHeight) troubles.push('the page scrolls');

    const walker = document.createTreeWalker(
      document.querySelector(within_)!,
      NodeFilter.SHOW_TEXT,
    );
    for (let node = walker.nextNode(); node; node = walker.nextNode()) {
      const element = node.parentElement!;
      if (!node.textContent!.trim() || !isSeen(element) || element.closest('script, style'))
        continue;
      const style = getComputedStyle(element);
      const svg = element.closest('svg');
      const scale = svg?.viewBox.baseVal.width ? svg.clientWidth / svg.viewBox.baseVal.width : 1;
      const size = parseFloat(style.fontSize) * scale;
      if (size < 12.45) troubles.push(`${name(element)} is set at ${size.toFixed(1)} px`);
      // What is cut off sideways is cut off in mid-word, unless it ends with an ellipsis that a title completes.
      for (let at: Element | null = element; at && at !== document.body; at = at.parentElement) {
        const { overflowX, textOverflow } = getComputedStyle(at);
        // A strip of places is walked along; what is hidden but for readers is a pixel wide.
        if (overflowX === 'visible' || at.matches('.stops ol') || at.clientWidth <= 1) continue;
        if (
          at.scrollWidth > at.clientWidth + 1 &&
          textOverflow !== 'ellipsis' &&
          overflowX !== 'auto'
        ) {
          troubles.push(`${name(at)} cuts off ${name(element)}`);
        }
        if (overflowX === 'auto' && at.scrollWidth > at.clientWidth + 1) {
          troubles.push(`${name(at)} scrolls sideways`);
        }
        break;
      }
    }

    const controls = [
      ...document
        .querySelector(within_)!
        .querySelectorAll<HTMLElement>(
          'button, a[href], select, input:not([type=file]):not(.btn-check), label.btn, summary, textarea',
        ),
      // A row of the board is pressed as a whole.
    ].filter((element) => isSeen(element) && !element.matches('.arrangement *, tr a'));
    /** What of a control can be pressed: less where the list that it is in was scrolled. */
    const boxOf = (element: Element) => {
      const { left, top, right, bottom } = element.getBoundingClientRect();
      const box = { left, top, right, bottom };
      for (let at = element.parentElement; at; at = at.parentElement) {
        const { overflowX, overflowY } = getComputedStyle(at);
        if (overflowX === 'visible' && overflowY === 'visible') continue;
        const clip = at.getBoundingClientRect();
        box.top = Math.max(box.top, clip.top);
        box.bottom = Math.min(box.bottom, clip.bottom);
        box.left = Math.max(box.left, clip.left);
        box.right = Math.min(box.right, clip.right);
      }
      return box;
    };
    const boxes = controls.flatMap((element) => {
      const whole = element.getBoundingClientRect();
      const box = boxOf(element);
      if (box.right - box.left < 1 || box.bottom - box.top < 1) return [];
      const inText = element.matches('p a, p button, dd a, .reason *, .soft *');
      if (!inText && (whole.width < 23.5 || whole.height < 23.5) && !element.matches('input')) {
        troubles.push(
          `${name(element)} is ${whole.width.toFixed(0)} × ${whole.height.toFixed(0)} px`,
        );
      }
      if (whole.left < -1 || whole.right > innerWidth + 1) {
        troubles.push(`${name(element)} reaches beyond the window`);
      }
      return [{ element, box }];
    });
    for (const [i, one] of boxes.entries()) {
      for (const other of boxes.slice(i + 1)) {
        if (one.element.contains(other.element) || other.element.contains(one.element)) continue;
        const across =
          Math.min(one.box.right, other.box.right) - Math.max(one.box.left, other.box.left);
        const down =
          Math.min(one.box.bottom, other.box.bottom) - Math.max(one.box.top, other.box.top);
        // Segments share their borders.
        if (across > 2 && down > 2)
          troubles.push(`${name(one.element)} and ${name(other.element)} overlap`);
      }
    }
    return [...new Set(troubles)];
  }, within);

for (const [width, height] of WINDOWS) {
  test(`at ${width} x ${height} nothing is cut off, overlaps, or is too small to be read or pressed`, async ({
    browser,
  }) => {
    const context = await browser.newContext({ viewport: { width, height } });
    const page = await context.newPage();
    await page.goto('/');
    await expect(page.locator('.jobs tbody tr').first()).toBeVisible();
    const found: Record<string, string[]> = {};
    const look = async (where: string, within?: string) => {
      const troubles = await troublesOn(page, within);
      if (troubles.length > 0) found[where] = troubles;
    };
    await look('board');
    await page
      .getByRole('checkbox', { name: /^Select job/ })
      .first()
      .check();
    await look('board, selected');
    await page.getByRole('button', { name: 'Change …' }).click();
    await look('changed', '.modal');
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'By a recipe …' }).click();
    await expect(page.getByRole('dialog').locator('.spot canvas')).toHaveCount(2);
    await look('by a recipe, from the board', '.modal');
    await page.keyboard.press('Escape');
    const bench = new BenchPage(page);
    await bench.open('Dome at dusk');
    for (const section of SECTIONS) {
      await bench.openSection(section);
      await bench.resolved();
      await look(section);
    }
    await bench.openSection('Enlarge');
    await page.getByRole('button', { name: 'Try on this spot' }).click();
    await look('Try');
    await page.getByRole('button', { name: /^More about/ }).click();
    await page.getByRole('button', { name: 'By a house recipe …' }).click();
    await expect(page.getByRole('dialog').locator('.spot canvas')).toHaveCount(2);
    await look('by a recipe', '.modal');
    await page.keyboard.press('Escape');
    await page.goto('/recipes');
    await expect(page.getByRole('article')).toBeVisible();
    await look('recipes');
    await page.goto('/batches');
    await page.getByRole('link', { name: /East wing/ }).waitFor();
    await look('batches');
    await page.locator('input[aria-label="Files"]').setInputFiles(FILES);
    await expect(page.getByRole('dialog')).toBeVisible();
    await look('new batch', '.modal');
    await page.keyboard.press('Escape');
    await page.getByRole('link', { name: /East wing/ }).click();
    await expect(page.locator('.jobs tbody tr').first()).toBeVisible();
    await look('batch');
    await page
      .getByRole('checkbox', { name: /^Select / })
      .first()
      .check();
    await look('batch, selected');
    await page.getByRole('button', { name: 'Change …' }).click();
    await look('batch, changed', '.modal');
    await page.keyboard.press('Escape');
    await page.getByText('One by one', { exact: true }).click();
    await expect(page.locator('.both .spot canvas')).toHaveCount(2);
    await look('batch, one by one');
    for (const part of ['How it stands', 'Settings', 'Storage', 'Backup']) {
      await page.goto('/shop');
      await page.getByRole('link', { name: part }).click();
      await expect(page.locator('.shop-parts h2').first()).toBeVisible();
      await look(`shop, ${part}`);
    }
    expect(found).toEqual({});
    await context.close();
  });
}
