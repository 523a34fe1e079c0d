import { z } from 'zod';
import { blur, gaussianReach } from '../../raster/gaussian';
import { emptyRaster } from '../../raster/raster';
import { grow } from '../../raster/region';
import type { Stage } from '../step';

/** Wider blurs than this show no picture any more. */
const RADIUS_LIMIT = 200;

export const SpreadNumbers = z.object({
  /** standard deviation in pixels of the result */
  radius: z.number().positive().max(RADIUS_LIMIT),
});
export type SpreadNumbers = z.infer<typeof SpreadNumbers>;

/**
 * The result as ink spread and the eye leave it from a distance, for looking at it on the screen: colours blurred by
 * their Gaussian. No result is ever written with it.
 */
export const spread: Stage<'spread', SpreadNumbers> = {
  kind: 'spread',
  phases: ['target'],
  numbers: SpreadNumbers,
  scaled: ({ radius }, scale) => ({ radius: Math.max(radius * scale, 0.001) }),
  size: (_, from) => from,
  cost: ({ radius }) => 0.01 * gaussianReach(radius),
  inputRegion: ({ radius }, region, { from }) => grow(region, gaussianReach(radius), from),
  apply({ region: covered, raster }, { radius }, region, { from }) {
    const result = emptyRaster(region.width, region.height, raster.form);
    raster.planes.forEach((plane, c) => {
      result.planes[c]!.set(blur(plane, covered, region, from, radius));
    });
    return result;
  },
};
