import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { usualOutput } from '@/core/output/output';
import { CORE_VERSION, type Recipe } from '@/core/recipe/recipe';
import { RECIPE_VERSION } from '@/core/recipe/versions';
import { frameLayer, originalLayer, placeOf, resultLayer, resultScale, visible } from './layers';
import { sheetOnFrame } from '@/core/recipe/views';

const recipe: Recipe = {
  version: RECIPE_VERSION,
  core: CORE_VERSION,
  original: { digest: 'd', page: 1, width: 720, height: 480, drawn: null },
  alpha: 'none',
  colour: '#ffffff',
  target: { width: 7559, height: 5039, ppi: 160, bleed: 0 },
  steps: [
    {
      kind: 'resample',
      strength: 100,
      numbers: {
        ...{ method: 'lanczos3', light: 'gamma', limit: 0, step: 10 },
        source: { x: 0, y: 0, width: 720, height: 480 },
        turn: 0,
        straighten: 0,
        width: 7559,
        height: 5039,
      },
    },
  ],
  tagOnly: false,
  output: { ...usualOutput('tiff', 8), alpha: 'paper' },
};
const original = { digest: 'd', page: 1, depth: 8 as const, channels: 3, profiled: false };
const factor = 7559 / 720;
const view = { width: 932, height: 708 };
const centre = { x: 0.5, y: 0.5 };
const methodOf = ({ steps }: Recipe) =>
  steps[0]?.kind === 'resample' ? steps[0].numbers.method : null;

describe('zooms', () => {
  it('mean device pixels to one pixel of the result, or of the original', () => {
    expect(resultScale({ of: 'result', scale: 2 }, recipe, factor, view)).toBe(2);
    expect(resultScale({ of: 'original', scale: 4 }, recipe, factor, view)).toBeCloseTo(0.381, 3);
    // 160 ppi on a screen of 5 pixels a millimetre; from 2 m it looks as large as a third of it from 60 cm.
    const sized = { perMm: 5, sitting: 0.6, distance: 2 };
    const own = resultScale({ of: 'size' }, recipe, factor, view, sized);
    expect(own).toBeCloseTo((5 * 25.4) / recipe.target.ppi, 9);
    const afar = resultScale({ of: 'distance' }, recipe, factor, view, sized);
    expect(afar / own).toBeCloseTo(0.3, 9);
    const fit = resultScale({ of: 'fit' }, recipe, factor, view);
    expect(resultScale({ of: 'size' }, recipe, factor, view)).toBe(fit);
    expect(fit * 7559).toBeLessThanOrEqual(view.width);
    expect(fit * 5039).toBeLessThanOrEqual(view.height);
    expect(fit * 7559).toBeGreaterThan(view.width - 40);
  });
});

describe('layers', () => {
  it('are exact at 1:1 and closer, and small renderings farther out', () => {
    expect(resultLayer(original, recipe, 1, true)).toMatchObject({
      exact: true,
      original: { level: 0 },
      scale: 1,
      recipe,
    });
    expect(resultLayer(original, recipe, 3, true)).toMatchObject({ exact: true, scale: 3, recipe });
    const small = resultLayer(original, recipe, 0.25, true);
    expect(small).toMatchObject({ exact: false, scale: 1, size: { width: 1890, height: 1260 } });
  });

  it('show the untreated original as repeated pixels, averaged where they would be too small', () => {
    expect(methodOf(resultLayer(original, recipe, 1, false).recipe)).toBe('nearest');
    expect(resultLayer(original, recipe, 1, false).caption).toBe('pixels as they print');
    const far = resultLayer(original, recipe, 0.05, false);
    expect(methodOf(far.recipe)).toBe('bilinear');
    expect(far.caption).toBe('reduced to fit');
  });

  it('render from halved originals when seen from afar', () => {
    const levels = [0.2, 0.09, 0.04, 0.02, 0.0001].map(
      (scale) => resultLayer(original, recipe, scale, true).original.level,
    );
    expect(levels).toEqual([0, 0, 1, 2, 6]);
    expect(resultLayer(original, recipe, 0.02, true).recipe.original).toMatchObject({
      width: 180,
      height: 120,
    });
  });

  it('stand on the original’s own grid before enlarging', () => {
    const cleaned = originalLayer(original, recipe, 4, true);
    expect(cleaned).toMatchObject({ exact: true, scale: 4, size: { width: 720, height: 480 } });
    expect(originalLayer(original, recipe, 4, false).recipe.steps).toEqual([]);
  });

  it('know where margins and bleed lie beyond the picture', () => {
    const mounted: Recipe = {
      ...recipe,
      steps: [
        ...recipe.steps,
        {
          kind: 'mount',
          strength: 100,
          numbers: {
            ...{ width: 7759, height: 5139, x: 100, y: 50, colour: '#ffffff' },
            ...{ left: 'mirror', right: 'mirror', top: 'mirror', bottom: 'mirror' },
          },
        },
      ],
    };
    const paper = sheetOnFrame(mounted);
    expect(paper.x).toBeCloseTo(-100 / factor, 6);
    expect(paper.width).toBeCloseTo(7759 / factor, 6);
    expect(originalLayer(original, mounted, 4, true).paper).toEqual(paper);
  });
});

