import { z } from 'zod';
import { formatNumber, formatPpi } from '../measure/format';
import { Fit, type Paper } from '../measure/paper';
import { Ppi } from '../measure/plan';
import { sheetSides } from '../measure/typed';
import { decimalsOf, formatLength, Length, toInches as inches } from '../measure/units';
import type { Size } from '../raster/region';
import { Sheet } from '../shop/lists';
import { say } from '../words/say';

/** A length on paper: pixels and shares of a picture are none. */
const PaperLength = Length.refine(({ unit }) => unit !== 'px' && unit !== '%', {
  message: 'A length on paper, as 60 cm.',
});

/** How large each of many pictures is printed: one rule, whatever their shapes are. */
export const SizeRule = z.discriminatedUnion('by', [
  /** as each is ordered already */
  z.object({ by: z.literal('ordered') }),
  /** two sides, lying or standing as the picture does */
  z.object({ by: z.literal('exact'), width: PaperLength, height: PaperLength, fit: Fit }),
  /** one side, which the other one follows */
  z.object({ by: z.enum(['width', 'height', 'longest']), length: PaperLength }),
  /** so many times as many pixels along each side */
  z.object({ by: z.literal('factor'), factor: z.number().min(0.01).max(64) }),
  /** a sheet, lying or standing as the picture does; on a roll across its width */
  z.object({ by: z.literal('sheet'), sheet: Sheet, fit: Fit }),
  /** as large as its own pixels come to at a resolution */
  z.object({ by: z.literal('pixels'), ppi: Ppi }),
]);
export type SizeRule = z.infer<typeof SizeRule>;

type Sides = Pick<Paper, 'width' | 'height'>;

/**
 * A picture's paper by a rule; what the rule does not speak of is as it was.
 * @param size of the picture, upright
 */
export function paperBy(rule: SizeRule, paper: Paper, size: Size): Paper {
  const sides = sidesBy(rule, size);
  return {
    ...paper,
    ...sides,
    // Where the paper lay on the picture was chosen for another shape.
    ...(sides && { place: { x: 0.5, y: 0.5, zoom: 1 } }),
    ...('fit' in rule && { fit: rule.fit }),
  };
}

function sidesBy(rule: SizeRule, size: Size): Sides | null {
  const lying = size.width >= size.height;
  switch (rule.by) {
    case 'ordered':
      return null;
    case 'exact':
      return sidesAsItLies(rule, lying);
    case 'width':
      return { width: rule.length, height: null };
    case 'height':
      return { width: null, height: rule.length };
    case 'longest':
      return lying ? { width: rule.length, height: null } : { width: null, height: rule.length };
    case 'factor':
      return { width: { value: rule.factor * 100, unit: '%' }, height: null };
    case 'sheet':
      return sheetSides(rule.sheet, size);
    case 'pixels':
      return { width: { value: 100, unit: '%' }, height: null };
  }
}

/** Two sides, the longer one along the picture's longer one. */
function sidesAsItLies(
  { width, height }: { width: Length; height: Length },
  lying: boolean,
): Sides {
  const axis = { originalPixels: 1, ppi: 1 };
  const wide = inches(width, axis) >= inches(height, axis);
  return wide === lying ? { width, height } : { width: height, height: width };
}

/** A rule in a few words. */
export function ruleWords(rule: SizeRule): string {
  switch (rule.by) {
    case 'ordered':
      return say`as ordered`;
    case 'exact':
      return rule.width.unit === rule.height.unit
        ? `${formatNumber(rule.width.value, decimalsOf(rule.width.unit))} × ${formatLength(rule.height)}`
        : `${formatLength(rule.width)} × ${formatLength(rule.height)}`;
    case 'width':
      return say`${formatLength(rule.length)} wide`;
    case 'height':
      return say`${formatLength(rule.length)} high`;
    case 'longest':
      return say`${formatLength(rule.length)} along the longest side`;
    case 'factor':
      return say`${formatNumber(rule.factor)} times as many pixels`;
    case 'sheet':
      return rule.sheet.name;
    case 'pixels':
      return say`its own pixels at ${formatPpi(rule.ppi)} ppi`;
  }
}
