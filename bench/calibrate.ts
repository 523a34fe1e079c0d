import type { Calibration } from '../src/core/evidence/calibrations';
import { scoreOf, type Signs } from '../src/core/evidence/invented';
import { median } from './report';

/** What was told of a cell of a picture, and how far off it is, in levels. */
export interface Cell {
  signs: Signs;
  off: number;
}

/** Entries of the table from scores to levels. */
const ENTRIES = 13;
/** Fewer cells of a picture say nothing of it. */
const LEAST_CELLS = 12;
/** Of so many pictures none decides what is said of all others: their cells count alike. */
const MANY = 12;
/** No cell is off by less than what rounding does. */
const LEAST_OFF = 0.05;

const termsOf = ({ added, edges, severity }: Signs): number[] => [
  Math.log(added + 0.02),
  Math.log(edges + 0.1),
  severity,
  1,
];

/**
 * Weights by least squares on the logarithms, and medians of what cells of like scores are off, rising.
 * @param pictures cells of each
 */
export function calibrated(pictures: readonly (readonly Cell[])[]): Calibration {
  const cells = pictures.flat();
  const size = 4;
  const normal = Array.from({ length: size }, () => new Array<number>(size + 1).fill(0));
  for (const { signs, off } of cells) {
    const terms = termsOf(signs);
    const wanted = Math.log(Math.max(LEAST_OFF, off));
    terms.forEach((one, i) => {
      terms.forEach((other, j) => (normal[i]![j]! += one * other));
      normal[i]![size]! += one * wanted;
    });
  }
  const [added, edges, severity] = solved(normal) as [number, number, number];
  const by: Calibration = { weights: [added, edges, severity], offByScore: [] };
  const scored = pictures
    .flatMap((own, picture) =>
      own.map(({ signs, off }) => ({ score: scoreOf(signs, by), off, picture })),
    )
    .sort((one, other) => one.score - other.score);
  let most = 0;
  const offByScore = Array.from({ length: ENTRIES }, (_, i) => {
    const part = scored.slice((i * scored.length) / ENTRIES, ((i + 1) * scored.length) / ENTRIES);
    // The middle of the pictures' own: one of them doesn't decide what is said of all others.
    const own = pictures
      .map((__, picture) => part.filter((cell) => cell.picture === picture).map(({ off }) => off))
      .filter((offs) => offs.length >= LEAST_CELLS);
    const together = own.length === 0 || pictures.length > MANY;
    most = Math.max(most, median((together ? [part.map(({ off }) => off)] : own).map(median)));
    return [median(part.map(({ score }) => score)), most] as const;
  });
  return { ...by, offByScore };
}

/** Gauss and Jordan's elimination of n rows of n + 1. */
function solved(rows: number[][]): number[] {
  const size = rows.length;
  for (let i = 0; i < size; i++) {
    const best = rows
      .slice(i)
      .reduce((at, row, k) => (Math.abs(row[i]!) > Math.abs(rows[at]![i]!) ? i + k : at), i);
    [rows[i], rows[best]] = [rows[best]!, rows[i]!];
    const pivot = rows[i]![i]!;
    rows[i] = rows[i]!.map((value) => value / pivot);
    rows.forEach((row, k) => {
      if (k === i) return;
      const factor = row[i]!;
      rows[k] = row.map((value, c) => value - factor * rows[i]![c]!);
    });
  }
  return rows.map((row) => row[size]!);
}
