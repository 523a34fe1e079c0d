import type { Network } from './network';

/** A way to turn and mirror a picture: columns or rows are counted from the other end, or change places. */
interface Turn {
  flipX: boolean;
  flipY: boolean;
  swap: boolean;
}

/** All eight ways in which a square lies on itself. */
const TURNS: readonly Turn[] = [false, true].flatMap((swap) =>
  [false, true].flatMap((flipX) => [false, true].map((flipY) => ({ swap, flipX, flipY }))),
);

/** Of the mean of eight guesses each is a little too shy: it is told so much louder. */
const LOUDER = 1.05;

/**
 * A network asked about a picture as it lies, and turned and mirrored in all ways; what it says each time is turned
 * back, and the mean is taken (Timofte, Rothe & Van Gool 2016). For networks that read nothing of directions.
 */
export const turned = ({ run }: Network): Network => ({
  run(planes, width, height, margin) {
    const inner = { width: width - 2 * margin, height: height - 2 * margin };
    let sum: Float32Array | null = null;
    for (const turn of TURNS) {
      const [w, h] = turn.swap ? [height, width] : [width, height];
      const found = run(moved(planes, width, height, turn), w, h, margin);
      sum ??= new Float32Array(found.length);
      const scale = Math.sqrt(found.length / (OUTPUTS * inner.width * inner.height));
      addBack(sum, found, inner.width * scale, inner.height * scale, turn);
    }
    for (let i = 0; i < sum!.length; i++) sum![i]! *= LOUDER / TURNS.length;
    return sum!;
  },
});

/** Planes that a network gives. */
const OUTPUTS = 3;

/** Where in a turned picture the first pixel lies, and how far apart those of a row and of a column are. */
function placesOf(width: number, height: number, { flipX, flipY, swap }: Turn) {
  const [across, down] = swap ? [height, 1] : [1, width];
  const first = (flipX ? (width - 1) * across : 0) + (flipY ? (height - 1) * down : 0);
  return { first, across: flipX ? -across : across, down: flipY ? -down : down };
}

/** All planes, turned; the pixel at x, y lies where `placesOf` says. */
function moved(planes: Float32Array, width: number, height: number, turn: Turn): Float32Array {
  const { first, across, down } = placesOf(width, height, turn);
  const count = width * height;
  const result = new Float32Array(planes.length);
  for (let from = 0, plane = 0; plane < planes.length; plane += count) {
    for (let y = 0; y < height; y++) {
      let to = plane + first + y * down;
      for (let x = 0; x < width; x++, from++, to += across) result[to] = planes[from]!;
    }
  }
  return result;
}

/** Adds turned planes to those of a picture as it lies. */
function addBack(
  sum: Float32Array,
  found: Float32Array,
  width: number,
  height: number,
  turn: Turn,
) {
  const { first, across, down } = placesOf(width, height, turn);
  const count = width * height;
  for (let to = 0, plane = 0; plane < sum.length; plane += count) {
    for (let y = 0; y < height; y++) {
      let from = plane + first + y * down;
      for (let x = 0; x < width; x++, to++, from += across) sum[to]! += found[from]!;
    }
  }
}
