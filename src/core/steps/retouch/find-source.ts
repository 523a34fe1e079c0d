import { luminance } from '../../raster/colour';
import type { Window } from '../../raster/raster';
import { clip, contains, within, type Region, type Size } from '../../raster/region';
import { rim, shapeRegion, shapeValues, type Shape } from './shape';

/** How far a source may lie from its spot, in radii (and at least so many pixels). */
const FARTHEST = 6;
const LEAST = 24;

/** The part of the picture that `findSource` looks at. */
export function sourceInput(shape: Shape, size: Size): Region {
  const own = shapeRegion(shape, size);
  const far = farthest(shape);
  return clip(
    { x: own.x - far, y: own.y - far, width: own.width + 2 * far, height: own.height + 2 * far },
    size,
  );
}

const farthest = ({ radius }: Shape): number => Math.ceil(Math.max(LEAST, FARTHEST * radius));

/**
 * Where the replacement of a spot is best taken from: the place nearby whose rim is most like the
 * spot's own, once their mean tones are made alike, and in which nothing stands out.
 * @param input the picture over `sourceInput`
 * @param avoid other spots, which are no source
 * @returns from a pixel of the spot to its replacement; null where there is no room for any
 */
export function findSource(
  shape: Shape,
  input: Window,
  size: Size,
  avoid: readonly Shape[] = [],
): [number, number] | null {
  const own = shapeRegion(shape, size);
  const { region: covered } = input;
  const search: Search = {
    luma: luminance(input.raster),
    width: covered.width,
    rim: placesOf(widened(shape, own, size), covered),
    inside: placesOf(insideOf(shape, own), covered),
    bad: unusable([shape, ...avoid], covered, size),
  };
  const far = farthest(shape);
  const least = Math.ceil((shape.points.length === 1 ? 2 : 1.5) * shape.radius + 2);
  const step = Math.max(1, Math.round(shape.radius / 3));
  let best: [number, number] | null = null;
  let bestCost = Infinity;
  const look = (dx: number, dy: number): void => {
    const distance = Math.hypot(dx, dy);
    if (distance < least || distance > far) return;
    if (!contains(covered, { ...own, x: own.x + dx, y: own.y + dy })) return;
    // Nearer ones first, where they are as good.
    const weight = 1 + (0.15 * distance) / far;
    const cost = weight * unlikeness(search, dy * covered.width + dx, bestCost / weight);
    if (cost >= bestCost || touches(search, dy * covered.width + dx)) return;
    best = [dx, dy];
    bestCost = cost;
  };
  for (let dy = -far; dy <= far; dy += step)
    for (let dx = -far; dx <= far; dx += step) look(dx, dy);
  if (!best || step === 1) return best;
  // Then about the best one, pixel by pixel.
  const [x, y]: [number, number] = best;
  for (let dy = y - step; dy <= y + step; dy++)
    for (let dx = x - step; dx <= x + step; dx++) look(dx, dy);
  return best;
}

/** What all candidates are compared by; places are positions in the window's planes. */
interface Search {
  luma: Float32Array;
  width: number;
  rim: Int32Array;
  inside: Int32Array;
  bad: Uint8Array;
}

interface Place {
  x: number;
  y: number;
}

const placesOf = (places: readonly Place[], covered: Region): Int32Array =>
  Int32Array.from(places, ({ x, y }) => (y - covered.y) * covered.width + x - covered.x);

/** The rim, and two wider rings about it, as far as the picture goes. */
function widened(shape: Shape, own: Region, size: Size): Place[] {
  const ring = Math.max(2, Math.ceil(shape.radius / 2));
  const wider = { ...shape, radius: shape.radius + ring };
  const region = shapeRegion(wider, size);
  return [
    ...rim(shape, own, size),
    ...rim({ ...shape, radius: shape.radius + ring / 2 }, region, size),
    ...rim(wider, region, size),
  ];
}

function insideOf(shape: Shape, own: Region): Place[] {
  const places: Place[] = [];
  shapeValues(shape, own).forEach((share, i) => {
    if (share === 0) return;
    places.push({ x: own.x + (i % own.width), y: own.y + Math.floor(i / own.width) });
  });
  return places;
}

/**
 * How unlike the rims at both places are: by how they go, and a little by how far their tones are
 * apart, which healing makes alike anyway. Infinite where a rim leaves the window, or beyond `bound`.
 */
function unlikeness({ luma, rim: places }: Search, by: number, bound: number): number {
  let sum = 0;
  let squares = 0;
  const count = places.length;
  for (let k = 0; k < count; k++) {
    const to = places[k]! + by;
    if (to < 0 || to >= luma.length) return Infinity;
    const off = luma[to]! - luma[places[k]!]!;
    sum += off;
    squares += off * off;
  }
  const mean = sum / count;
  const value = squares / count - 0.75 * mean * mean;
  return value < bound ? value : Infinity;
}

function touches({ inside, bad }: Search, by: number): boolean {
  for (let k = 0; k < inside.length; k++) if (bad[inside[k]! + by]) return true;
  return false;
}

/** Where no source may lie: on any spot, with its own rim. */
function unusable(shapes: readonly Shape[], covered: Region, size: Size): Uint8Array {
  const bad = new Uint8Array(covered.width * covered.height);
  for (const shape of shapes) {
    const wider = { ...shape, radius: shape.radius + 1 };
    const region = within(shapeRegion(wider, size), covered);
    const values = shapeValues(wider, region);
    for (let y = 0; y < region.height; y++)
      for (let x = 0; x < region.width; x++) {
        if (values[y * region.width + x]! > 0)
          bad[(region.y + y - covered.y) * covered.width + region.x + x - covered.x] = 1;
      }
  }
  return bad;
}
