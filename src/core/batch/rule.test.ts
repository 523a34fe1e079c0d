import { describe, expect, it } from 'vitest';
import { planPrint } from '../measure/plan';
import { whole } from '../raster/region';
import { paperBy, TargetRule, type SizeRule } from './rule';

const lying = { width: 720, height: 480 };
const standing = { width: 300, height: 900 };
const square = { width: 64, height: 64 };
const cm = (value: number) => ({ value, unit: 'cm' as const });

/** The print's sides in millimetres, by a rule. */
function printed(
  size: SizeRule,
  picture: { width: number; height: number },
  fit = 'crop' as const,
) {
  const paper = paperBy({ size, fit }, picture)!;
  const planned = planPrint({ rect: whole(picture) }, paper, 100);
  if (!planned.ok) throw new Error(planned.reason);
  const { width, height } = planned.plan.ordered;
  return [width, height].map((inches) => Math.round(inches * 25.4));
}

describe('a rule for the paper of many pictures', () => {
  it('gives the longest side, whichever that is', () => {
    const rule = { by: 'longest', length: cm(60) } as const;
    expect(printed(rule, lying)).toEqual([600, 400]);
    expect(printed(rule, standing)).toEqual([200, 600]);
    expect(printed(rule, square)).toEqual([600, 600]);
  });

  it('gives one side, or both', () => {
    expect(printed({ by: 'width', length: cm(30) }, standing)).toEqual([300, 900]);
    expect(printed({ by: 'height', length: cm(30) }, lying)).toEqual([450, 300]);
    const exact = { by: 'exact', width: cm(50), height: cm(20) } as const;
    expect(printed(exact, lying)).toEqual([500, 200]);
    expect(printed(exact, standing)).toEqual([500, 200]);
  });

  it('turns a sheet as the picture lies, and fills a roll across', () => {
    const a3 = { by: 'sheet', sheet: { name: 'A3', width: 297, height: 420 } } as const;
    expect(printed(a3, lying)).toEqual([420, 297]);
    expect(printed(a3, standing)).toEqual([297, 420]);
    const roll = { by: 'sheet', sheet: { name: 'Roll', width: 610, height: null } } as const;
    expect(printed(roll, standing)).toEqual([610, 1830]);
  });

  it('goes by pixels: so many times as many, or as large as they come to', () => {
    const factor = paperBy({ size: { by: 'factor', factor: 3 }, fit: 'crop' }, lying)!;
    expect(factor).toMatchObject({ width: { value: 300, unit: '%' }, height: null });
    expect(printed({ by: 'pixels', ppi: 72 }, lying)).toEqual([254, 169]);
  });

  it('leaves what was ordered, and takes no pixels for paper', () => {
    expect(paperBy({ size: { by: 'ordered' }, fit: 'crop' }, lying)).toBeNull();
    const pixels = { size: { by: 'width', length: { value: 9, unit: 'px' } }, fit: 'crop' };
    expect(TargetRule.safeParse(pixels).success).toBe(false);
  });
});
