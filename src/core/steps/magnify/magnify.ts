import { z } from 'zod';
import { addedPull, addTo, MAGNIFICATION, type Severity } from '../../learned/enlarger';
import type { Network } from '../../learned/network';
import { premultiplied, unpremultiply } from '../../raster/alpha';
import { cut, emptyRaster, type Raster, type Window } from '../../raster/raster';
import { union, whole, type Region, type Size } from '../../raster/region';
import { ModelDigest } from '../automatic';
import { pullOf, run, type Pass } from '../enlarge/passes';
import type { Stage } from '../step';

const share = z.number().min(0).max(1);

export const MagnifyNumbers = z.object({
  model: ModelDigest,
  /** how badly luminance and colour were compressed before they were cleaned */
  luma: share,
  colour: share,
});
export type MagnifyNumbers = z.infer<typeof MagnifyNumbers>;

const magnifiedSize = ({ width, height }: Size): Size => ({
  width: width * MAGNIFICATION,
  height: height * MAGNIFICATION,
});

/** Plain enlargement of a whole grid; it is what networks were taught to add to. */
const up = (size: Size): Pass => ({
  method: 'bicubic',
  frame: size,
  source: whole(size),
  target: magnifiedSize(size),
  degrees: 0,
});
/** What the small picture is of the large one. */
const down = (size: Size): Pass => ({
  method: 'bicubic',
  frame: magnifiedSize(size),
  source: whole(magnifiedSize(size)),
  target: size,
  degrees: 0,
});

/** How often the result is brought into agreement with the picture that it was made of. */
const CORRECTIONS = 2;

/** What each correction needs, the last one first: of the large picture, and of the small one. */
function corrections(region: Region, size: Size): { large: Region; small: Region }[] {
  let large = region;
  return Array.from({ length: CORRECTIONS }, () => {
    const small = pullOf(up(size), large);
    const step = { large, small };
    large = union(large, pullOf(down(size), small));
    return step;
  });
}

/** Pixels of the small grid that a part of the large one lies on. */
function under(region: Region): Region {
  const x = Math.floor(region.x / MAGNIFICATION);
  const y = Math.floor(region.y / MAGNIFICATION);
  return {
    x,
    y,
    width: Math.ceil((region.x + region.width) / MAGNIFICATION) - x,
    height: Math.ceil((region.y + region.height) / MAGNIFICATION) - y,
  };
}

const over = ({ x, y, width, height }: Region): Region => ({
  x: x * MAGNIFICATION,
  y: y * MAGNIFICATION,
  width: width * MAGNIFICATION,
  height: height * MAGNIFICATION,
});

/** The part of the small grid whose enlargement is begun with. */
function begun(region: Region, size: Size): Region {
  const [last] = corrections(region, size).slice(-1);
  return under(union(last!.large, pullOf(down(size), last!.small)));
}

/**
 * Enlarges fourfold by a network, and then draws the result back until, reduced, it is the picture
 * that it was made of (iterated back-projection, Irani & Peleg 1991). Without a model it is the
 * plain enlargement.
 */
export const magnify: Stage<'magnify', MagnifyNumbers> = {
  kind: 'magnify',
  phases: ['original'],
  numbers: MagnifyNumbers,

  scaled: (numbers) => numbers,

  size: (_, from) => magnifiedSize(from),

  pull(numbers, region, { from }) {
    if (!numbers.model) return pullOf(up(from), region);
    const small = begun(region, from);
    return union(addedPull(small, from), pullOf(up(from), over(small)));
  },

  async apply(input, numbers, region, { from }, tools) {
    if (!numbers.model) return run(up(from), input, region, 0);
    const network = await tools.network(numbers.model);
    const severity = { luma: numbers.luma, colour: numbers.colour };
    if (input.raster.planes.length === 3) {
      return magnified(network, input, region, from, severity);
    }
    // What covers is a picture of its own, in grey.
    const { planes } = premultiplied(input.raster);
    const [red, green, blue, alpha] = planes as [
      Float32Array,
      Float32Array,
      Float32Array,
      Float32Array,
    ];
    const of = (three: Float32Array[]): Promise<Raster> =>
      magnified(
        network,
        { region: input.region, raster: { ...input.raster, planes: three } },
        region,
        from,
        severity,
      );
    const colours = await of([red, green, blue]);
    const cover = await of([alpha, alpha, alpha]);
    const bounded = cover.planes[0]!.map((value) => Math.min(1, Math.max(0, value)));
    return unpremultiply({ ...colours, planes: [...colours.planes, bounded] });
  },
};

/** What the network's enlargement would be if it added nothing: plain, and in agreement with its source. */
export const plainlyMagnified = (input: Window, region: Region, size: Size): Promise<Raster> =>
  magnified(null, input, region, size, { luma: 0, colour: 0 });

/** The part of the small grid that `plainlyMagnified` needs for `region`. */
export const plainPull = (region: Region, size: Size): Region =>
  pullOf(up(size), over(begun(region, size)));

async function magnified(
  network: Network | null,
  input: Window,
  region: Region,
  size: Size,
  severity: Severity,
): Promise<Raster> {
  const small = begun(region, size);
  const large: Window = { region: over(small), raster: run(up(size), input, over(small), 0) };
  if (network) await addTo(large, network, input, size, severity);
  for (const step of corrections(region, size).reverse()) correct(large, input, step, size);
  return cut(large, region);
}

/** Adds to part of the large picture, in place, what it lacks of the small one when reduced. */
function correct(
  large: Window,
  input: Window,
  step: { large: Region; small: Region },
  size: Size,
): void {
  const found = run(down(size), large, step.small, 0);
  const given = cut(input, step.small);
  const missing: Window = {
    region: step.small,
    raster: emptyRaster(step.small.width, step.small.height, 3),
  };
  missing.raster.planes.forEach((plane, c) => {
    for (let i = 0; i < plane.length; i++) plane[i] = given.planes[c]![i]! - found.planes[c]![i]!;
  });
  const change = run(up(size), missing, step.large, 0);
  const { x, y, width, height } = step.large;
  large.raster.planes.forEach((plane, c) => {
    const from = change.planes[c]!;
    for (let v = 0; v < height; v++) {
      let at = (y + v - large.region.y) * large.region.width + x - large.region.x;
      for (let u = 0; u < width; u++) plane[at++]! += from[v * width + u]!;
    }
  });
}
