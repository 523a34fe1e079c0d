import { describe, expect, it } from 'vitest';
import { toYCbCr } from './colour';
import { emptyRaster } from './raster';
import { fromSamples, toSamples, toScreen } from './samples';
import { RGB } from './form';

describe('samples', () => {
  it('come back unchanged through the planes, at both depths', () => {
    const eight = Uint8Array.from({ length: 768 }, (_, i) => i % 256);
    expect(toSamples(fromSamples(eight, 16, 16, 3, 8), 8)).toEqual(eight);
    const sixteen = Uint16Array.from({ length: 3 * 21845 }, (_, i) => i);
    expect(toSamples(fromSamples(sixteen, 21845, 1, 3, 16), 16)).toEqual(sixteen);
  });

  it('leave out the channels that are not kept', () => {
    const raster = fromSamples(Uint8Array.of(255, 0, 51, 9, 0, 255, 102, 9), 2, 1, 4, 8, 3);
    expect(raster.planes).toHaveLength(3);
    expect(raster.planes[2]![1]).toBeCloseTo(0.4, 6);
  });

  it('are clamped and rounded half up, and the screen gets the same numbers', () => {
    const raster = emptyRaster(3, 1, RGB);
    raster.planes[0]!.set([-0.2, 1.7, 0.5]);
    raster.planes[1]!.set([0.4999 / 255, 0.5001 / 255, 1]);
    expect([...toSamples(raster, 8)]).toEqual([0, 0, 0, 255, 1, 0, 128, 255, 0]);
    expect([...toScreen(raster)]).toEqual([0, 0, 0, 255, 255, 1, 0, 255, 128, 255, 0, 255]);
  });
});

describe('luminance and colour differences', () => {
  it('follow JFIF: grey has none, pure blue has the full one', () => {
    const raster = emptyRaster(2, 1, RGB);
    raster.planes[0]!.set([0.5, 0]);
    raster.planes[1]!.set([0.5, 0]);
    raster.planes[2]!.set([0.5, 1]);
    const { y, cb, cr } = toYCbCr(raster);
    expect(y[0]).toBeCloseTo(127.5, 3);
    expect(cb[0]).toBeCloseTo(0, 4);
    expect(cb[1]).toBeCloseTo(127.5, 3);
    expect(cr[1]).toBeCloseTo((-0.114 * 255) / 1.402, 3);
  });
});
