import { STRENGTH, RGB, type Form } from '../raster/form';
import { blur, gaussianReach } from '../raster/gaussian';
import { copyRun, emptyRaster, pixelsOver, type Window } from '../raster/raster';
import { grow, type Region, type Size } from '../raster/region';
import {
  cellsOfPixels,
  pixelsOfCells,
  reducedSize,
  reduceRows,
  wideBlurRows,
  wideGaussian,
} from '../raster/wide-gaussian';
import { layPainted, paintedOver } from '../zone/mask';
import { partReach, partValues } from '../zone/parts';
import {
  joinPart,
  looksAtPicture,
  looksAtPrint,
  partLooks,
  strengthsFrom,
  zoneInput,
  zoneValues,
} from '../zone/render-zone';
import {
  paintedIn,
  type ComputedPart,
  type MapPart,
  type Painted,
  type ZoneMap,
} from '../zone/zone';
import { BLOCK, same, type GraphNode, type Input, type MakeNode } from './graph-node';

/** A zone's strengths on the grid of the picture that it looks at. */
export function zoneNode(make: MakeNode, picture: GraphNode, zone: ZoneMap): GraphNode {
  const { size, grid } = picture;
  const needed = (region: Region) => zoneInput(zone, region, size);
  const looks = looksAtPicture(zone);
  return make(['zone', zone], {
    ...{ size, grid, form: STRENGTH, block: BLOCK },
    // One that is only painted or drawn has nothing to look at, but lies on the same grid.
    inputs: looks ? [{ node: picture, region: needed }] : [],
    cost: looks ? 0.5 : 0.1,
    compute: async (region, read, { masks }) => {
      const laid = paintedIn(zone).map(async (one) => [one.digest, await masks(one)] as const);
      const painted = new Map(await Promise.all(laid));
      const input = looks
        ? await read(0, needed(region))
        : { region: needed(region), raster: emptyRaster(0, 0, RGB) };
      return zoneValues(zone, input, region, size, painted);
    },
  });
}

/** What was painted: its ink and its cover. */
const PAINTED: Form = { colours: 2, alpha: false, space: 'strength' };

/** What was painted, over a picture of `size`. */
export const paintedNode = (make: MakeNode, size: Size, painted: Painted): GraphNode =>
  make(['painted', painted], {
    ...{ size, grid: 'original', form: PAINTED, inputs: [], cost: 0.01, block: BLOCK },
    compute: async (region, _, { masks }) => {
      const { ink, cover } = paintedOver(await masks(painted), region, size);
      return { width: region.width, height: region.height, form: PAINTED, planes: [ink, cover] };
    },
  });

/** What zones on a print follow from. */
export interface Print {
  /** the enlarged picture, before it is finished */
  picture: GraphNode;
  /** its pixels to one of the original's, along an axis; 1 or more */
  scale: number;
  /** strengths on the original's grid, and what was painted there, enlarged */
  strengths(zone: ZoneMap): GraphNode;
  painted(painted: Painted): GraphNode;
}

/**
 * A zone's strengths over a print. Those that look at the print are computed on its own pixels, as far as they look at
 * a picture; all else is enlarged with it.
 */
