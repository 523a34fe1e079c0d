import { z } from 'zod';
import { formatNumber } from './format';

/** Units a length is typed in. `px` and `%` are of the picture, the others of paper. */
export const Unit = z.enum(['mm', 'cm', 'm', 'in', 'ft', 'pt', 'px', '%']);
export type Unit = z.infer<typeof Unit>;

/** A typed length; values are kept as typed so that they read back unchanged. */
export const Length = z.object({
  value: z.number().positive().finite(),
  unit: Unit,
});
export type Length = z.infer<typeof Length>;

/** 1 in = 25.4 mm exactly (international yard and pound agreement, 1959); a point is 1/72 in. */
export const MM_PER_INCH = 25.4;

/** What one of a paper unit is in inches, as a quotient so that conversions round once. */
const perInch: Record<Exclude<Unit, 'px' | '%'>, number> = {
  mm: 25.4,
  cm: 2.54,
  m: 0.0254,
  in: 1,
  ft: 1 / 12,
  pt: 72,
};

/** What a picture length depends on: the original's pixels along this axis and the print's ppi. */
export interface Axis {
  originalPixels: number;
  ppi: number;
}

/**
 * Inches of paper that a length covers.
 * @param axis needed for px and %
 */
export function toInches(length: Length, axis: Axis): number {
  if (length.unit === 'px') return length.value / axis.ppi;
  if (length.unit === '%') return (axis.originalPixels * length.value) / 100 / axis.ppi;
  return length.value / perInch[length.unit];
}

/** The value that `inches` of paper have in `unit`; the inverse of `toInches`. */
export function fromInches(inches: number, unit: Unit, axis: Axis): number {
  if (unit === 'px') return inches * axis.ppi;
  if (unit === '%') return ((inches * axis.ppi) / axis.originalPixels) * 100;
  return inches * perInch[unit];
}

/** Whole pixels of a length: inches x ppi, rounded; px and % don't take the way over paper. */
export function toPixels(length: Length, axis: Axis): number {
  if (length.unit === 'px') return Math.round(length.value);
  if (length.unit === '%') return Math.round((axis.originalPixels * length.value) / 100);
  return Math.round(toInches(length, axis) * axis.ppi);
}

/** Decimals that tell a millimetre, or what comes near it. */
export const MILLIMETRE: Record<Unit, number> = {
  ...{ mm: 0, cm: 1, m: 3 },
  ...{ in: 2, ft: 3, pt: 0 },
  ...{ px: 0, '%': 1 },
};

/** Decimals that a length is read and typed with. */
export const decimalsOf = (unit: Unit): number => Math.max(2, MILLIMETRE[unit]);

/** A length for reading: at most `digits` decimals, no trailing zeros. */
export const formatLength = (length: Length, digits = decimalsOf(length.unit)): string =>
  length.unit === '%'
    ? `${formatNumber(length.value, digits)} %`
    : `${formatNumber(length.value, digits)} ${length.unit}`;
