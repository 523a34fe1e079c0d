import type { Evidence } from './evidence';
import { say } from '../words/say';

/** A figure that tells two results apart: by how much it must differ to be seen, and what that is called. */
interface Telling {
  /** below zero where the first one has less of it, by so many times what just shows */
  by(one: Evidence, other: Evidence): number;
  less: string;
  more: string;
}

const apart = (one: number | null, other: number | null, shows: number): number =>
  one === null || other === null ? 0 : (one - other) / shows;

/** Figures in the order in which they are told. */
const TELLING: readonly Telling[] = [
  {
    by: (one, other) =>
      apart(one.edgeRisePx, other.edgeRisePx, 0.08 * Math.max(1, other.edgeRisePx ?? 1)),
    less: say`crisper edges`,
    more: say`softer edges`,
  },
  {
    by: (one, other) => apart(one.overshootPercent, other.overshootPercent, 1.5),
    less: say`less overshoot along them`,
    more: say`more overshoot along them`,
  },
  {
    by: (one, other) => apart(one.noise, other.noise, Math.max(0.3, 0.15 * other.noise)),
    less: say`smoother plain areas`,
    more: say`noisier plain areas`,
  },
  {
    by: (one, other) => apart(one.blocking, other.blocking, 8),
    less: say`less blocking`,
    more: say`more blocking`,
  },
  {
    by: (one, other) => apart(other.psnrReduced, one.psnrReduced, 0.3),
    less: say`truer to the file`,
    more: say`farther from the file`,
  },
  {
    by: (one, other) => apart(one.colourShift, other.colourShift, 1),
    less: say`truer colours`,
    more: say`colours shifted farther`,
  },
];

/** How one result differs from another as far as it would show, in words; null where it wouldn't. */
export function differenceWords(one: Evidence, other: Evidence): string | null {
  const words = TELLING.flatMap(({ by, less, more }) => {
    const difference = by(one, other);
    return Math.abs(difference) < 1 ? [] : [difference < 0 ? less : more];
  });
  return words.length === 0 ? null : words.join(', ');
}
