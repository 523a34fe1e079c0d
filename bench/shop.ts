import { spawn } from 'node:child_process';
import { chromium, type Page } from '@playwright/test';
import config from '../playwright.config';

const PORT = 4392;
const url = `http://127.0.0.1:${PORT}`;

/** A page on a fresh demo shop of its own, for as long as something is measured there. */
export async function onDemoShop(
  viewport: { width: number; height: number },
  measure: (page: Page, url: string) => Promise<void>,
): Promise<void> {
  const server = spawn(process.execPath, ['scripts/demo.mjs', '--fresh'], {
    stdio: 'ignore',
    env: { ...process.env, PORT: String(PORT), LONTANO_DATA: 'var/bench' },
  });
  const answers = () =>
    fetch(`${url}/api/jobs`).then(
      (answer) => answer.ok,
      () => false,
    );
  for (let tries = 0; tries < 600 && !(await answers()); tries++) {
    await new Promise((resolve) => setTimeout(resolve, 1000));
  }
  const { launchOptions } = config.use!;
  // As on the machine of somebody who works with pictures: what is composed is composed as chromium does by itself.
  const args = launchOptions!.args!.filter((arg) => arg !== '--disable-gpu');
  const browser = await chromium.launch({ ...launchOptions, args });
  try {
    const page = await browser.newPage({ viewport });
    // What runs on the page is handed over as text, with a helper that the loader puts around functions.
    await page.addInitScript('globalThis.__name = (of) => of;');
    await page.goto(url);
    await measure(page, url);
  } finally {
    await browser.close();
    server.kill('SIGTERM');
  }
}

/** Waits until every pane shows its final pixels. */
export const painted = (page: Page) =>
  page.waitForFunction(() => {
    const panes = [...document.querySelectorAll<HTMLCanvasElement>('.pane canvas')];
    return panes.length > 0 && panes.every((pane) => pane.dataset.painted === pane.dataset.wanted);
  });

/** Opens a section of the ticket. */
export async function openSection(page: Page, section: string): Promise<void> {
  const button = page.getByRole('button', { name: new RegExp(`^${section} `) });
  if ((await button.getAttribute('aria-expanded')) !== 'true') await button.click();
}
