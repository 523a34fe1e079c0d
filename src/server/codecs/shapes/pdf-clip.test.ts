import { describe, expect, it } from 'vitest';
import { pointInside, type Point } from './pdf-clip';

const box = (left: number, bottom: number, right: number, top: number): Point[] => [
  [left, bottom],
  [right, bottom],
  [right, top],
  [left, top],
];

describe('a point inside a clip', () => {
  it('lies in the middle of a plain one', () => {
    const [x, y] = pointInside([[box(10, 20, 110, 60)]])!;
    expect(Math.abs(x - 60)).toBeLessThan(15);
    expect(Math.abs(y - 40)).toBeLessThan(4);
  });

  it('lies beside the hole of a ring', () => {
    const [x, y] = pointInside([[box(0, 0, 100, 100), box(20, 20, 80, 80)]])!;
    const inHole = x > 20 && x < 80 && y > 20 && y < 80;
    expect([x > 0, x < 100, y > 0, y < 100, inHole]).toEqual([true, true, true, true, false]);
  });

  it('lies in all of several paths', () => {
    const [x, y] = pointInside([[box(0, 0, 100, 100)], [box(70, 60, 300, 300)]])!;
    expect([x > 70, x < 100, y > 60, y < 100]).toEqual([true, true, true, true]);
  });

  it('is found in slanted and star-shaped ones', () => {
    const star = Array.from({ length: 10 }, (_, i): Point => {
      const radius = i % 2 ? 15 : 100;
      return [radius * Math.cos((i * Math.PI) / 5), radius * Math.sin((i * Math.PI) / 5)];
    });
    const [x, y] = pointInside([[star]])!;
    expect(Math.hypot(x, y)).toBeLessThan(40);
  });

  it('is none without a clip, in an empty one, and where paths have nothing in common', () => {
    expect(pointInside([])).toBeNull();
    expect(pointInside([[]])).toBeNull();
    expect(pointInside([[box(5, 5, 5, 90)]])).toBeNull();
    expect(pointInside([[box(0, 0, 10, 10)], [box(20, 0, 30, 10)]])).toBeNull();
  });
});
