import { expect, test, type CDPSession, type Page } from '@playwright/test';
import { BenchPage } from './bench-page';

/** Fingers on a tablet's screen. */
class Fingers {
  constructor(private readonly session: CDPSession) {}

  private send = (type: string, points: [number, number][]) =>
    this.session.send('Input.dispatchTouchEvent', {
      type: type as 'touchStart',
      touchPoints: points.map(([x, y], id) => ({ x, y, id })),
    });

  /** Puts fingers down one after the other, moves them in steps, and lifts them. */
  async move(from: [number, number][], to: [number, number][]): Promise<void> {
    for (let i = 1; i <= from.length; i++) await this.send('touchStart', from.slice(0, i));
    const STEPS = 12;
    for (let step = 1; step <= STEPS; step++) {
      const share = step / STEPS;
      await this.send(
        'touchMove',
        from.map(([x, y], i) => [x + (to[i]![0] - x) * share, y + (to[i]![1] - y) * share]),
      );
    }
    await this.send('touchEnd', []);
  }

  /** Rests until something has happened. */
  async hold(at: [number, number], until: () => Promise<void>): Promise<void> {
    await this.send('touchStart', [at]);
    await until();
    await this.send('touchEnd', []);
  }
}

const zoom = (page: Page) =>
  page.locator('.look-bar input:checked[name="zoom"]').getAttribute('id');

test('on a tablet the bench is worked by touch', async ({ browser }) => {
  const context = await browser.newContext({
    viewport: { width: 1180, height: 820 },
    hasTouch: true,
  });
  const page = await context.newPage();
  const fingers = new Fingers(await context.newCDPSession(page));
  const bench = new BenchPage(page);
  await bench.open('Dome at dusk');
  const box = (await page.locator('.view').boundingBox())!;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];

  // Fingers apart: closer. Then both the same way: the picture goes with them.
  await fingers.move(
    [
      [x - 30, y],
      [x + 30, y],
    ],
    [
      [x - 220, y],
      [x + 220, y],
    ],
  );
  expect(await zoom(page)).not.toBe('zoom-fit');
  await bench.zoom('zoom-result-1');
  const seen = () => bench.pixels('Trial A', { x: 200, y: 200, width: 40, height: 40 });
  const before = await seen();
  const two = (dx: number): [number, number][] => [
    [x - 40 + dx, y + 60],
    [x + 40 + dx, y + 60],
  ];
  await fingers.move(two(0), two(-90));
  await bench.resolved();
  expect(await seen()).not.toEqual(before);

  // With a brush in hand two fingers move the picture too, and paint nothing; one paints.
  await bench.openSection('Clean');
  await page.getByText('Zones').click();
  await page.getByRole('button', { name: 'Begin a zone' }).click();
  const changes = () => page.getByRole('button', { name: 'List of changes' });
  await bench.resolved();
  const job = page.url().split('/').at(-1)!.split('#')[0];
  const labels = async () => {
    const { piece } = (await (await page.request.get(`/api/jobs/${job}`)).json()) as {
      piece: { history: { label: string }[] };
    };
    return piece.history.map(({ label }) => label);
  };
  await fingers.move(two(0), two(70));
  await bench.resolved();
  expect((await labels()).some((label) => label.startsWith('Painted'))).toBe(false);
  await fingers.move([[x, y]], [[x + 60, y + 20]]);
  await expect.poll(labels).toContainEqual(expect.stringMatching(/^Painted on/));

  // A long press tells what hovering would, and does nothing else.
  const undo = (await page.getByRole('button', { name: 'Undo' }).boundingBox())!;
  const count = (await labels()).length;
  await fingers.hold([undo.x + undo.width / 2, undo.y + undo.height / 2], () =>
    expect(page.getByRole('tooltip')).toHaveText('Undo (Ctrl Z)'),
  );
  await bench.resolved();
  expect(await labels()).toHaveLength(count);
  await expect(changes()).toBeVisible();
  await context.close();
});
