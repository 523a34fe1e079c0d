import { describe, expect, it } from 'vitest';
import { BLACK, Canvas } from './canvas';
import { layColours, layLines, layStar, solidsOf, STEPS, wedgesOf } from './patches';

const pixel = ({ samples, channels, size }: Canvas, x: number, y: number) => [
  ...samples.subarray((y * size.width + x) * channels, (y * size.width + x + 1) * channels),
];

describe('a canvas', () => {
  it('is bare at first, in whichever colours', () => {
    expect(pixel(new Canvas({ width: 3, height: 2 }, 'rgb'), 2, 1)).toEqual([255, 255, 255]);
    expect(pixel(new Canvas({ width: 3, height: 2 }, 'cmyk'), 0, 0)).toEqual([0, 0, 0, 0]);
    expect(pixel(new Canvas({ width: 3, height: 2 }, 'grey'), 0, 0)).toEqual([255]);
  });

  it('takes what lies on it, and leaves out what lies beyond', () => {
    const canvas = new Canvas({ width: 6, height: 4 }, 'grey');
    canvas.put(Uint8Array.from([1, 2, 3, 4, 5, 6]), { width: 3, height: 2 }, -1, 3);
    expect([0, 1, 2].map((x) => pixel(canvas, x, 3)[0])).toEqual([2, 3, 255]);
    canvas.put(Uint8Array.from([9, 9]), { width: 2, height: 1 }, 5, -1);
    canvas.put(Uint8Array.from([9, 9]), { width: 2, height: 1 }, 5, 0);
    expect(pixel(canvas, 5, 0)).toEqual([9]);
    canvas.fill({ x: -3, y: -3, width: 4, height: 4 }, [7]);
    expect([...canvas.samples].filter((one) => one === 7)).toHaveLength(1);
    canvas.put(Uint8Array.from([9]), { width: 1, height: 1 }, 40, 0);
    canvas.put(Uint8Array.from([9]), { width: 1, height: 1 }, -4, 0);
    expect([...canvas.samples].filter((one) => one === 9)).toHaveLength(1);
  });

  it('is covered as far as a mask says', () => {
    const canvas = new Canvas({ width: 3, height: 1 }, 'rgb');
    const mask = Uint8Array.from([0, 128, 255, 255]);
    canvas.cover(mask, { width: 4, height: 1 }, 0, 0, BLACK.rgb);
    expect([0, 1, 2].map((x) => pixel(canvas, x, 0)[0])).toEqual([255, 127, 0]);
  });
});

describe('patches', () => {
  it('go from bare material to full colour in even steps', () => {
    for (const space of ['rgb', 'grey', 'cmyk'] as const) {
      for (const wedge of wedgesOf(space)) {
        expect(wedge).toHaveLength(STEPS);
        const sums = wedge.map((colour) => colour.reduce((sum, one) => sum + one, 0));
        const steps = sums.slice(1).map((sum, i) => sum - sums[i]!);
        expect(new Set(steps.map(Math.sign)).size).toBe(1);
        expect(Math.max(...steps) - Math.min(...steps)).toBeLessThanOrEqual(wedge[0]!.length);
      }
    }
    expect(solidsOf('rgb')[0]).toEqual([0, 255, 255]);
    expect(solidsOf('cmyk')[3]).toEqual([0, 255, 255, 0]);
    const canvas = new Canvas({ width: 12, height: 2 }, 'rgb');
    layColours(canvas, solidsOf('rgb'), { x: 0, y: 0, width: 12, height: 2 });
    expect(pixel(canvas, 0, 0)).toEqual([0, 255, 255]);
    expect(pixel(canvas, 11, 1)).toEqual([0, 0, 255]);
  });

  it('hold lines of so many pixels, upright and level', () => {
    const canvas = new Canvas({ width: 50, height: 20 }, 'grey');
    layLines(canvas, 2, { x: 0, y: 0, width: 50, height: 20 });
    expect([0, 1, 2, 3, 4].map((x) => pixel(canvas, x, 7)[0])).toEqual([0, 0, 255, 255, 0]);
    expect([0, 1, 2, 3, 4].map((y) => pixel(canvas, 40, y)[0])).toEqual([0, 0, 255, 255, 0]);
    const dark = canvas.samples.filter((one) => one === 0).length;
    expect(dark / (50 * 20)).toBeCloseTo(0.48, 1);
  });

  it('hold a star that is as dark as it is light, and turned upon itself the same', () => {
    const canvas = new Canvas({ width: 64, height: 64 }, 'grey');
    layStar(canvas, { x: 0, y: 0, width: 64, height: 64 });
    const dark = canvas.samples.filter((one) => one === 0).length;
    expect(dark / (Math.PI * 32 * 32)).toBeCloseTo(0.5, 1);
    expect(pixel(canvas, 0, 0)).toEqual([255]);
  });
});
