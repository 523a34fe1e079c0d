import { frameSize, UNFRAMED, type Rect, type Turn } from '../frame/framing';
import type { Region, Size } from '../raster/region';
import { beforeTurn } from '../raster/turn';
import type { Affine } from './placed';

/** What of a page is drawn at how many pixels. */
export interface DrawnPart {
  /** part of the page, turned as below, in pixels of its nominal grid */
  source: Rect;
  turn: Turn;
}

/** Where a placed picture lies on a drawing that isn't turned yet, in the drawing's pixels. */
export interface Spot {
  /** from the unit square */
  map: Affine;
  /** the pixels that it fills exactly, where its sides are parallel to theirs */
  at: Region | null;
  /** pixels of the picture along its own sides, for one of the drawing each */
  pixels: Size;
}

/** Pixels of a treated picture that can be put into several places at once. */
const IN_SEVERAL = 12e6;

/**
 * Whether a treated picture can be put in its places. One that is shown several times may have to be put in whole, since
 * what is in one place is in all of them.
 */
export const canBePutIn = (times: number, { width, height }: Size): boolean =>
  times === 1 || width * height <= IN_SEVERAL;

/** First `a`, then `b`. */
export const followedBy = (a: Affine, b: Affine): Affine => [
  a[0] * b[0] + a[1] * b[2],
  a[0] * b[1] + a[1] * b[3],
  a[2] * b[0] + a[3] * b[2],
  a[2] * b[1] + a[3] * b[3],
  a[4] * b[0] + a[5] * b[2] + b[4],
  a[4] * b[1] + a[5] * b[3] + b[5],
];

/** The way back; null where a map leaves no area. */
export function inverseOf([a, b, c, d, e, f]: Affine): Affine | null {
  const area = a * d - b * c;
  if (!(Math.abs(area) > 1e-30)) return null;
  return [d / area, -b / area, -c / area, a / area, (c * f - d * e) / area, (b * e - a * f) / area];
}

/** From a page's nominal grid to a drawing of a part of it that isn't turned yet. */
export function onDrawing(page: Size, { source, turn }: DrawnPart, size: Size): Affine {
  const upright = frameSize(size, { ...UNFRAMED, turn });
  const part = beforeTurn(source, turn, page);
  const x = upright.width / part.width;
  const y = upright.height / part.height;
  return [x, 0, 0, y, -part.x * x, -part.y * y];
}

/** Of a pixel: a side that leans by less is upright. */
const LEANS = 0.5;

/**
 * Where a picture lies on a drawing of its page. Sides are moved to whole pixels where they are parallel to the
 * drawing's, by half a pixel at most, so that each pixel of the picture is one of the drawing.
 * @param page size of the page's nominal grid
 * @param size pixels of the drawing, turned
 */
export function spotOn(place: Affine, page: Size, drawn: DrawnPart, size: Size): Spot {
  const map = followedBy(place, onDrawing(page, drawn, size));
  const [a, b, c, d, e, f] = map;
  const along = Math.max(Math.abs(b), Math.abs(c)) < LEANS;
  const across = Math.max(Math.abs(a), Math.abs(d)) < LEANS;
  if (!along && !across) {
    const pixels = {
      width: Math.max(1, Math.ceil(Math.hypot(a, b))),
      height: Math.max(1, Math.ceil(Math.hypot(c, d))),
    };
    return { map, at: null, pixels };
  }
  const columns = wholeBetween(e, e + a + c);
  const rows = wholeBetween(f, f + b + d);
  const at = { x: columns.from, y: rows.from, width: columns.count, height: rows.count };
  const exact: Affine = along
    ? [
        Math.sign(a) * at.width,
        ...([0, 0] as const),
        Math.sign(d) * at.height,
        a > 0 ? at.x : at.x + at.width,
        d > 0 ? at.y : at.y + at.height,
      ]
    : [
        0,
        Math.sign(b) * at.height,
        Math.sign(c) * at.width,
        0,
        c > 0 ? at.x : at.x + at.width,
        b > 0 ? at.y : at.y + at.height,
      ];
  const pixels = along
    ? { width: at.width, height: at.height }
    : { width: at.height, height: at.width };
  return { map: exact, at, pixels };
}

/** The whole pixels nearest to a stretch; one at least. */
function wholeBetween(one: number, other: number): { from: number; count: number } {
  const from = Math.round(Math.min(one, other));
  return { from, count: Math.max(1, Math.round(Math.max(one, other)) - from) };
}

/** Of a picture laid at an angle so many pixels more are read than a part shows: what interpolation looks at. */
const MARGIN = 3;

/**
 * What of a picture shows in a part of the drawing, in the picture's pixels; null where nothing does.
 * @param own the picture's size
 */
export function shownIn({ map, at }: Spot, part: Region, own: Size): Region | null {
  const back = inverseOf(map);
  if (!back) return null;
  const corners = [
    [part.x, part.y],
    [part.x + part.width, part.y],
    [part.x, part.y + part.height],
    [part.x + part.width, part.y + part.height],
  ].map(([x, y]) => [
    (x! * back[0] + y! * back[2] + back[4]) * own.width,
    (x! * back[1] + y! * back[3] + back[5]) * own.height,
  ]);
  const exact = at !== null;
  const stretch = (values: number[], most: number) => {
    // Sums of fractions are off by their last bits.
    const low = Math.floor(Math.min(...values) + 1e-6) - (exact ? 0 : MARGIN);
    const high = Math.ceil(Math.max(...values) - 1e-6) + (exact ? 0 : MARGIN);
    const from = Math.max(0, low);
    return { from, count: Math.min(most, high) - from };
  };
  const x = stretch(
    corners.map(([u]) => u!),
    own.width,
  );
  const y = stretch(
    corners.map(([, v]) => v!),
    own.height,
  );
  if (x.count <= 0 || y.count <= 0) return null;
  return { x: x.from, y: y.from, width: x.count, height: y.count };
}

/** Where a part of a picture lies, as the picture lies by a map from the unit square. */
export const partOn = (map: Affine, part: Region, own: Size): Affine =>
  followedBy(
    [
      part.width / own.width,
      0,
      0,
      part.height / own.height,
      part.x / own.width,
      part.y / own.height,
    ],
    map,
  );

/**
 * The corners of a placed picture on a drawing as it is turned, in its pixels: from its upper left one round.
 * @param page and the others as of `spotOn`
 */
export function cornersOn(
  place: Affine,
  page: Size,
  drawn: DrawnPart,
  size: Size,
): [number, number][] {
  const [a, b, c, d, e, f] = followedBy(place, onDrawing(page, drawn, size));
  const upright = frameSize(size, { ...UNFRAMED, turn: drawn.turn });
  const turned = ([x, y]: [number, number]): [number, number] => {
    if (drawn.turn === 90) return [upright.height - y, x];
    if (drawn.turn === 180) return [upright.width - x, upright.height - y];
    return drawn.turn === 270 ? [y, upright.width - x] : [x, y];
  };
  const corners: [number, number][] = [
    [e, f],
    [e + a, f + b],
    [e + a + c, f + b + d],
    [e + c, f + d],
  ];
  return corners.map(turned);
}