describe('the whole frame', () => {
  const frame = { width: 720, height: 480 };
  const shown = { x: -72, y: 0, width: 792, height: 480 };

  it('is computed as small as it is seen, with what lies beyond it', () => {
    const layer = frameLayer(original, recipe, frame, 0.5, shown);
    expect(layer).toMatchObject({
      size: { width: 360, height: 240 },
      scale: 1,
      original: { level: 1 },
    });
    expect(layer.paper).toEqual({ x: -36, y: 0, width: 396, height: 240 });
    expect(layer.recipe.original).toMatchObject({ width: 360, height: 240 });
    expect(layer.recipe.steps).toMatchObject([
      { kind: 'resample', numbers: { source: { x: 0, y: 0, ...layer.size }, ...layer.size } },
    ]);
  });

  it('is never computed larger than it is, only shown so', () => {
    const layer = frameLayer(original, recipe, frame, 6, shown);
    expect(layer).toMatchObject({ size: frame, scale: 6, original: { level: 0 }, paper: shown });
  });

  it('keeps the true grid, the turn and the angle, and leaves cleaning out', () => {
    const turned: Recipe = {
      ...recipe,
      steps: [
        { kind: 'regrid', strength: 100, numbers: { width: 480, height: 720 } },
        ...recipe.steps.map((step) =>
          step.kind === 'resample'
            ? { ...step, numbers: { ...step.numbers, turn: 90 as const, straighten: 4 } }
            : step,
        ),
        {
          kind: 'unsharp',
          strength: 100,
          numbers: { radius: 1, amount: 1, threshold: 0, light: 1, dark: 1 },
        },
      ],
    };
    const { recipe: framed } = frameLayer(original, turned, frame, 1, shown);
    expect(framed.steps.map((step) => step.kind)).toEqual(['regrid', 'resample']);
    expect(framed.steps[1]).toMatchObject({ numbers: { turn: 90, straighten: 4 } });
  });

  it('of shapes is drawn whole, at the size it is seen', () => {
    const drawn: Recipe = {
      ...recipe,
      original: {
        ...recipe.original,
        drawn: { source: { x: 9, y: 9, width: 90, height: 60 }, turn: 180, placed: [] },
      },
      steps: [],
    };
    const layer = frameLayer(original, drawn, { width: 7200, height: 4800 }, 0.05, shown);
    expect(layer.original.level).toBe(0);
    expect(layer.recipe.original).toMatchObject({
      width: 360,
      height: 240,
      drawn: { source: { x: 0, y: 0, width: 7200, height: 4800 }, turn: 180 },
    });
  });
});

describe('what shows', () => {
  const layer = fc.oneof(
    fc
      .double({ min: 0.02, max: 4, noNaN: true })
      .map((scale) => resultLayer(original, recipe, scale, true)),
    fc.constantFrom(1, 2, 4, 8, 16).map((scale) => originalLayer(original, recipe, scale, true)),
  );
  const place = fc.record({
    x: fc.double({ min: 0, max: 1, noNaN: true }),
    y: fc.double({ min: 0, max: 1, noNaN: true }),
  });

  it('covers the view as far as the paper goes, and nothing that lies outside', () => {
    fc.assert(
      fc.property(layer, place, (of, at) => {
        const region = visible(of, at, view);
        const { left, top } = placeOf(of, at, view);
        expect(region.x).toBeGreaterThanOrEqual(0);
        expect(region.x + region.width).toBeLessThanOrEqual(of.size.width);
        const leftEdge = left + region.x * of.scale;
        const rightEdge = left + (region.x + region.width) * of.scale;
        expect(leftEdge <= 0 || region.x === 0).toBe(true);
        expect(rightEdge >= view.width || region.x + region.width === of.size.width).toBe(true);
        expect(leftEdge).toBeGreaterThan(-of.scale - 1e-9 - (region.x === 0 ? 1e9 : 0));
        expect(top + region.y * of.scale <= 0 || region.y === 0).toBe(true);
      }),
    );
  });

  it('puts every grid on whole device pixels, the same place of paper in the middle', () => {
    fc.assert(
      fc.property(layer, place, (of, at) => {
        const { left, top } = placeOf(of, at, view);
        expect(Number.isInteger(left) && Number.isInteger(top)).toBe(true);
        const middle = (view.width / 2 - left) / of.scale;
        const paper = (middle - of.paper.x) / of.paper.width;
        expect(Math.abs(paper - at.x) * of.paper.width * of.scale).toBeLessThanOrEqual(0.5 + 1e-6);
      }),
    );
  });

  it('is the middle of the paper at the beginning', () => {
    const region = visible(resultLayer(original, recipe, 1, true), centre, view);
    expect(region).toEqual({ x: 3313, y: 2165, width: 932, height: 708 });
  });
});
