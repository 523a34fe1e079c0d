import type { Affine, PlacedPicture } from './placed';

/** Of a picture's side: gaps and steps between slices of one picture are less. */
const GAP = 0.02;
/** Nominal pixels, hundredths of points, that rounding alone may leave between them. */
const ROUNDED = 5;

interface Box {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

const boxOf = ([a, b, c, d, e, f]: Affine): Box => ({
  left: e + Math.min(0, a) + Math.min(0, c),
  right: e + Math.max(0, a) + Math.max(0, c),
  top: f + Math.min(0, b) + Math.min(0, d),
  bottom: f + Math.max(0, b) + Math.max(0, d),
});

/**
 * Says of pictures that lie edge to edge, with sides of the same length there, that they stay as they are: some programs
 * cut one picture into slices, and treated apart their seams would show.
 */
export function withoutSlices(pictures: readonly PlacedPicture[]): PlacedPicture[] {
  const boxes = pictures.map(({ place, times }) => (place && times === 1 ? boxOf(place) : null));
  const edges = new Map<string, Box[]>();
  // By where their edges begin, coarsely: pages hold thousands of slices.
  const cell = (x: number, y: number) => `${Math.round(x / 100)},${Math.round(y / 100)}`;
  for (const box of boxes) {
    if (!box) continue;
    for (const [x, y] of around(box.left, box.top)) {
      const name = cell(x, y);
      edges.set(name, [...(edges.get(name) ?? []), box]);
    }
  }
  const near = (x: number, y: number): readonly Box[] => edges.get(cell(x, y)) ?? [];
  const slice = new Set<Box>();
  for (const box of boxes) {
    if (!box) continue;
    const below = near(box.left, box.bottom).filter(
      (other) => other !== box && isBelow(box, other),
    );
    const beside = near(box.right, box.top).filter(
      (other) => other !== box && isBeside(box, other),
    );
    for (const other of [...below, ...beside]) slice.add(box).add(other);
  }
  return pictures.map((one, i) =>
    boxes[i] && slice.has(boxes[i])
      ? {
          ...one,
          kept:
            one.kept ??
            'It is a slice of a picture that was cut: treated alone its seams would show.',
        }
      : one,
  );
}

/** A point and those a cell about it, so that rounding parts nothing. */
const around = (x: number, y: number): [number, number][] =>
  [-100, 0, 100].flatMap((dx) => [-100, 0, 100].map((dy): [number, number] => [x + dx, y + dy]));

const alike = (a: number, b: number, side: number): boolean =>
  Math.abs(a - b) <= Math.max(ROUNDED, GAP * side);

function isBelow(one: Box, other: Box): boolean {
  const side = one.right - one.left;
  const height = Math.min(one.bottom - one.top, other.bottom - other.top);
  return (
    alike(one.left, other.left, side) &&
    alike(one.right, other.right, side) &&
    alike(one.bottom, other.top, height)
  );
}

/** The same with its sides for its heights. */
const turned = ({ left, top, right, bottom }: Box): Box => ({
  ...{ left: top, right: bottom },
  ...{ top: left, bottom: right },
});

const isBeside = (one: Box, other: Box): boolean => isBelow(turned(one), turned(other));
