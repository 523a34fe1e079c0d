import { describe, expect, it } from 'vitest';
import type { Affine, PlacedPicture } from './placed';
import { withoutSlices } from './slices';

const placed = (place: Affine | null, change: Partial<PlacedPicture> = {}): PlacedPicture => ({
  ...{ width: 100, height: 20, widthPt: 100, heightPt: 20, place, times: 1, kept: null },
  ...change,
});

const keptOf = (pictures: PlacedPicture[]) =>
  withoutSlices(pictures).map(({ kept }) => kept !== null);

describe('slices of one picture', () => {
  it('are told one below the other and side by side, mirrored as well', () => {
    const strips = Array.from({ length: 5 }, (_, i) =>
      placed([10_000, 0, 0, 2000, 500, 700 + i * 2000]),
    );
    expect(keptOf(strips)).toEqual([true, true, true, true, true]);
    const upsideDown = strips.map(({ place }) =>
      placed([place![0], 0, 0, -place![3], place![4], place![5] + 2000]),
    );
    expect(keptOf(upsideDown)).toEqual([true, true, true, true, true]);
    const beside = [placed([5000, 0, 0, 8000, 100, 100]), placed([5003, 0, 0, 8000, 5101, 99])];
    expect(keptOf(beside)).toEqual([true, true]);
  });

  it('are not what lies apart, differs in length, or is shown several times', () => {
    const apart = [placed([10_000, 0, 0, 2000, 0, 0]), placed([10_000, 0, 0, 2000, 0, 2300])];
    expect(keptOf(apart)).toEqual([false, false]);
    const uneven = [placed([10_000, 0, 0, 2000, 0, 0]), placed([7000, 0, 0, 2000, 0, 2000])];
    expect(keptOf(uneven)).toEqual([false, false]);
    const tiles = [placed([1000, 0, 0, 1000, 0, 0], { times: 40 }), placed(null)];
    expect(keptOf(tiles)).toEqual([false, false]);
  });

  it('are found among thousands', () => {
    const strips = Array.from({ length: 4000 }, (_, i) =>
      placed([10_000, 0, 0, 20, 500, 700 + i * 20]),
    );
    expect(keptOf(strips).every(Boolean)).toBe(true);
  });
});
