import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test, type APIRequestContext, type Page } from '@playwright/test';
import { networksFrom } from '../src/core/learned/networks';
import { toScreen } from '../src/core/raster/samples';
import type { Raster } from '../src/core/raster/raster';
import { contains, type Region } from '../src/core/raster/region';
import { canonicalJson } from '../src/core/recipe/canonical';
import type { Recipe } from '../src/core/recipe/recipe';
import { resolveRecipe } from '../src/core/recipe/resolve';
import { originalOf } from '../src/core/recipe/original';
import { asFarAs, stagesOf } from '../src/core/recipe/stages';
import type { Trial } from '../src/core/recipe/work';
import { Kept } from '../src/core/render/kept';
import { render } from '../src/core/render/render';
import { Comparing } from '../src/core/shop/comparing';
import { JobView, Piece, TakenIn } from '../src/core/shop/job';
import { artifactOf } from '../src/core/shop/task';
import { random } from '../src/core/testing';
import { degradedPath, pictures } from '../demo/pictures';
import { decode } from '../src/server/codecs/decode';
import { decodeTask } from '../src/server/codecs/decoded';
import { openRaw, type RawFile } from '../src/server/codecs/raw';
import { modelBytes } from '../src/server/files/models';
import { BenchPage } from './bench-page';

const MOVES = Number(process.env.WALK ?? 200);
const SEED = Number(process.env.WALK_SEED ?? 20261127);
// Walked again, a pane that once showed something else might not: one failure is one too many.
test.describe.configure({ retries: 0 });

/** Side of the square in the pane's middle that is compared. */
const SIDE = 24;

/** What a pane wants, as it says itself, and the pixels that it shows in its middle. */
const shown = (page: Page) =>
  page.locator('.pane canvas').evaluateAll(
    (canvases, side) =>
      canvases.map((element) => {
        const canvas = element as HTMLCanvasElement;
        const x = Math.floor(canvas.width / 2 - side / 2);
        const y = Math.floor(canvas.height / 2 - side / 2);
        const { data } = canvas.getContext('2d')!.getImageData(x, y, side, side);
        const { wanted, painted, exact, left, top } = canvas.dataset;
        return {
          name: canvas.getAttribute('aria-label')!,
          ...{ wanted, painted, exact: exact === 'true', at: { x, y }, data: [...data] },
          /** where the layer's grid begins on the canvas */
          grid: { x: Number(left), y: Number(top) },
        };
      }),
    SIDE,
  );

