import { z } from 'zod';
import { luminanceOver } from '../../raster/colour';
import { emptyRaster, pixelsOver } from '../../raster/raster';
import type { Stage } from '../step';

export const GreysNumbers = z.object({});
export type GreysNumbers = z.infer<typeof GreysNumbers>;

/** Luminance alone, as greys: for looking at what a step lays over it. No result is ever written with it. */
export const greys: Stage<'greys', GreysNumbers> = {
  kind: 'greys',
  phases: ['target'],
  numbers: GreysNumbers,
  scaled: (numbers) => numbers,
  size: (_, from) => from,
  cost: () => 0,
  inputRegion: (_, region) => region,
  apply(input, _, region) {
    const result = emptyRaster(region.width, region.height, input.raster.form);
    const [luma] = luminanceOver(input, region).planes as [Float32Array];
    const alpha = pixelsOver(input, region).planes[3];
    for (const plane of result.planes.slice(0, 3)) plane.set(luma);
    if (alpha) result.planes[3]!.set(alpha);
    return result;
  },
};
