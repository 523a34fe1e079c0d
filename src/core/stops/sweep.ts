import type { Size } from '../raster/region';
import type { PaperPlace } from './apart';

/** A rectangle on the paper, in shares of its width and height. */
export interface PaperPart extends PaperPlace {
  width: number;
  height: number;
}

/** Sides of the squares that are seen or not, in pixels of the result; larger where it has very many. */
const SQUARE = 128;
const MOST = 192;

/** Squares across and down a result. */
export interface SweepGrid {
  columns: number;
  rows: number;
}

export function sweepGrid({ width, height }: Size): SweepGrid {
  const square = Math.max(SQUARE, Math.ceil(Math.max(width, height) / MOST));
  return {
    columns: Math.max(1, Math.round(width / square)),
    rows: Math.max(1, Math.round(height / square)),
  };
}

/** Which squares of a result were seen, row by row: 1 where it was. */
export type Seen = Uint8Array;

/** A hair, so that rounding leaves no square half seen. */
const HAIR = 1e-9;

/** Marks squares that lie wholly in a part of the paper. @returns the same where none of them is new */
export function see(seen: Seen, { columns, rows }: SweepGrid, part: PaperPart): Seen {
  const first = (share: number, count: number) => Math.max(0, Math.ceil(share * count - HAIR));
  const end = (share: number, count: number) => Math.min(count, Math.floor(share * count + HAIR));
  let now = seen;
  for (let row = first(part.y, rows); row < end(part.y + part.height, rows); row++)
    for (
      let column = first(part.x, columns);
      column < end(part.x + part.width, columns);
      column++
    ) {
      const at = row * columns + column;
      if (now[at]) continue;
      if (now === seen) now = seen.slice();
      now[at] = 1;
    }
  return now;
}

/** Share of the squares that were seen, 0–1. */
export const seenShare = (seen: Seen): number =>
  seen.length === 0 ? 0 : seen.reduce((sum, one) => sum + one, 0) / seen.length;

/**
 * The middle of the next part to look at, in reading order: one whose upper left corner is the first square that was
 * not seen.
 * @param part width and height of what is seen at once
 * @returns null where all was seen
 */
export function nextUnseen(
  seen: Seen,
  { columns, rows }: SweepGrid,
  part: Pick<PaperPart, 'width' | 'height'>,
): PaperPlace | null {
  const at = seen.indexOf(0);
  if (at < 0) return null;
  const [column, row] = [at % columns, Math.floor(at / columns)];
  // A part that reached beyond the paper would show less of it.
  const middle = (from: number, size: number) =>
    size >= 1 ? 0.5 : Math.min(from, 1 - size) + size / 2;
  return { x: middle(column / columns, part.width), y: middle(row / rows, part.height) };
}