export function printZoneNode(make: MakeNode, print: Print, zone: ZoneMap): GraphNode {
  if (!looksAtPrint(zone)) return print.strengths(zone);
  const { picture, scale } = print;
  const { size, grid } = picture;
  const { parts, painted, feather, inverted } = zone;
  const own = (part: MapPart): part is ComputedPart =>
    zone.print === true && part.kind !== 'map' && partLooks(part);
  const about = (region: Region) =>
    grow(
      region,
      Math.max(0, ...parts.map((part) => (own(part) ? partReach(part, scale) : 0))),
      size,
    );

  const inputs: Input[] = [{ node: picture, region: about }];
  const add = (node: GraphNode): number => inputs.push({ node, region: same }) - 1;
  const joined = parts.map((part) => {
    if (own(part)) return { part, at: 0 };
    const map = part.kind === 'map' ? part.map : plainMap(part);
    return { part, at: add(printZoneNode(make, print, map)) };
  });
  const paintedAt = painted && add(print.painted(painted));
  const turned = inverted && feather === 0;
  const node = make(['print zone', scale, parts.map(withoutMap), paintedAt, turned], {
    ...{ size, grid, form: STRENGTH, block: BLOCK, cost: 0.15, inputs },
    compute: async (region, read) => {
      // The widest one first, which holds the rest.
      const looked = await read(0, about(region));
      const values = new Float32Array(region.width * region.height);
      for (const { part, at } of joined) {
        const value = own(part)
          ? partValues(part, looked, region, size, scale)
          : planesOver(await read(at, region), region, part.inverted)[0]!;
        joinPart(values, value, part.joining);
      }
      if (paintedAt) {
        const [ink, cover] = planesOver(await read(paintedAt, region), region);
        layPainted(values, { ink: ink!, cover: cover! });
      }
      return strengthsFrom(values, region, turned);
    },
  });
  return feather === 0 ? node : feathered(make, node, feather * scale, inverted);
}

/** A part by itself, the right way round. */
const plainMap = (part: ComputedPart): ZoneMap => ({
  parts: [{ ...part, joining: 'add', inverted: false }],
  ...{ painted: null, feather: 0, inverted: false },
});

/** What tells a part from others beside the node that holds its map. */
const withoutMap = (part: MapPart): unknown =>
  part.kind === 'map' ? { kind: part.kind, joining: part.joining, inverted: part.inverted } : part;

function planesOver(window: Window, region: Region, inverted = false): Float32Array[] {
  const { planes } = pixelsOver(window, region);
  return inverted ? planes.map((plane) => plane.map((value) => 1 - value)) : planes;
}

/** Strengths blurred by a Gaussian, in pixels of their grid. */
function feathered(make: MakeNode, node: GraphNode, radius: number, inverted: boolean): GraphNode {
  const { size, grid } = node;
  const of = { size, grid, form: STRENGTH, block: BLOCK };
  const wide = wideGaussian(radius);
  if (!wide) {
    const about = (region: Region) => grow(region, gaussianReach(radius), size);
    return make(['feathered', radius, inverted], {
      ...{ ...of, inputs: [{ node, region: about }], cost: 0.02 },
      compute: async (region, read) => {
        const { region: covered, raster } = await read(0, about(region));
        return strengthsFrom(
          blur(raster.planes[0]!, covered, region, size, radius),
          region,
          inverted,
        );
      },
    });
  }
  const { factor } = wide;
  const pixels = (region: Region) => pixelsOfCells(region, factor, size);
  const reduced = make(['reduced strengths', factor], {
    ...{ ...of, size: reducedSize(size, factor), cost: 0.005 * factor * factor },
    inputs: [{ node, region: pixels }],
    compute: async (region, read) => {
      const { region: covered, raster } = await read(0, pixels(region));
      const [plane] = raster.planes as [Float32Array];
      return reduceRows(covered, region, factor, size, 0, ({ floats }, at, y) =>
        copyRun(plane, (y - covered.y) * covered.width, floats, at, covered.width),
      );
    },
  });
  const cells = (region: Region) => cellsOfPixels(region, wide, size);
  return make(['feathered', radius, inverted], {
    ...{ ...of, inputs: [{ node: reduced, region: cells }], cost: 0.005 },
    compute: async (region, read) => {
      const values = new Float32Array(region.width * region.height);
      const from = await read(0, cells(region));
      wideBlurRows(from, region, size, wide, 0, ({ floats }, soft, _, y) =>
        copyRun(floats, soft / 4, values, y * region.width, region.width),
      );
      return strengthsFrom(values, region, inverted);
    },
  });
}
