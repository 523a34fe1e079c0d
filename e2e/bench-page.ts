import { readFile } from 'node:fs/promises';
import { expect, test, type BrowserContext, type Locator, type Page } from '@playwright/test';

/**
 * One bench for all tests of a file, which follow each other on it.
 * @param begin what is done on it before the first
 */
export function sharedBench(begin = async (_: BenchPage): Promise<void> => {}): BenchPage {
  const bench = new BenchPage();
  let context: BrowserContext;
  test.beforeAll(async ({ browser }) => {
    context = await browser.newContext();
    bench.page = await context.newPage();
    await begin(bench);
  });
  test.afterAll(() => context.close());
  test.describe.configure({ mode: 'serial' });
  return bench;
}

/** The bench as a technician meets it. */
export class BenchPage {
  page!: Page;

  constructor(page?: Page) {
    if (page) this.page = page;
  }

  async open(title: string): Promise<void> {
    await this.page.goto('/');
    // The page shows before it listens.
    await expect(async () => {
      // A long board holds the rows in view alone.
      const search = this.page.getByLabel('Search job or customer');
      await search.fill('');
      await search.fill(title.replace('$', ''));
      await this.page.getByRole('row', { name: new RegExp(title) }).click();
      await this.page.waitForURL(/\/bench\//, { timeout: 8000 });
    }).toPass();
    await this.resolved();
  }

  section(name: string): Locator {
    return this.page.getByRole('button', { name: new RegExp(`^${name} `) });
  }

  async openSection(name: string): Promise<void> {
    const button = this.section(name);
    if ((await button.getAttribute('aria-expanded')) !== 'true') await button.click();
    await expect(button).toHaveAttribute('aria-expanded', 'true');
  }

  /** Waits until what was changed is kept, and every pane shows the pixels of the settings as they are. */
  async resolved(): Promise<void> {
    await this.page.waitForFunction(() => {
      if (document.querySelector('.ticket[data-saving="true"]')) return false;
      const panes = [...document.querySelectorAll<HTMLCanvasElement>('.pane canvas')];
      return (
        panes.length > 0 && panes.every((pane) => pane.dataset.painted === pane.dataset.wanted)
      );
    });
  }

  canvas(name: string): Locator {
    return this.page.getByRole('img', { name, exact: true });
  }

  /** RGBA of a rectangle of a pane, in device pixels, once it shows what is wanted of it. */
  pixels(name: string, at: { x: number; y: number; width: number; height: number }) {
    return this.canvas(name).evaluate(async (element, { x, y, width, height }) => {
      const canvas = element as HTMLCanvasElement;
      // Between two looks another size of the window may have come.
      while (canvas.isConnected && canvas.dataset.painted !== canvas.dataset.wanted)
        await new Promise((resolve) => setTimeout(resolve, 20));
      return [...canvas.getContext('2d')!.getImageData(x, y, width, height).data];
    }, at);
  }

  /** Runs the trial and hands back the file. */
  async run(ending: RegExp): Promise<Buffer> {
    await this.openSection('Output');
    const runs = this.page.locator('.run');
    const before = await runs.count();
    await this.page.getByRole('button', { name: 'Run Trial A' }).click();
    // The first of the list is an older run until the new one is told of.
    await expect(runs).toHaveCount(before + 1);
    const run = runs.first();
    await expect(run).toHaveAttribute('data-state', 'done', { timeout: 120_000 });
    const [download] = await Promise.all([
      this.page.waitForEvent('download'),
      run.getByRole('link', { name: ending }).click(),
    ]);
    return readFile(await download.path());
  }

  /** The colour of a pane's device pixel. */
  pixel(name: string, x: number, y: number): Promise<number[]> {
    return this.pixels(name, { x, y, width: 1, height: 1 });
  }

  async zoom(id: string): Promise<void> {
    await this.page.locator(`label[for="${id}"]`).click();
    await this.resolved();
  }
}