test('a pane shows what its name says, whatever was done before', async ({ page }) => {
  test.setTimeout(900_000);
  const folder = await mkdtemp(join(tmpdir(), 'lontano-walk-'));
  const raw = join(folder, 'dome.raw');
  await decode(decodeTask(degradedPath(pictures[0]!), raw));
  const source = await openRaw(raw);
  /** what panes read, by its digest: the original, and the file of a run */
  const sources = new Map<string, RawFile>();
  const tools = { network: networksFrom(modelBytes), store: new Kept(64 << 20) };
  const next = random(SEED);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(next() * list.length)]!;

  const bench = new BenchPage(page);
  // The screen is measured, so that the print can be looked at in its size.
  await page.addInitScript(() =>
    localStorage.setItem(
      'lontano-screen',
      JSON.stringify({ state: { ppi: 110, sitting: 0.6 }, version: 0 }),
    ),
  );
  await begin(page.request);
  await bench.open('Walked at random');
  const jobId = page.url().split('/').at(-1)!;
  const read = async () =>
    JobView.parse(await (await page.request.get(`/api/jobs/${jobId}`)).json());
  await bench.openSection('Output');
  const written = join(folder, 'written.tif');
  await writeFile(written, await bench.run(/\.tif$/));
  await decode(decodeTask(written, `${written}.raw`));
  const begun = await read();
  sources.set(begun.piece.digest, source);
  const file = artifactOf(begun.runs[0]!, 'result')!.digest!;
  sources.set(file, await openRaw(`${written}.raw`));
  await bench.openSection('Enlarge');
  await bench.zoom('zoom-result-1');

  const key = async (keys: string) => {
    await page.locator('.view').focus();
    await page.keyboard.press(keys);
  };
  const slider = async (section: string, keys: string) => {
    await bench.openSection(section);
    const ranges = page.getByRole('slider').filter({ visible: true });
    const count = await ranges.count();
    if (count < 2) return;
    const range = ranges.nth(Math.floor(next() * (count - 1)));
    await range.focus();
    await page.keyboard.press(keys);
  };
  const moves: Record<string, () => Promise<unknown>> = {
    branch: () => key('b'),
    trial: async () => {
      const tabs = page.getByRole('group', { name: 'Trials' }).getByRole('button');
      await tabs.nth(Math.floor(next() * (await tabs.count()))).click();
    },
    method: async () => {
      await bench.openSection('Enlarge');
      const method = pick([
        'Network for photographs, quick',
        'Network for photographs, finest',
        'Nearest neighbour',
        'Lanczos-3',
        'Bilinear',
      ]);
      await page.getByRole('radio', { name: new RegExp(`^${method}`) }).click();
    },
    finish: () => slider('Finish', pick(['PageUp', 'PageDown', 'ArrowRight', 'Home'])),
    clean: () => slider('Clean', pick(['PageUp', 'PageDown', 'ArrowLeft'])),
    zoom: () => key(pick(['1', '4', '+', '-', '1', '1'])),
    pan: () => key(pick(['ArrowLeft', 'ArrowUp', 'Shift+ArrowRight', 'Shift+ArrowDown'])),
    undo: () => key('Control+z'),
    redo: () => key('Control+y'),
    remove: () => removeTrial(page),
    compare: () => key(pick(['w', 'w', 'Shift+W', 'l', 'v'])),
    places: async () => {
      await bench.openSection('Compare');
      await key(pick(['n', 'Shift+N', 's', 'p', 'm', 'r', '3', '5']));
    },
    with: () => compareWith(page, next),
  };
  const often = [
    ...Object.keys(moves),
    ...['method', 'finish', 'trial', 'branch', 'undo', 'pan', 'compare', 'with'],
  ];

  let compared = 0;
  const seen = new Set<string>();
  for (let i = 0; i < MOVES; i++) {
    const name = pick(often);
    await moves[name]!();
    // Now and then the next one comes before anything has settled.
    if (next() < 0.35) continue;
    await expect(page.locator('.exactness')).not.toHaveText('computing …');
    await bench.resolved();
    // What was changed has arrived: what shows follows from what the server has.
    await expect(page.locator('.ticket')).toHaveAttribute('data-saving', 'false');
    await bench.resolved();
    const answer = await read();
    const resolvedOf = (trial: (typeof answer.piece.work.trials)[number]) => {
      const { digest, findings, work } = answer.piece;
      const resolved = resolveRecipe(originalOf(digest, findings), work, trial);
      if (!resolved.ok) throw new Error(resolved.reason);
      return resolved.recipe;
    };
    const { target } = resolvedOf(answer.piece.work.trials[0]!);
    for (const pane of await shown(page)) {
      expect(pane.painted, `${i} ${name}`).toBe(pane.wanted);
      const split = pane.wanted!.lastIndexOf(' {');
      const [original, recipe, against] = JSON.parse(pane.wanted!.slice(0, split)) as [
        { level: number; digest: string },
        Recipe,
        { recipe: Recipe; original?: { digest: string }; gain: number; absolute: boolean } | null,
      ];
      const region = JSON.parse(pane.wanted!.slice(split + 1)) as Region;
      const named = trialNamed(answer.piece.work.trials, pane.name);
      const onResult = recipe.target.width === target.width;
      if (named && onResult && pane.exact) {
        expect(canonicalJson(recipe), `${i} ${name}: ${pane.name}`).toBe(
          canonicalJson(resolvedOf(named)),
        );
        seen.add(pane.name.replace(/Trial [A-Z]+/, 'Trial').replace(/ after .*/, ' after a step'));
      }
      if (original.level > 0 || !pane.exact || !onResult || !(await atOneToOne(page))) continue;
      const part = {
        x: pane.at.x - pane.grid.x,
        y: pane.at.y - pane.grid.y,
      };
      const square = { ...part, width: SIDE, height: SIDE };
      if (!contains(region, square)) continue;
      const pixelsOf = async (digest: string, of: Recipe) =>
        render(sources.get(digest)!, of, tools).read(square);
      const result = await pixelsOf(original.digest, recipe);
      const other =
        against && (await pixelsOf((against.original ?? original).digest, against.recipe));
      const expected = toScreen(other ? differing(result, other, against) : result);
      if (/, file of /.test(pane.name)) {
        // It shows what was written, pixel by pixel.
        const own = toScreen(await sources.get(file)!.read(square));
        expect(Buffer.from(expected).equals(Buffer.from(own)), `${i} ${name}`).toBe(true);
        seen.add('File of a run');
      }
      expect(Buffer.from(pane.data).equals(Buffer.from(expected)), `${i} ${name}`).toBe(true);
      compared++;
    }
  }
  expect(compared).toBeGreaterThan(MOVES / 4);
  // The walk came by every kind of pane.
  expect([...seen].sort()).toEqual([
    ...['Difference of Trial', 'File of a run', 'Trial', 'Trial after a step'],
  ]);
  for (const one of sources.values()) await one.close();
  await rm(folder, { recursive: true, force: true });
});

