import { describe, expect, it } from 'vitest';
import { random } from '../testing';
import { rangeAbout } from './range';
import { grow } from './region';

const size = { width: 37, height: 29 };
const next = random(3);
const picture = Float32Array.from({ length: size.width * size.height }, () => next() * 2 - 0.5);

describe('the range about a pixel', () => {
  it.each([1, 2, 3, 5, 8, 13, 40])('is that of all within %d pixels on the picture', (reach) => {
    for (const region of [
      { x: 0, y: 0, ...size },
      { x: 30, y: 4, width: 7, height: 11 },
      { x: 5, y: 28, width: 1, height: 1 },
    ]) {
      const covered = grow(region, reach, size);
      const plane = new Float32Array(covered.width * covered.height);
      plane.forEach((_, i) => {
        const x = covered.x + (i % covered.width);
        const y = covered.y + Math.floor(i / covered.width);
        plane[i] = picture[y * size.width + x]!;
      });
      const { least, most } = rangeAbout(plane, covered, region, size, reach);
      for (let y = 0; y < region.height; y++)
        for (let x = 0; x < region.width; x++) {
          const about = grow(
            { x: region.x + x, y: region.y + y, width: 1, height: 1 },
            reach,
            size,
          );
          let low = Infinity;
          let high = -Infinity;
          for (let v = about.y; v < about.y + about.height; v++)
            for (let u = about.x; u < about.x + about.width; u++) {
              low = Math.min(low, picture[v * size.width + u]!);
              high = Math.max(high, picture[v * size.width + u]!);
            }
          expect([least[y * region.width + x], most[y * region.width + x]]).toEqual([low, high]);
        }
    }
  });
});
