import { MM_PER_INCH } from './units';

/**
 * Resolution that a normal eye can use: two points one minute of arc apart.
 * ppi = 1 / (distance in inches x tan(1 arc minute)), about 87 / distance in metres.
 * @param metres viewing distance, above 0
 */
export function eyePpi(metres: number): number {
  const inches = (metres * 1000) / MM_PER_INCH;
  return 1 / (inches * Math.tan(Math.PI / 180 / 60));
}

/** The distance in metres from which a print of `ppi` shows all that the eye can use. */
export const sharpFrom = (ppi: number): number => eyePpi(1) / ppi;
