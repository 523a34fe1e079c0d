/** What is to be laid on a material: upright, in millimetres. */
export interface Piece {
  id: string;
  width: number;
  height: number;
}

/** Where a piece lies: its left and top corner within the row, and whether by a quarter turn. */
export interface Lying {
  id: string;
  x: number;
  y: number;
  turned: boolean;
}

/** Pieces that are printed together, and how much of the material's length they take. */
export interface Nest {
  lying: Lying[];
  length: number;
}

/** What they are laid on: what can be printed across it, how much of its length, and what stays free between pieces. */
export interface Bed {
  width: number;
  length: number;
  gap: number;
}

/**
 * Lays as many waiting pieces beside each other as fit into one row across the material, the first of them always among
 * them, as upright or turned as takes the least length. Others join where the row gets no longer by them, in their order.
 * @returns null where the first fits in no way
 */
export function nestRow(pieces: readonly Piece[], bed: Bed): Nest | null {
  const [first, ...others] = pieces;
  if (!first) return null;
  const laid = layings(first).find((one) => one.width <= bed.width && one.height <= bed.length);
  if (!laid) return null;
  const length = laid.height;
  const lying: Lying[] = [{ id: first.id, x: 0, y: 0, turned: laid.turned }];
  let used = laid.width;
  for (const piece of others) {
    const left = bed.width - used - bed.gap;
    const fits = layings(piece).find((one) => one.width <= left && one.height <= length);
    if (!fits) continue;
    lying.push({ id: piece.id, x: used + bed.gap, y: 0, turned: fits.turned });
    used += bed.gap + fits.width;
  }
  return { lying, length };
}

/** Both ways in which a piece can lie, the one that takes less length first. */
function layings({ width, height }: Piece): { width: number; height: number; turned: boolean }[] {
  const upright = { width, height, turned: false };
  const turned = { width: height, height: width, turned: true };
  return height <= width ? [upright, turned] : [turned, upright];
}