test('two tabs on one picture, walked at random, lose nothing that was kept', async ({
  browser,
}) => {
  test.setTimeout(600_000);
  const next = random(SEED + 1);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(next() * list.length)]!;
  const tabs = await Promise.all([0, 1].map(async () => (await browser.newContext()).newPage()));
  for (const tab of tabs) await new BenchPage(tab).open('Brass instruments');
  const jobId = tabs[0]!.url().split('/').at(-1)!;
  const read = async () =>
    JobView.parse(await (await tabs[0]!.request.get(`/api/jobs/${jobId}`)).json()).piece;
  const begun = (await read()).revision;
  for (let i = 0; i < MOVES / 4; i++) {
    const tab = pick(tabs);
    await new BenchPage(tab).openSection('Finish');
    await tab.getByRole('slider').filter({ visible: true }).first().focus();
    // Nobody waits for anybody: what one tab builds on may be gone already.
    for (let k = 0; k < 3; k++) await tab.keyboard.press(pick(['PageUp', 'PageDown', 'ArrowLeft']));
    await tab.locator('.view').focus();
    await tab.keyboard.press(pick(['b', 'Control+z', 'Control+y', '1', 'w', 'ArrowUp']));
    if (next() < 0.5) continue;
    // What is compared in one tab may be gone in the other.
    await new BenchPage(tab).openSection('Compare');
    await tab.locator('.view').focus();
    for (let k = 0; k < 2; k++) await tab.keyboard.press(pick(['m', 'n', 's', 'p', 'Shift+W']));
    await compareWith(tab, next);
    // What was said of the other tab's changes lies over the marks until it is put away.
    const said = tab.getByRole('button', { name: 'Put away' });
    while ((await said.count()) > 0) await said.first().click();
    const away = tab.getByRole('button', { name: 'Take this mark away' });
    if (next() < 0.3 && (await away.isVisible())) await away.click();
    if (next() < 0.3) await removeTrial(tab);
  }
  for (const tab of tabs) {
    await expect(tab.locator('.ticket')).toHaveAttribute('data-saving', 'false');
  }
  const piece = await read();
  expect(piece.revision).toBeGreaterThan(begun);
  for (const tab of tabs) {
    await new BenchPage(tab).resolved();
    await expect(tab.locator('.stage-message.trouble')).toHaveCount(0);
  }
  const comparing = await tabs[0]!.request.get(`/api/pieces/${piece.id}/comparing`);
  const { marks } = Comparing.parse(await comparing.json());
  // What is kept leads from the first change to the present one, and back.
  const move = async (to: number, revision: number) => {
    const answer = await tabs[0]!.request.post(`/api/pieces/${piece.id}/moves`, {
      data: { to, revision },
    });
    expect(answer.status()).toBe(200);
    return Piece.parse(await answer.json());
  };
  const first = await move(piece.history[0]!.id, piece.revision);
  expect(first.work.trials).toHaveLength(1);
  const again = await move(piece.current, first.revision);
  expect(again.work).toEqual(piece.work);
  for (const tab of tabs) {
    await tab.reload();
    const bench = new BenchPage(tab);
    await bench.resolved();
    const names = tab.getByRole('group', { name: 'Trials' }).getByRole('button');
    expect(await names.allTextContents()).toEqual(piece.work.trials.map(({ name }) => name));
    await bench.openSection('Enlarge');
    await bench.zoom('zoom-result-1');
    for (const pane of await shown(tab)) expect(pane.painted).toBe(pane.wanted);
    // What was marked in either is there in both.
    await bench.openSection('Compare');
    const own = tab.locator('.stop').filter({ hasText: /^\d+ mark/ });
    await expect(own).toHaveCount(marks.length);
  }
});

