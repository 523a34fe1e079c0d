import { beforeEach, describe, expect, it } from 'vitest';
import { keepScreen, pixelsToMm, SITTING, useScreen } from './screen';

beforeEach(() => useScreen.setState({ ppi: null, sitting: SITTING.usual }));

describe('a screen that is measured', () => {
  it('is kept, and tells its pixels to a millimetre', () => {
    expect(pixelsToMm(useScreen.getState())).toBeNull();
    expect(keepScreen({ ppi: 127 })).toBe(true);
    expect(pixelsToMm(useScreen.getState())).toBeCloseTo(5, 9);
  });

  it('is not believed where it makes no sense', () => {
    keepScreen({ ppi: 110 });
    for (const ppi of [0, -3, 39, 601, NaN, Infinity]) expect(keepScreen({ ppi })).toBe(false);
    for (const sitting of [0, 0.1, 30, NaN]) expect(keepScreen({ sitting })).toBe(false);
    expect(useScreen.getState()).toEqual({ ppi: 110, sitting: SITTING.usual });
  });
});
