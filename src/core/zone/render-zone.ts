import { emptyRaster, type Raster, type Window } from '../raster/raster';
import { grow, type Region, type Size } from '../raster/region';
import { blur, gaussianReach } from '../raster/gaussian';
import { layPainted, type Mask } from './mask';
import { partReach, partValues } from './parts';
import type { MapPart, Painted, ZoneMap } from './zone';
import { STRENGTH } from '../raster/form';

/** How the bytes of painted masks are come by. @throws where there is none of that name */
export type MaskReader = (painted: Painted) => Promise<Mask>;

/** What of the picture is needed for `region` of a zone. */
export const zoneInput = (zone: ZoneMap, region: Region, size: Size): Region =>
  grow(region, reachOf(zone), size);

const reachOf = ({ parts, feather }: ZoneMap): number =>
  (feather > 0 ? gaussianReach(feather) : 0) +
  Math.max(0, ...parts.map((part) => (part.kind === 'map' ? reachOf(part.map) : partReach(part))));

/** Whether a zone looks at the picture at all. */
export const looksAtPicture = ({ parts }: ZoneMap): boolean =>
  parts.some((part) => (part.kind === 'map' ? looksAtPicture(part.map) : partReach(part) > 0));

/**
 * A zone's strengths, 0–1, one plane over `region`: its parts joined in their order, what was
 * painted laid over them, then feathered and inverted.
 * @param input the picture over at least `zoneInput(zone, region)`; of a zone that doesn't look at
 *   it only the place matters
 * @param masks what was painted for it and for those that it is joined from, by digest
 */
export function zoneValues(
  zone: ZoneMap,
  input: Window,
  region: Region,
  size: Size,
  masks: ReadonlyMap<string, Mask>,
): Raster {
  const wide = zone.feather > 0 ? grow(region, gaussianReach(zone.feather), size) : region;
  const values = new Float32Array(wide.width * wide.height);
  for (const part of zone.parts) join(values, valuesOf(part, input, wide, size, masks), part);
  const mask = zone.painted && masks.get(zone.painted.digest);
  if (mask) layPainted(values, wide, size, mask);
  const soft = zone.feather > 0 ? blur(values, wide, region, size, zone.feather) : values;
  const result = emptyRaster(region.width, region.height, STRENGTH);
  const [plane] = result.planes as [Float32Array];
  for (let i = 0; i < plane.length; i++) {
    const value = Math.min(1, Math.max(0, soft[i]!));
    plane[i] = zone.inverted ? 1 - value : value;
  }
  return result;
}

function valuesOf(
  part: MapPart,
  input: Window,
  region: Region,
  size: Size,
  masks: ReadonlyMap<string, Mask>,
): Float32Array {
  if (part.kind !== 'map') return partValues(part, input, region, size);
  const [values] = zoneValues(part.map, input, region, size, masks).planes as [Float32Array];
  return part.inverted ? values.map((value) => 1 - value) : values;
}

function join(values: Float32Array, part: Float32Array, { joining }: MapPart): void {
  for (let i = 0; i < values.length; i++) {
    const before = values[i]!;
    const value = part[i]!;
    values[i] =
      joining === 'add'
        ? Math.max(before, value)
        : joining === 'limit'
          ? Math.min(before, value)
          : Math.min(before, 1 - value);
  }
}
