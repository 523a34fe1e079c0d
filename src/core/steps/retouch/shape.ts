import { clip, type Region, type Size } from '../../raster/region';

/** A dab (one point) or a stroke, round at its ends. */
export interface Shape {
  points: [number, number][];
  radius: number;
  softness: number;
}

/** Pixels beyond the radius that belong to a shape's rim. */
const RIM = 2;
/** The most places of a rim that are looked at. */
const RIM_PLACES = 160;

/** The pixels that a shape and its rim touch. */
export function shapeRegion({ points, radius }: Shape, size: Size): Region {
  const xs = points.map(([x]) => x);
  const ys = points.map(([, y]) => y);
  const x = Math.floor(Math.min(...xs) - radius - RIM);
  const y = Math.floor(Math.min(...ys) - radius - RIM);
  return clip(
    {
      x,
      y,
      width: Math.ceil(Math.max(...xs) + radius + RIM) + 1 - x,
      height: Math.ceil(Math.max(...ys) + radius + RIM) + 1 - y,
    },
    size,
  );
}

/** Distance of a pixel's middle from a shape's line. */
function distanceTo(points: readonly [number, number][], x: number, y: number): number {
  let least = Infinity;
  for (let k = 0; k < Math.max(1, points.length - 1); k++) {
    const [ax, ay] = points[k]!;
    const [bx, by] = points[Math.min(k + 1, points.length - 1)]!;
    const length = (bx - ax) ** 2 + (by - ay) ** 2;
    const along = length === 0 ? 0 : ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / length;
    const share = Math.min(1, Math.max(0, along));
    const square = (x - ax - share * (bx - ax)) ** 2 + (y - ay - share * (by - ay)) ** 2;
    if (square < least) least = square;
  }
  return Math.sqrt(least);
}

/** How much of a shape is at every pixel of a region: 1 inside, fading towards its radius. */
export function shapeValues(shape: Shape, region: Region): Float32Array {
  const values = new Float32Array(region.width * region.height);
  const fade = Math.max(1, shape.softness * shape.radius);
  for (let v = 0, i = 0; v < region.height; v++)
    for (let u = 0; u < region.width; u++, i++) {
      const distance = distanceTo(shape.points, region.x + u + 0.5, region.y + v + 0.5);
      const share = Math.min(1, Math.max(0, (shape.radius + 0.5 - distance) / fade));
      values[i] = share * share * (3 - 2 * share);
    }
  return values;
}

/** Places just outside a shape, evenly thinned out, in the order of rows. */
export function rim(shape: Shape, region: Region, size: Size): { x: number; y: number }[] {
  const places: { x: number; y: number }[] = [];
  const { x: left, y: top, width, height } = clip(region, size);
  for (let y = top; y < top + height; y++)
    for (let x = left; x < left + width; x++) {
      const beyond = distanceTo(shape.points, x + 0.5, y + 0.5) - shape.radius - 0.5;
      if (beyond >= 0 && beyond < RIM - 0.5) places.push({ x, y });
    }
  const every = Math.ceil(places.length / RIM_PLACES);
  return places.filter((_, i) => i % every === 0);
}
