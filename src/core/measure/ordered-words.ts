import { formatNumber } from './format';
import type { Paper } from './paper';
import type { PrintPlan } from './plan';
import { fromInches, MILLIMETRE, type Unit } from './units';
import { say } from '../words/say';

/**
 * The paper that was ordered, both sides of it, in the unit that it was typed in: “120 × 80 cm”. A paper that is open, or
 * a share of the picture, is told in pixels.
 */
export function orderedWords(
  { ordered, trim, vector }: Pick<PrintPlan, 'ordered' | 'trim' | 'vector'>,
  { width, height }: Pick<Paper, 'width' | 'height'>,
): string {
  const typed = (width ?? height)?.unit;
  const unit: Unit = typed && typed !== '%' ? typed : vector ? 'cm' : 'px';
  if (unit === 'px') return say`${trim.width} × ${trim.height} px`;
  const side = (inches: number) =>
    formatNumber(
      fromInches(inches, unit, { originalPixels: 1, ppi: 1 }),
      Math.max(1, MILLIMETRE[unit]),
    );
  return `${side(ordered.width)} × ${side(ordered.height)} ${unit}`;
}
