import { expect, type Locator, type Page } from '@playwright/test';

/** The bench as a technician meets it. */
export class BenchPage {
  constructor(readonly page: Page) {}

  async open(title: string): Promise<void> {
    await this.page.goto('/');
    await this.page.getByRole('row', { name: new RegExp(title) }).click();
    await this.settled();
  }

  section(name: string): Locator {
    return this.page.getByRole('button', { name: new RegExp(`^${name} `) });
  }

  async openSection(name: string): Promise<void> {
    const button = this.section(name);
    if ((await button.getAttribute('aria-expanded')) !== 'true') await button.click();
    await expect(button).toHaveAttribute('aria-expanded', 'true');
  }

  /** Waits until every pane shows the pixels of the settings as they are. */
  async settled(): Promise<void> {
    await this.page.waitForFunction(() => {
      const panes = [...document.querySelectorAll<HTMLCanvasElement>('.pane canvas')];
      return (
        panes.length > 0 && panes.every((pane) => pane.dataset.painted === pane.dataset.wanted)
      );
    });
  }

  canvas(name: string): Locator {
    return this.page.getByRole('img', { name });
  }

  /** The colour of a pane's device pixel. */
  pixel(name: string, x: number, y: number): Promise<number[]> {
    return this.canvas(name).evaluate(
      (canvas, at) => [
        ...(canvas as HTMLCanvasElement).getContext('2d')!.getImageData(at.x, at.y, 1, 1).data,
      ],
      { x, y },
    );
  }

  async zoom(id: string): Promise<void> {
    await this.page.locator(`label[for="${id}"]`).click();
    await this.settled();
  }
}
