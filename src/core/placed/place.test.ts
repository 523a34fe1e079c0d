import { describe, expect, it } from 'vitest';
import type { Turn } from '../frame/framing';
import { cornersOn, followedBy, inverseOf, partOn, shownIn, spotOn } from './place';
import type { Affine } from './placed';

const PAGE = { width: 30_000, height: 20_000 };
const WHOLE = { source: { x: 0, y: 0, ...PAGE }, turn: 0 as Turn };
/** 100 x 60 points, 20.2 from the left and 70 from the top. */
const UPRIGHT: Affine = [10_000, 0, 0, 6000, 2020, 7000];

const mapped = ([a, b, c, d, e, f]: Affine, x: number, y: number) => [
  a * x + c * y + e,
  b * x + d * y + f,
];

describe('where a placed picture lies on a drawing', () => {
  it('is whole pixels, at most half a pixel beside its place', () => {
    for (const width of [299, 300, 301, 777, 5001]) {
      const size = { width, height: Math.round((width * 2) / 3) };
      const { at, pixels, map } = spotOn(UPRIGHT, PAGE, WHOLE, size);
      const [x, y] = [width / PAGE.width, size.height / PAGE.height];
      expect(Math.abs(at!.x - 2020 * x)).toBeLessThanOrEqual(0.5);
      expect(Math.abs(at!.x + at!.width - 12_020 * x)).toBeLessThanOrEqual(0.5);
      expect(Math.abs(at!.y + at!.height - 13_000 * y)).toBeLessThanOrEqual(0.5);
      expect(pixels).toEqual({ width: at!.width, height: at!.height });
      expect(mapped(map, 1, 1)).toEqual([at!.x + at!.width, at!.y + at!.height]);
    }
  });

  it('has its own sides where it lies on its side', () => {
    const onItsSide: Affine = [0, 10_000, -6000, 0, 9000, 4000];
    const { at, pixels, map } = spotOn(onItsSide, PAGE, WHOLE, { width: 600, height: 400 });
    expect(at).toEqual({ x: 60, y: 80, width: 120, height: 200 });
    expect(pixels).toEqual({ width: 200, height: 120 });
    expect(mapped(map, 0, 0)).toEqual([180, 80]);
    expect(mapped(map, 1, 1)).toEqual([60, 280]);
  });

  it('is the same for a part of a turned page', () => {
    // The upper right quarter of the page, turned to the right: twice as many pixels a point.
    const part = { source: { x: 0, y: 15_000, width: 10_000, height: 15_000 }, turn: 90 as Turn };
    const { at } = spotOn([3000, 0, 0, 2000, 21_000, 1000], PAGE, part, {
      width: 400,
      height: 600,
    });
    // The page's columns from 15,000 to 30,000 and rows from 10,000 to 20,000 are not where it lies.
    expect(at!.x).toBe(240);
    expect(at!.y).toBeLessThan(0);
  });

  it('has as many pixels along its sides as it covers, where it is laid at an angle', () => {
    const slanted: Affine = [8000, 3000, -2000, 5000, 9000, 4000];
    const { at, pixels } = spotOn(slanted, PAGE, WHOLE, { width: 3000, height: 2000 });
    expect(at).toBeNull();
    expect(pixels.width).toBe(Math.ceil(Math.hypot(800, 300)));
    expect(pixels.height).toBe(Math.ceil(Math.hypot(200, 500)));
  });
});

describe('its corners', () => {
  it('turn with the page', () => {
    const place: Affine = [6000, 0, 0, 4000, 3000, 2000];
    const size = { width: 300, height: 200 };
    const corners = (turn: Turn) => {
      const turned = turn % 180 === 0 ? size : { width: size.height, height: size.width };
      const page = turn % 180 === 0 ? PAGE : { width: PAGE.height, height: PAGE.width };
      const drawn = { source: { x: 0, y: 0, ...page }, turn };
      return cornersOn(place, PAGE, drawn, turned)[0]!.map(Math.round);
    };
    expect(corners(0)).toEqual([30, 20]);
    expect(corners(90)).toEqual([180, 30]);
    expect(corners(180)).toEqual([270, 180]);
    expect(corners(270)).toEqual([20, 270]);
  });
});

describe('what of it shows in a part of the drawing', () => {
  const size = { width: 600, height: 400 };

  it('is exactly the pixels there, and they come together to all of it', () => {
    const spot = spotOn(UPRIGHT, PAGE, WHOLE, size);
    const own = spot.pixels;
    let covered = 0;
    for (let x = 0; x < size.width; x += 64) {
      for (let y = 0; y < size.height; y += 64) {
        const part = { x, y, width: 64, height: 64 };
        const shown = shownIn(spot, part, own);
        if (!shown) continue;
        covered += shown.width * shown.height;
        const [a, , , d, e, f] = partOn(spot.map, shown, own);
        for (const side of [a, d, e, f])
          expect(Math.abs(side - Math.round(side))).toBeLessThan(1e-9);
        expect(e).toBeGreaterThanOrEqual(x - 1e-9);
        expect(f + d).toBeLessThanOrEqual(y + 64 + 1e-9);
      }
    }
    expect(covered).toBe(own.width * own.height);
  });

  it('is nothing beside it, and a few pixels more where it lies at an angle', () => {
    const slanted = spotOn([8000, 3000, -2000, 5000, 9000, 4000], PAGE, WHOLE, size);
    expect(shownIn(slanted, { x: 0, y: 350, width: 20, height: 20 }, slanted.pixels)).toBeNull();
    const [x, y] = mapped(slanted.map, 0.5, 0.5);
    const shown = shownIn(
      slanted,
      { x: Math.floor(x!), y: Math.floor(y!), width: 1, height: 1 },
      slanted.pixels,
    );
    expect(shown!.width).toBeGreaterThan(6);
    expect(shown!.width).toBeLessThan(14);
  });
});

describe('maps', () => {
  it('lead back, and say where there is no way back', () => {
    const map: Affine = [3, 1, -2, 5, 7, 11];
    const both = followedBy(map, inverseOf(map)!);
    both.forEach((value, i) => expect(value).toBeCloseTo([1, 0, 0, 1, 0, 0][i]!, 12));
    expect(inverseOf([1, 2, 2, 4, 0, 0])).toBeNull();
  });
});
