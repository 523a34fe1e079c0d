// From a slider's movement to exact pixels on a stage of 900 x 650 at 1:1, in chromium.
import type { Locator } from '@playwright/test';
import { newStep } from '../src/core/recipe/order';
import type { StepChoice } from '../src/core/steps';
import { figure, finished, median } from './report';
import { onDemoShop, openSection, painted } from './shop';

const MOVES = 9;
/** Milliseconds of the same work every time: times in milliseconds say little where the machine is shared. */
function machineTime(): number {
  const times = Array.from({ length: 5 }, () => {
    const started = performance.now();
    let sum = 0;
    for (let i = 0; i < 3e7; i++) sum += i * 0.5;
    return sum > 0 ? performance.now() - started : 0;
  });
  return median(times);
}

// The stage is what the bar above, the ticket and the bar below leave of the window.
await onDemoShop({ width: 900 + 348, height: 650 + 46 + 46 }, async (page, url) => {
  await page.getByRole('row', { name: /Dome at dusk/ }).click();
  await painted(page);
  await page.locator('label[for="zoom-result-1"]').click();
  await painted(page);

  /** Milliseconds from a slider's move to the first estimate, where there is one, and to exact pixels. */
  const moved = (range: Locator, value: number) =>
    range.evaluate(async (input, to) => {
      const canvas = document.querySelector<HTMLCanvasElement>('canvas[aria-label="Trial A"]')!;
      const { painted: had, drafted } = canvas.dataset;
      const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!;
      const started = performance.now();
      let first = 0;
      // Where nothing changes nothing is painted, and nobody would wait for the end of it.
      if (Number((input as HTMLInputElement).value) === to)
        throw new Error(`it stands at ${to} already`);
      set.call(input, String(to));
      input.dispatchEvent(new Event('input', { bubbles: true }));
      await new Promise<void>((resolve) => {
        const observer = new MutationObserver(() => {
          const now = canvas.dataset;
          if (!first && now.drafted !== drafted) first = performance.now() - started;
          if (now.painted === had || now.painted !== now.wanted) return;
          observer.disconnect();
          resolve();
        });
        observer.observe(canvas, { attributes: true });
      });
      return { first, last: performance.now() - started };
    }, value);

  const open = (section: string) => openSection(page, section);
  const measure = async (slider: string | RegExp, values: (i: number) => number) => {
    const range = page.getByRole('slider', { name: slider, exact: true });
    const times: { first: number; last: number }[] = [];
    for (let i = 0; i < MOVES; i++) {
      times.push(await moved(range, values(i)));
      await page.waitForTimeout(60);
    }
    await range.blur();
    return {
      first: median(times.map(({ first }) => first)),
      last: median(times.map(({ last }) => last)),
    };
  };

  const { width, height } = await page
    .locator('canvas[aria-label="Trial A"]')
    .evaluate((canvas) => ({
      width: (canvas as HTMLCanvasElement).width,
      height: (canvas as HTMLCanvasElement).height,
    }));
  console.log(`stage ${width} x ${height}, medians of ${MOVES} moves`);
  const fast = machineTime();
  await open('Clean');
  await page.getByRole('button', { name: /^Compression/ }).click();
  const clean = await measure('Strength', (i) => 30 + 4 * i);
  figure('slider Clean before a network, to the classical estimate', clean.first, 'ms', 120);
  console.log(`        … to the network's own pixels: ${clean.last.toFixed(0)} ms`);
  await open('Enlarge');
  await page.getByRole('radio', { name: /^Lanczos-3/ }).click();
  await painted(page);
  await open('Clean');
  const plain = await measure('Strength', (i) => 32 + 4 * i);
  figure('slider Clean before a kernel, to exact pixels', plain.last, 'ms', 120);

  // A place that nobody looked at yet, on the original's grid: the estimate, then the network's result.
  const looks: { first: number; last: number }[] = [];
  // The dome's other step would be measured along.
  await page.getByLabel('Banding on').click();
  await page.locator('label[for="zoom-original-4"]').click();
  await painted(page);
  for (const name of ['Luminance', 'Colour', 'Luminance', 'Colour', 'Luminance']) {
    const range = page.getByRole('slider', { name, exact: true });
    looks.push(await moved(range, 40 + 9 * looks.length));
  }
  figure('view at 4:1, to the classical estimate', median(looks.map((l) => l.first)), 'ms', 150);
  figure('view at 4:1, to the learned result', median(looks.map((l) => l.last)), 'ms', 1000);
  const api = `${url}/api`;
  const { id } = (
    (await (await fetch(`${api}/jobs`)).json()) as { rows: { id: number; title: string }[] }
  ).rows.find(({ title }) => title.startsWith('Dome at dusk'))!;
  /** Shows another treatment at 1:1, with the section of its last step open. */
  const show = async (...finishing: StepChoice[]) => {
    const { piece } = (await (await fetch(`${api}/jobs/${id}`)).json()) as {
      piece: { id: number; revision: number };
    };
    const treatment = [newStep('enlarge', { method: 'lanczos3' }), ...finishing];
    const answer = await fetch(`${api}/pieces/${piece.id}/changes`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({
        ...{ revision: piece.revision, label: 'Finishing steps' },
        patch: [{ op: 'replace', path: '/trials/0/treatment', value: treatment }],
      }),
    });
    if (!answer.ok) throw new Error(await answer.text());
    await page.reload();
    await painted(page);
    await open('Finish');
    await page.locator('label[for="zoom-result-1"]').click();
    await painted(page);
  };
  const openStep = async (title: string) => {
    const button = page.locator('.step-head button').filter({ hasText: title });
    if ((await button.getAttribute('aria-expanded')) !== 'true') await button.click();
    // What is measured beside has its turn first.
    await page.waitForTimeout(1500);
  };
  const px = { unit: 'px' as const };
  const steps = {
    'Unsharp mask': newStep('unsharp', { radius: 2, ...px }),
    'High-pass': newStep('highpass', { radius: 2, ...px }),
    'Local contrast': newStep('contrast', { radius: 40, ...px }),
    'Edges only': newStep('edges', { radius: 2, ...px }),
    'For paper': newStep('paper', { surface: 'canvas' }),
  };
  const alone: [title: keyof typeof steps, slider: string | RegExp, from: number, by: number][] = [
    ['Unsharp mask', 'Amount', 40, 7],
    ['Unsharp mask', /^Radius \(/, 1, 0.1],
    ['High-pass', /^Radius \(/, 1, 0.1],
    ['Local contrast', 'Amount', 30, 7],
    ['Local contrast', /^Radius \(/, 30, 1],
    ['Edges only', 'Amount', 40, 7],
    ['Edges only', /^Radius \(/, 1, 0.1],
    ['For paper', 'Threshold', 1.5, 0.5],
  ];
  for (const [title, slider, from, by] of alone) {
    await show(steps[title]);
    await openStep(title);
    const { last } = await measure(slider, (i) => from + by * i);
    const name = typeof slider === 'string' ? slider : 'Radius';
    figure(`${title} alone, ${name} to exact pixels`, last, 'ms', 80);
  }
  await show(newStep('deblur', { form: 'gaussian', radius: 2 }));
  await openStep('Deblur');
  const held = await measure('Noise held back', (i) => 40 + i);
  figure('Deblur alone, noise held back to exact pixels', held.last, 'ms', 150);
  await show(...Object.values(steps));
  await openStep('Local contrast');
  const first = await measure('Amount', (i) => 30 + 7 * i);
  figure('the first of five, to exact pixels', first.last, 'ms', 150);
  await openStep('For paper');
  const final = await measure('Threshold', (i) => 1.5 + 0.5 * i);
  figure('the last of five, to exact pixels', final.last, 'ms', 150);
  // Panning at 1:1 with five finishing steps.
  /** Milliseconds from a drag by so many pixels to exact pixels. */
  const panned = (by: number) =>
    page.evaluate(async (dx) => {
      const view = document.querySelector<HTMLElement>('.view')!;
      const canvas = document.querySelector<HTMLCanvasElement>('canvas[aria-label="Trial A"]')!;
      view.setPointerCapture = () => {};
      const had = canvas.dataset.painted;
      const held = { pointerId: 1, isPrimary: true, buttons: 1 };
      const at = { bubbles: true, ...held, clientX: 700, clientY: 400 };
      view.dispatchEvent(new PointerEvent('pointerdown', at));
      const started = performance.now();
      await new Promise<void>((resolve) => {
        const observer = new MutationObserver(() => {
          if (canvas.dataset.painted === had || canvas.dataset.painted !== canvas.dataset.wanted)
            return;
          observer.disconnect();
          resolve();
        });
        observer.observe(canvas, { attributes: true });
        view.dispatchEvent(new PointerEvent('pointermove', { ...at, clientX: 700 + dx }));
      });
      view.dispatchEvent(new PointerEvent('pointerup', at));
      return performance.now() - started;
    }, by);
  const pans: number[] = [];
  for (let i = 0; i < MOVES; i++) {
    pans.push(await panned(-64));
    await page.waitForTimeout(60);
  }
  figure('a pan by 64 px with five finishing steps, to exact pixels', median(pans), 'ms', 50);
  console.log(
    `        a fixed loop took ${fast.toFixed(0)} ms before and ${machineTime().toFixed(0)} ms after: what the machine gave`,
  );
});
finished();
