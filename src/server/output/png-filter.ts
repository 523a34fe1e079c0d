/** A row's filter, by its number in the file (ISO/IEC 15948, 9.2). */
const enum Filter {
  None,
  Sub,
  Up,
  Average,
  Paeth,
}

/** The neighbour that is nearest to left + above - corner: Paeth's predictor (Paeth, 1991). */
function paeth(left: number, above: number, corner: number): number {
  const toLeft = Math.abs(above - corner);
  const toAbove = Math.abs(left - corner);
  const toCorner = Math.abs(left + above - 2 * corner);
  if (toLeft <= toAbove && toLeft <= toCorner) return left;
  return toAbove <= toCorner ? above : corner;
}

/** How far a difference is from none, as a signed byte. */
const away = (byte: number): number => (byte < 128 ? byte : 256 - byte);

/** The filter whose differences are smallest, as the standard recommends (12.8); judged on a part of the row. */
function bestFilter(row: Uint8Array, above: Uint8Array, pixel: number): Filter {
  const step = Math.max(1, Math.floor(row.length / 4096));
  let [none, sub, up, predicted] = [0, 0, 0, 0];
  for (let i = pixel; i < row.length; i += step) {
    const value = row[i]!;
    const left = row[i - pixel]!;
    none += away(value);
    sub += away((value - left) & 255);
    up += away((value - above[i]!) & 255);
    predicted += away((value - paeth(left, above[i]!, above[i - pixel]!)) & 255);
  }
  const least = Math.min(none, sub, up, predicted);
  if (least === none) return Filter.None;
  if (least === sub) return Filter.Sub;
  return least === up ? Filter.Up : Filter.Paeth;
}

/**
 * Filters a row for a PNG.
 * @param row its samples, as they are in the file
 * @param above the row above, or zeros
 * @param pixel bytes of a pixel
 * @param into the number of the filter, then as many bytes as the row has
 */
export function filterRow(
  row: Uint8Array,
  above: Uint8Array,
  pixel: number,
  into: Uint8Array,
): void {
  const filter = bestFilter(row, above, pixel);
  into[0] = filter;
  const n = row.length;
  // The first pixel has no neighbour to its left: those count as zeros.
  for (let i = 0; i < pixel; i++) {
    into[i + 1] = row[i]! - (filter === Filter.Up || filter === Filter.Paeth ? above[i]! : 0);
  }
  // A loop for each: this is done with every sample of a print.
  if (filter === Filter.None) into.set(row, 1);
  else if (filter === Filter.Sub) {
    for (let i = pixel; i < n; i++) into[i + 1] = row[i]! - row[i - pixel]!;
  } else if (filter === Filter.Up) {
    for (let i = pixel; i < n; i++) into[i + 1] = row[i]! - above[i]!;
  } else {
    for (let i = pixel; i < n; i++) {
      into[i + 1] = row[i]! - paeth(row[i - pixel]!, above[i]!, above[i - pixel]!);
    }
  }
}

/**
 * Turns a filtered row of a PNG back, in its place.
 * @param filter its number in the file
 * @param row what follows the number
 * @param above the row above, turned back, or zeros
 * @throws Error where there is no such filter
 */
export function unfilterRow(
  filter: number,
  row: Uint8Array,
  above: Uint8Array,
  pixel: number,
): void {
  if (filter > Filter.Paeth) throw new Error(`a row has the filter ${filter}`);
  const n = row.length;
  // A loop for each: this is done with every sample of a print.
  switch (filter) {
    case Filter.Sub:
      for (let i = pixel; i < n; i++) row[i]! += row[i - pixel]!;
      return;
    case Filter.Up:
      for (let i = 0; i < n; i++) row[i]! += above[i]!;
      return;
    case Filter.Average:
      for (let i = 0; i < pixel; i++) row[i]! += above[i]! >> 1;
      for (let i = pixel; i < n; i++) row[i]! += (row[i - pixel]! + above[i]!) >> 1;
      return;
    case Filter.Paeth:
      for (let i = 0; i < pixel; i++) row[i]! += above[i]!;
      for (let i = pixel; i < n; i++) {
        row[i]! += paeth(row[i - pixel]!, above[i]!, above[i - pixel]!);
      }
  }
}
