import { luminance } from '../../raster/colour';
import type { Window } from '../../raster/raster';
import { clip, contains, type Region, type Size } from '../../raster/region';
import { rim, shapeRegion, shapeValues, type Shape } from './shape';

/** How far a source may lie from its spot, in radii (and at least so many pixels). */
const FARTHEST = 6;
const LEAST = 24;

/** The part of the picture that `findSource` looks at. */
export function sourcePull(shape: Shape, size: Size): Region {
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
 * @param input the picture over `sourcePull`
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
  const border = widened(shape, own, size);
  const far = farthest(shape);
  const least = Math.ceil(2 * shape.radius + 2);
  const { region: covered } = input;
  const planes = [...input.raster.planes.slice(0, 3)];
  const luma = luminance(input.raster);
  const index = (x: number, y: number) => (y - covered.y) * covered.width + x - covered.x;
  const bad = unusable([shape, ...avoid], covered, size);
  const single = shape.points.length === 1;
  const span = Math.max(own.width, own.height);
  const step = Math.max(1, Math.floor(shape.radius / 4));

  let best: [number, number] | null = null;
  let bestCost = Infinity;
  for (let dy = -far; dy <= far; dy += step) {
    for (let dx = -far; dx <= far; dx += step) {
      const distance = Math.hypot(dx, dy);
      if (distance < (single ? least : least * 0.75) || distance > far) continue;
      const there = { ...own, x: own.x + dx, y: own.y + dy };
      if (!contains(covered, there)) continue;
      const found = cost(border, planes, luma, index, dx, dy, bestCost);
      if (found === null) continue;
      // Nearer ones first, where they are as good.
      const weighed = found * (1 + (0.15 * distance) / (far + span));
      if (weighed >= bestCost || touches(bad, own, dx, dy, covered, shape)) continue;
      best = [dx, dy];
      bestCost = weighed;
    }
  }
  return best;
}

/** The rim, and a wider ring of it, as far as the picture goes. */
function widened(shape: Shape, own: Region, size: Size): { x: number; y: number }[] {
  const ring = Math.max(2, Math.ceil(shape.radius / 2));
  const wider = { ...shape, radius: shape.radius + ring };
  const region = shapeRegion(wider, size);
  return [
    ...rim(shape, own, size),
    ...rim({ ...shape, radius: shape.radius + ring / 2 }, region, size),
    ...rim(wider, region, size),
  ];
}

function cost(
  border: readonly { x: number; y: number }[],
  planes: readonly Float32Array[],
  luma: Float32Array,
  index: (x: number, y: number) => number,
  dx: number,
  dy: number,
  bound: number,
): number | null {
  let sum = 0;
  let squares = 0;
  let count = 0;
  const means = [0, 0, 0];
  for (const { x, y } of border) {
    const to = index(x + dx, y + dy);
    if (!(to >= 0 && to < luma.length)) return null;
    const from = index(x, y);
    const off = luma[to]! - luma[from]!;
    sum += off;
    squares += off * off;
    planes.forEach((plane, c) => (means[c]! += plane[to]! - plane[from]!));
    count++;
  }
  if (count === 0) return null;
  // Tones are fitted anyway: what counts is how the rims go, and a little how far tones are apart.
  const mean = sum / count;
  const pattern = squares / count - mean * mean;
  const apart = means.reduce((total, value) => total + (value / count) ** 2, 0) / 3;
  const value = pattern + 0.25 * apart;
  return value < bound ? value : null;
}

/** Where no source may lie: on any spot, with its own rim. */
function unusable(shapes: readonly Shape[], covered: Region, size: Size): Uint8Array {
  const bad = new Uint8Array(covered.width * covered.height);
  for (const shape of shapes) {
    const wider = { ...shape, radius: shape.radius + 1 };
    const region = clip(shapeRegion(wider, size), size);
    const values = shapeValues(wider, region);
    for (let y = 0; y < region.height; y++)
      for (let x = 0; x < region.width; x++) {
        const u = region.x + x - covered.x;
        const v = region.y + y - covered.y;
        if (u < 0 || v < 0 || u >= covered.width || v >= covered.height) continue;
        if (values[y * region.width + x]! > 0) bad[v * covered.width + u] = 1;
      }
  }
  return bad;
}

function touches(
  bad: Uint8Array,
  own: Region,
  dx: number,
  dy: number,
  covered: Region,
  shape: Shape,
): boolean {
  const values = shapeValues(shape, own);
  for (let y = 0, i = 0; y < own.height; y++)
    for (let x = 0; x < own.width; x++, i++) {
      if (values[i] === 0) continue;
      if (bad[(own.y + y + dy - covered.y) * covered.width + own.x + x + dx - covered.x])
        return true;
    }
  return false;
}
