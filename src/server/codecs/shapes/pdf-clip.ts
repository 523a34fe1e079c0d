import { heapOf, withMemory, type Pdfium } from './pdfium';

/** A point, in the page's user space. */
export type Point = readonly [x: number, y: number];

/** Points a side that are tried for one that lies inside. */
const TRIED = 48;
/** So much larger about a point inside it a clip hides nothing any more. */
const LARGER = 1e5;
/** Segments of clips that are looked at; a page can hold millions. */
const SEGMENTS = 20_000;
/** A path's segment that begins a new part of it. */
const MOVE_TO = 2;

/**
 * Lets an object of an open page show without its clip and as opaque as it is by itself, until the page is closed: what it is
 * drawn under belongs to its place, not to it.
 */
export function uncover(library: Pdfium, object: number): void {
  // The one alpha that all kinds of objects are laid by.
  library.FPDFPageObj_SetFillColor(object, 0, 0, 0, 255);
  const inside = pointInside(clipOf(library, object));
  if (!inside) return;
  const [x, y] = inside;
  const moved = 1 - LARGER;
  library.FPDFPageObj_TransformClipPath(object, LARGER, 0, 0, LARGER, x * moved, y * moved);
}

/** The parts of all paths that an object is clipped by, their curves as their control points go. */
function clipOf(library: Pdfium, object: number): Point[][][] {
  const clip = library.FPDFPageObj_GetClipPath(object);
  const count = clip ? Math.max(0, library.FPDFClipPath_CountPaths(clip)) : 0;
  let left = SEGMENTS;
  return Array.from({ length: count }, (_, path) => {
    const parts: Point[][] = [];
    const segments = library.FPDFClipPath_CountPathSegments(clip, path);
    for (let i = 0; i < segments && left-- > 0; i++) {
      const segment = library.FPDFClipPath_GetPathSegment(clip, path, i);
      const point = withMemory(library, 8, (at): Point => {
        library.FPDFPathSegment_GetPoint(segment, at, at + 4);
        const [x, y] = heapOf(library).floats.subarray(at >> 2, (at >> 2) + 2);
        return [x!, y!];
      });
      if (parts.length === 0 || library.FPDFPathSegment_GetType(segment) === MOVE_TO)
        parts.push([]);
      parts.at(-1)!.push(point);
    }
    return parts;
  });
}

/**
 * A point well inside all paths; null where there are none, or none is found.
 * @param paths each of closed parts, of which those within others are holes
 */
export function pointInside(paths: readonly (readonly (readonly Point[])[])[]): Point | null {
  if (paths.length === 0) return null;
  const bounds = paths.map((parts) => boundsOf(parts.flat()));
  const left = Math.max(...bounds.map(({ left }) => left));
  const right = Math.min(...bounds.map(({ right }) => right));
  const bottom = Math.max(...bounds.map(({ bottom }) => bottom));
  const top = Math.min(...bounds.map(({ top }) => top));
  if (!(right > left && top > bottom)) return null;
  const isInside = (x: number, y: number) =>
    paths.every((parts) => parts.reduce((odd, part) => odd !== crosses(part, x, y), false));
  const inside = Array.from({ length: TRIED * TRIED }, (_, i) =>
    isInside(
      left + ((i % TRIED) + 0.5) * ((right - left) / TRIED),
      bottom + (Math.floor(i / TRIED) + 0.5) * ((top - bottom) / TRIED),
    ),
  );
  const deepest = farthestWithin(inside);
  return deepest === null
    ? null
    : [
        left + ((deepest % TRIED) + 0.5) * ((right - left) / TRIED),
        bottom + (Math.floor(deepest / TRIED) + 0.5) * ((top - bottom) / TRIED),
      ];
}

/** Which of a square of marks has most marks about it on all sides. */
function farthestWithin(marks: readonly boolean[]): number | null {
  let [best, most] = [null as number | null, -1];
  marks.forEach((mark, at) => {
    if (!mark) return;
    const run = (step: number, room: number): number => {
      let length = 0;
      while (length < room && marks[at + (length + 1) * step]) length++;
      return length;
    };
    const [x, y] = [at % TRIED, Math.floor(at / TRIED)];
    const least = Math.min(
      ...[run(-1, x), run(1, TRIED - 1 - x), run(-TRIED, y), run(TRIED, TRIED - 1 - y)],
    );
    if (least > most) [best, most] = [at, least];
  });
  return best;
}

/** Whether a line from a point to the right crosses a closed part an odd number of times. */
function crosses(part: readonly Point[], x: number, y: number): boolean {
  let odd = false;
  part.forEach(([ax, ay], i) => {
    const [bx, by] = part[(i + 1) % part.length]!;
    if (ay > y !== by > y && x < ax + ((y - ay) / (by - ay)) * (bx - ax)) odd = !odd;
  });
  return odd;
}

function boundsOf(points: readonly Point[]) {
  const [xs, ys] = [points.map(([x]) => x), points.map(([, y]) => y)];
  return {
    left: xs.reduce((a, b) => Math.min(a, b), Infinity),
    right: xs.reduce((a, b) => Math.max(a, b), -Infinity),
    bottom: ys.reduce((a, b) => Math.min(a, b), Infinity),
    top: ys.reduce((a, b) => Math.max(a, b), -Infinity),
  };
}
