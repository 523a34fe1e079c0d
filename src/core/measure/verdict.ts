import { eyePpi, sharpFrom } from './eye';
import { formatPpi, formatNumber } from './format';
import type { PrintPlan } from './plan';
import { leastPpi } from './plan';

/** How a print will look at its distance: good, with reserve, or beyond mending. */
export type Tone = 'good' | 'caution' | 'trouble';

export interface Verdict {
  tone: Tone;
  /** a few words for a row of the board */
  short: string;
  /** one or two plain sentences for the ticket */
  sentence: string;
}

/** Below this share of what the eye uses, even the best enlargement looks soft. */
const ENOUGH = 0.5;
const BARELY = 0.12;

/**
 * What the original itself carries on the ordered paper against what the eye uses from there.
 * @param metres viewing distance
 */
export function verdict(plan: PrintPlan, metres: number): Verdict {
  const carried = leastPpi(plan);
  const eye = eyePpi(metres);
  const share = carried / eye;
  const seen = `Seen from ${formatNumber(metres)} m the eye uses ${formatPpi(eye)} ppi.`;
  if (share >= 1) {
    const from = formatNumber(sharpFrom(carried), 1);
    return {
      tone: 'good',
      short: `holds from ${from} m`,
      sentence: `${seen} The picture holds by itself from ${from} m on.`,
    };
  }
  if (share >= ENOUGH) {
    return {
      tone: 'good',
      short: 'enlarging is enough',
      sentence: `${seen} Enlarging is enough; the finest lettering may look soft.`,
    };
  }
  if (share >= BARELY) {
    return {
      tone: 'caution',
      short: 'enlarge, fine print stays soft',
      sentence: `${seen} Enlarging helps; fine lettering will stay soft.`,
    };
  }
  return {
    tone: 'trouble',
    short: 'ask for a larger file',
    sentence: `${seen} That is too far apart: ask the customer for a larger file.`,
  };
}
