import { describe, expect, it } from 'vitest';
import { planPrint } from '../../measure/plan';
import { testContext, testPaper } from '../../testing';
import { paper } from './paper';
import { spreadAndEye, surfaceOf, SURFACES, toldSurface } from './surfaces';

describe('ink spread and the eye', () => {
  it('add up as variances do', () => {
    const { ink, eye, together } = spreadAndEye('canvas', 1);
    expect(ink).toBe(0.11);
    // Half a minute of arc at a metre.
    expect(eye).toBeCloseTo(0.1454, 4);
    expect(together).toBeCloseTo(Math.hypot(ink, eye), 12);
  });

  it.each(SURFACES)('leave less on %s from nearby than from afar', (surface) => {
    const near = spreadAndEye(surface, 0.3).left;
    const far = spreadAndEye(surface, 5).left;
    expect(near).toBeLessThan(far);
    // From afar the eye alone counts: exp(-2 (pi x 0.5 / 60 x 8)^2) of contrast is left.
    expect(far).toBeCloseTo(Math.exp(-2 * ((Math.PI * 0.5 * 8) / 60) ** 2), 2);
  });

  it('are told by a material’s name', () => {
    expect(surfaceOf('Cotton canvas 380')).toBe('canvas');
    expect(surfaceOf('Flag polyester')).toBe('textile');
    expect(surfaceOf('Window film, clear')).toBe('vinyl');
    expect(surfaceOf('Satin photo 240 g')).toBe('gloss');
    expect(surfaceOf('Poster 120 g')).toBe('matt');
    expect(surfaceOf(null)).toBe('matt');
    expect(surfaceOf('Backlit 210')).toBe('matt');
    expect(toldSurface('Backlit 210')).toBeNull();
  });
});

describe('sharpening for paper', () => {
  const size = { width: 720, height: 480 };
  const planned = planPrint(
    { rect: { x: 0, y: 0, ...size } },
    testPaper({ width: { value: 120, unit: 'cm' } }),
    160,
  );
  if (!planned.ok) throw new Error(planned.reason);
  const context = testContext(size, {
    ...{ plan: planned.plan, phase: 'target', distance: 0.5, material: 'Canvas' },
  });

  it('puts back what is lost where sharpness is judged', () => {
    const { radius, amount } = paper.resolve(paper.defaults, context)!;
    const { together, left } = spreadAndEye('canvas', 0.5);
    expect(radius).toBeCloseTo((together / 25.4) * 160, 9);
    // What an unsharp mask of that radius makes of a pattern, times what the way to the eye leaves of it.
    expect((1 + amount * (1 - left)) * left).toBeCloseTo(1, 9);
  });

  it('goes by what it is told before what is ordered', () => {
    const gloss = paper.resolve({ ...paper.defaults, surface: 'gloss' }, context)!;
    expect(gloss.radius).toBeLessThan(paper.resolve(paper.defaults, context)!.radius);
  });
});
