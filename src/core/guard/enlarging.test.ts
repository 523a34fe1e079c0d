import { describe, expect, it } from 'vitest';
import { NO_MODELS } from '../learned/models';
import { luminance } from '../raster/colour';
import { RGB } from '../raster/form';
import { emptyRaster } from '../raster/raster';
import { whole } from '../raster/region';
import { newStep } from '../recipe/order';
import { originalOf } from '../recipe/original';
import { propose } from '../recipe/propose';
import { resolveRecipe } from '../recipe/resolve';
import { render } from '../render/render';
import type { Plain } from '../steps/enlarge/methods';
import { memorySource, testFindings, testPaper } from '../testing';
import { NO_GUARDS, USUAL_GUARDS, type Guards } from './guards';

const size = { width: 40, height: 30 };
/** Dark strokes on a cream ground. */
const strokes = emptyRaster(size.width, size.height, RGB);
strokes.planes.forEach((plane, c) =>
  plane.forEach((_, i) => {
    const [x, y] = [i % size.width, Math.floor(i / size.width)];
    const dark = x % 9 < 3 || y === 14;
    plane[i] = (dark ? [40, 30, 60] : [245, 235, 210])[c]! / 255;
  }),
);
const before = luminance(strokes);
const [ink, cream] = [Math.min(...before) * 255, Math.max(...before) * 255];

async function enlarged(method: Plain, guards: Guards): Promise<Float32Array> {
  const findings = testFindings(size, { kind: 'flat artwork' });
  const paper = testPaper({ width: { value: 4, unit: 'cm' } });
  const { work } = propose(findings, { paper, distance: 1 });
  const trial = { ...work.trials[0]!, treatment: [newStep('enlarge', { method })], guards };
  const resolved = resolveRecipe(originalOf('b'.repeat(64), findings), work, trial, NO_MODELS);
  if (!resolved.ok) throw new Error(resolved.reason);
  const { recipe } = resolved;
  expect(recipe.target.width).toBeGreaterThan(4 * size.width);
  return luminance(await render(memorySource(strokes), recipe).read(whole(recipe.target)));
}

describe('an enlargement', () => {
  it('rings beyond its tones where nothing holds it', async () => {
    const luma = await enlarged('lanczos3', NO_GUARDS);
    expect(Math.max(...luma) * 255).toBeGreaterThan(cream + 15);
    expect(Math.min(...luma) * 255).toBeLessThan(ink - 15);
  });

  it.each(['lanczos3', 'lanczos2', 'bicubic'] as const)(
    'by %s is held to the tones about it, by what guards allow',
    async (method) => {
      const luma = await enlarged(method, { ...USUAL_GUARDS, light: 6, dark: 9 });
      expect(Math.max(...luma) * 255).toBeLessThanOrEqual(cream + 6.01);
      expect(Math.min(...luma) * 255).toBeGreaterThanOrEqual(ink - 9.01);
      // Edges stay as steep as they were.
      const free = await enlarged(method, NO_GUARDS);
      const inside = free.map((value, i) =>
        value * 255 < cream && value * 255 > ink ? Math.abs(value - luma[i]!) : 0,
      );
      expect(Math.max(...inside)).toBeLessThan(1e-5);
    },
  );
});
