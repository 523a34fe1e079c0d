import { z } from 'zod';
import { Fit, OPEN_PAPER, type Paper } from '../measure/paper';
import { Ppi } from '../measure/plan';
import { Length, MM_PER_INCH } from '../measure/units';
import { sheetSides } from '../measure/typed';
import type { Size } from '../raster/region';
import { Sheet } from '../shop/lists';

/** A length on paper: pixels and shares of a picture are none. */
const PaperLength = Length.refine(({ unit }) => unit !== 'px' && unit !== '%', {
  message: 'A length on paper, as 60 cm.',
});

/** How large each of many pictures is printed: one rule, whatever their shapes are. */
export const SizeRule = z.discriminatedUnion('by', [
  /** as each was ordered already */
  z.object({ by: z.literal('ordered') }),
  /** the same for all; `fit` says what becomes of other shapes */
  z.object({ by: z.literal('exact'), width: PaperLength, height: PaperLength }),
  /** one side, which the other one follows */
  z.object({ by: z.enum(['width', 'height', 'longest']), length: PaperLength }),
  /** so many times as many pixels along each side */
  z.object({ by: z.literal('factor'), factor: z.number().min(0.01).max(64) }),
  /** a sheet, lying or standing as the picture does; on a roll across its width */
  z.object({ by: z.literal('sheet'), sheet: Sheet }),
  /** as large as its own pixels come to at a resolution */
  z.object({ by: z.literal('pixels'), ppi: Ppi }),
]);
export type SizeRule = z.infer<typeof SizeRule>;

/** A rule for the paper of many pictures. */
export const TargetRule = z.object({ size: SizeRule, fit: Fit });
export type TargetRule = z.infer<typeof TargetRule>;

/**
 * A picture's paper by a rule.
 * @param size of the picture, upright
 * @returns null where the rule leaves it as it was ordered
 */
export function paperBy({ size: rule, fit }: TargetRule, size: Size): Paper | null {
  const sides = sidesBy(rule, size);
  return sides && { ...OPEN_PAPER, ...sides, fit };
}

type Sides = Pick<Paper, 'width' | 'height'>;

function sidesBy(rule: SizeRule, { width, height }: Size): Sides | null {
  const lying = width >= height;
  switch (rule.by) {
    case 'ordered':
      return null;
    case 'exact':
      return { width: rule.width, height: rule.height };
    case 'width':
      return { width: rule.length, height: null };
    case 'height':
      return { width: null, height: rule.length };
    case 'longest':
      return lying ? { width: rule.length, height: null } : { width: null, height: rule.length };
    case 'factor':
      return { width: { value: rule.factor * 100, unit: '%' }, height: null };
    case 'pixels':
      return { width: { value: (width / rule.ppi) * MM_PER_INCH, unit: 'mm' }, height: null };
    case 'sheet':
      return sheetSides(rule.sheet, { width, height });
  }
}