/** A job of its own: those of the demo were changed by other tests. */
async function begin(request: APIRequestContext): Promise<void> {
  const upload = await request.post('/api/originals', {
    headers: { 'x-file-name': 'dome.jpg' },
    data: await readFile(degradedPath(pictures[0]!)),
  });
  const { digest, fileName } = TakenIn.parse(await upload.json());
  const { paper, distance } = pictures[0]!;
  const answer = await request.post('/api/jobs', {
    data: {
      ...{ title: 'Walked at random', customer: '', due: null, paper, distance },
      pictures: [{ digest, fileName }],
    },
  });
  expect(answer.status()).toBe(200);
}

/** Takes the trial on the bench away, unless it is the last one. */
async function removeTrial(page: Page): Promise<void> {
  const trials = page.getByRole('group', { name: 'Trials' }).getByRole('button');
  if ((await trials.count()) < 2) return;
  await page.getByRole('button', { name: /^More about/ }).click();
  await page.getByRole('button', { name: 'Delete' }).click();
}

/** Has something else stand beside the result, in one of the panes. */
async function compareWith(page: Page, next: () => number): Promise<void> {
  const choices = page.getByLabel(/^Compared with/);
  const count = await choices.count();
  if (count === 0) return;
  const choice = choices.nth(Math.floor(next() * count));
  const values = await choice
    .locator('option')
    .evaluateAll((options) => options.map((option) => (option as HTMLOptionElement).value));
  // A picture from outside is another test's.
  const others = values.filter((value) => value !== 'bring');
  await choice.selectOption(others[Math.floor(next() * others.length)]!);
}

const atOneToOne = (page: Page) => page.locator('#zoom-result-1').isChecked();

/** The trial that a pane's name tells, as far as it shows it; null where it shows none. */
function trialNamed(trials: readonly Trial[], name: string): Trial | null {
  const whole = name.replace(/^Difference of /, '');
  const [trialName, step] = whole.split(/ (?=after )/) as [string, string | undefined];
  const trial = trials.find((one) => one.name === trialName);
  if (!trial) return null;
  const stage = step && stagesOf(trial.treatment).find((one) => one.name === step);
  if (!step) return trial;
  return stage ? { ...trial, treatment: asFarAs(trial.treatment, stage.index) } : null;
}

/** What a difference shows. */
const differing = (
  result: Raster,
  other: Raster,
  { gain, absolute }: { gain: number; absolute: boolean },
): Raster => ({
  ...result,
  planes: result.planes.map((plane, c) =>
    plane.map((value, i) => {
      const more = other.planes[c]![i]! - value;
      return absolute ? gain * Math.abs(more) : 0.5 + gain * more;
    }),
  ),
});
