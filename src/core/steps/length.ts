import { z } from 'zod';
import { leastPpi } from '../measure/plan';
import { MM_PER_INCH } from '../measure/units';
import type { ResolveContext } from './step';

/** px of the grid where a step stands, or mm on paper: then the effect looks alike at any ppi. */
export const LengthUnit = z.enum(['px', 'mm']);
export type LengthUnit = z.infer<typeof LengthUnit>;

/** A length in pixels of the grid where a step stands. */
export function pixelsOf(
  length: number,
  unit: LengthUnit,
  { plan, phase }: Pick<ResolveContext, 'plan' | 'phase'>,
): number {
  if (unit === 'px') return length;
  const ppi = phase === 'original' ? leastPpi(plan) : plan.ppiAfter;
  return (length / MM_PER_INCH) * ppi;
}
