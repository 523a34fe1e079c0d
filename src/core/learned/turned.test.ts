import { describe, expect, it } from 'vitest';
import { random } from '../testing';
import type { Network } from './network';
import { turned } from './turned';

const [WIDTH, HEIGHT, MARGIN] = [10, 6, 2];
const inner = { width: WIDTH - 2 * MARGIN, height: HEIGHT - 2 * MARGIN };

/** Gives three planes, twice as large: of each pixel its right neighbour, in the upper left of its square alone. */
const rightNeighbour: Network = {
  run(planes, width, height, margin) {
    const [w, h] = [width - 2 * margin, height - 2 * margin];
    const found = new Float32Array(3 * 4 * w * h);
    for (let c = 0; c < 3; c++) {
      for (let y = 0; y < h; y++) {
        for (let x = 0; x < w; x++) {
          const at = (c * height + y + margin) * width + x + margin + 1;
          found[(c * 2 * h + 2 * y) * 2 * w + 2 * x] = planes[at]!;
        }
      }
    }
    return found;
  },
};

const next = random(4);
const planes = Float32Array.from({ length: 3 * WIDTH * HEIGHT }, next);
const mirrored = (values: Float32Array, width: number): Float32Array =>
  values.map((_, i) => values[i - (i % width) + width - 1 - (i % width)]!);

describe('a network asked in all ways', () => {
  const found = turned(rightNeighbour).run(planes, WIDTH, HEIGHT, MARGIN);

  it('means of a square all four corners, each seen two ways', () => {
    const at = (x: number, y: number) => planes[(y + MARGIN) * WIDTH + x + MARGIN]!;
    const of = (x: number, y: number) => (8 / 1.05) * found[y * 2 * inner.width + x]!;
    // Of the pixel at 2, 1: its upper left is said with the neighbour to the right, or the one below.
    expect(of(4, 2)).toBeCloseTo(at(3, 1) + at(2, 2), 5);
    expect(of(5, 2)).toBeCloseTo(at(1, 1) + at(2, 2), 5);
    expect(of(4, 3)).toBeCloseTo(at(3, 1) + at(2, 0), 5);
    expect(of(5, 3)).toBeCloseTo(at(1, 1) + at(2, 0), 5);
  });

  it('gives of a mirrored picture the mirror image, to the last bits', () => {
    const other = turned(rightNeighbour).run(mirrored(planes, WIDTH), WIDTH, HEIGHT, MARGIN);
    mirrored(other, 2 * inner.width).forEach((value, i) => expect(value).toBeCloseTo(found[i]!, 6));
  });
});
