import { describe, expect, it } from 'vitest';
import { testPicture } from '../testing';
import { luminance, luminanceOver, recoloured } from './colour';
import { RGBA } from './form';
import { cutPlane, emptyRaster } from './raster';
import { whole } from './region';

const size = { width: 45, height: 31 };
const picture = testPicture(size, 8);
const colours = { region: whole(size), raster: picture };
const region = { x: 7, y: 5, width: 29, height: 20 };

describe('colours of another luminance', () => {
  it('are what they were where it is the same', () => {
    const raster = luminanceOver(colours, region);
    const again = recoloured(colours, { region, raster }, region);
    again.planes.forEach((plane, c) =>
      expect(plane).toEqual(cutPlane(picture.planes[c]!, colours.region, region)),
    );
  });

  it('gain alike in R, G and B, as much as it gained', () => {
    const raster = luminanceOver(colours, whole(size));
    const [luma] = raster.planes as [Float32Array];
    const was = luma.slice();
    luma.forEach((value, i) => (luma[i] = value + ((i % 5) - 2) / 50));
    const changed = recoloured(colours, { region: whole(size), raster }, region);
    const plus = cutPlane(luma, colours.region, region);
    const before = cutPlane(was, colours.region, region);
    changed.planes.forEach((plane, c) => {
      const own = cutPlane(picture.planes[c]!, colours.region, region);
      plane.forEach((value, i) => expect(value - own[i]!).toBeCloseTo(plus[i]! - before[i]!, 6));
    });
    luminance(changed).forEach((value, i) => expect(value).toBeCloseTo(plus[i]!, 6));
  });

  it('keep their transparency', () => {
    const clear = emptyRaster(size.width, size.height, RGBA);
    clear.planes[3]!.forEach((_, i, alpha) => (alpha[i] = (i % 7) / 7));
    const window = { region: whole(size), raster: clear };
    const grey = { region, raster: luminanceOver(window, region) };
    expect(recoloured(window, grey, region).planes[3]).toEqual(
      cutPlane(clear.planes[3]!, whole(size), region),
    );
  });
});
