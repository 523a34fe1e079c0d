import { emptyRaster, type Raster, type Window } from '../raster/raster';
import { grow, type Region, type Size } from '../raster/region';
import { blur, gaussianReach } from '../raster/gaussian';
import { layPainted, paintedOver, type Mask } from './mask';
import { partReach, partValues } from './parts';
import type { Joining, MapPart, Painted, ZoneMap } from './zone';
import { STRENGTH } from '../raster/form';

/** How the bytes of painted masks are come by. @throws where there is none of that name */
export type MaskReader = (painted: Painted) => Promise<Mask>;

/** What of the picture is needed for `region` of a zone. */
export const zoneInput = (zone: ZoneMap, region: Region, size: Size): Region =>
  grow(region, reachOf(zone), size);

const reachOf = ({ parts, feather }: ZoneMap): number =>
  (feather > 0 ? gaussianReach(feather) : 0) +
  Math.max(0, ...parts.map((part) => (part.kind === 'map' ? reachOf(part.map) : partReach(part))));

/** Whether a part of a zone looks at the picture, rather than going by places alone. */
export const partLooks = (part: MapPart): boolean =>
  part.kind === 'map' ? looksAtPicture(part.map) : partReach(part) > 0;

/** Whether a zone looks at the picture at all. */
export const looksAtPicture = ({ parts }: ZoneMap): boolean => parts.some(partLooks);

/** Whether a zone, or one that it is joined from, looks at the print where there is one. */
export const looksAtPrint = ({ parts, print }: ZoneMap): boolean =>
  parts.some((part) =>
    part.kind === 'map' ? looksAtPrint(part.map) : print === true && partLooks(part),
  );

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
  for (const part of zone.parts) {
    joinPart(values, valuesOf(part, input, wide, size, masks), part.joining);
  }
  const mask = zone.painted && masks.get(zone.painted.digest);
  if (mask) layPainted(values, paintedOver(mask, wide, size));
  const soft = zone.feather > 0 ? blur(values, wide, region, size, zone.feather) : values;
  return strengthsFrom(soft, region, zone.inverted);
}

/** Values as strengths: cut off at 0 and 1, and turned about. */
export function strengthsFrom(values: Float32Array, region: Size, inverted: boolean): Raster {
  const result = emptyRaster(region.width, region.height, STRENGTH);
  const [plane] = result.planes as [Float32Array];
  for (let i = 0; i < plane.length; i++) {
    const value = Math.min(1, Math.max(0, values[i]!));
    plane[i] = inverted ? 1 - value : value;
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

/** Joins a part's values to those before it, in place. */
export function joinPart(values: Float32Array, part: Float32Array, joining: Joining): void {
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
