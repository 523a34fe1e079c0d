import { z } from 'zod';
import { added, addedPull, MAGNIFICATION, type Severity } from '../../learned/enlarger';
import type { Network } from '../../learned/network';
import { premultiplied, unpremultiply } from '../../raster/alpha';
import { type Raster, type Window } from '../../raster/raster';
import { union, type Region, type Size } from '../../raster/region';
import { ModelDigest } from '../automatic';
import type { Stage } from '../step';
import { drawnBack, needsOf, trustIn } from './agreement';

const share = z.number().min(0).max(1);

export const MagnifyNumbers = z.object({
  model: ModelDigest,
  /** how badly luminance and colour were compressed before they were cleaned */
  luma: share,
  colour: share,
});
export type MagnifyNumbers = z.infer<typeof MagnifyNumbers>;

/**
 * Enlarges fourfold by a network, and draws the result back until, reduced, it is the picture that it
 * was made of. Without a model it is the plain enlargement that agrees with it as well.
 */
export const magnify: Stage<'magnify', MagnifyNumbers> = {
  kind: 'magnify',
  phases: ['original'],
  numbers: MagnifyNumbers,

  scaled: (numbers) => numbers,

  size: (_, { width, height }) => ({
    width: width * MAGNIFICATION,
    height: height * MAGNIFICATION,
  }),

  pull({ model }, region, { from }) {
    const { source, added } = needsOf(region, from);
    return model ? union(source, addedPull(added, from)) : source;
  },

  async apply(input, { model, luma, colour }, region, { from }, tools) {
    const network = model ? await tools.network(model) : null;
    const of = (planes: Float32Array[]): Raster =>
      magnified(
        network,
        { region: input.region, raster: { ...input.raster, planes } },
        region,
        from,
        { luma, colour },
      );
    if (input.raster.planes.length === 3) return of(input.raster.planes);
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
    return unpremultiply({ ...colours, planes: [...colours.planes, bounded] });
  },
};

function magnified(
  network: Network | null,
  input: Window,
  region: Region,
  size: Size,
  severity: Severity,
): Raster {
  const adds = network && added(network, input, needsOf(region, size).added, size, severity);
  return drawnBack(adds, input, region, size, trustIn(severity.luma));
}
