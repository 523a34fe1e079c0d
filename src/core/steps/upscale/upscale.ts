import { z } from 'zod';
import { MODELS } from '../../learned/models';
import { added, addedInput, UPSCALING, type Severity } from '../../learned/enlarger';
import type { Network } from '../../learned/network';
import { turned } from '../../learned/turned';
import { RGB, RGBA } from '../../raster/form';
import { premultiplied, unpremultiply } from '../../raster/alpha';
import { type Raster, type Window } from '../../raster/raster';
import { union, type Region, type Size } from '../../raster/region';
import { ModelDigest } from '../automatic';
import type { Stage } from '../step';
import { backProjected, inputsOf, backProjectionWeight } from './back-projection';

/** What seven more answers cost, in microseconds a pixel. */
const FINEST = 2.1;

const share = z.number().min(0).max(1);

export const UpscaleNumbers = z.object({
  model: ModelDigest,
  /** whether the network is asked in all ways to turn a picture */
  finest: z.literal(true).optional(),
  /** how badly luminance and colour were compressed before they were cleaned */
  luma: share,
  colour: share,
});
export type UpscaleNumbers = z.infer<typeof UpscaleNumbers>;

/**
 * Enlarges fourfold by a network, and draws the result back until, reduced, it is the picture that it
 * was made of. Without a model it is the plain enlargement that agrees with it as well.
 */
export const upscale: Stage<'upscale', UpscaleNumbers> = {
  kind: 'upscale',
  phases: ['original'],
  // It has sixteen times as many pixels as its input.
  fixed: true,
  // Its rim is as wide again as a cleaner's.
  block: 1792,
  cost: ({ model, finest }) =>
    0.34 + (model === MODELS.photo.digest ? 0.06 : 0) + (finest ? FINEST : 0),
  numbers: UpscaleNumbers,

  scaled: (numbers) => numbers,

  size: (_, { width, height }) => ({
    width: width * UPSCALING,
    height: height * UPSCALING,
  }),

  inputRegion({ model }, region, { from }) {
    const { source, added } = inputsOf(region, from);
    return model ? union(source, addedInput(added, from)) : source;
  },

  async apply(input, { model, finest, luma, colour }, region, { from }, beside) {
    const asked = model ? await beside.network(model) : null;
    const network = asked && finest ? turned(asked) : asked;
    const of = (planes: Float32Array[]): Raster =>
      upscaled(
        network,
        { region: input.region, raster: { ...input.raster, form: RGB, planes } },
        region,
        from,
        { luma, colour },
      );
    if (!input.raster.form.alpha) return of(input.raster.planes);
    // What covers is a picture of its own, in grey.
    const [red, green, blue, alpha] = premultiplied(input.raster).planes as [
      Float32Array,
      Float32Array,
      Float32Array,
      Float32Array,
    ];
    const colours = of([red, green, blue]);
    const cover = of([alpha, alpha, alpha]);
    const bounded = cover.planes[0]!.map((value) => Math.min(1, Math.max(0, value)));
    return unpremultiply({ ...colours, form: RGBA, planes: [...colours.planes, bounded] });
  },
};

function upscaled(
  network: Network | null,
  input: Window,
  region: Region,
  size: Size,
  severity: Severity,
): Raster {
  const adds = network && added(network, input, inputsOf(region, size).added, size, severity);
  return backProjected(adds, input, region, size, backProjectionWeight(severity.luma));
}
