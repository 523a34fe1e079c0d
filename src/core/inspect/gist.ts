import { formatMegapixels, formatNumber } from '../measure/format';
import { paperWords, verdict } from '../measure/verdict';
import type { PrintPlan } from '../measure/plan';
import { compressionWords, type Findings } from './findings';
import { findingsInWords } from './words';
import { say } from '../words/say';

/** A picture in two lines, for somebody with a customer waiting. */
export interface Gist {
  /** what it is, and what it suffers from */
  what: string;
  /** what that means for the paper that it is ordered on; null where there is none */
  means: string | null;
}

const listed = new Intl.ListFormat('en-GB');

/** @param found with the kind that the picture is taken for @param metres viewing distance */
export function gistOf(found: Findings, plan: PrintPlan | null, metres: number): Gist {
  return {
    what: `${whatItIs(found)} ${whatItSuffers(found)}`.trim(),
    means: plan && meaning(plan, metres, found),
  };
}

const NAMES: Record<Findings['kind'], string> = {
  photograph: say`A photograph`,
  'flat artwork': say`Flat artwork`,
  'line art': say`Line art or lettering`,
  'pixel squares': say`A picture of pixel squares`,
  mixed: say`A mixed picture`,
};

function whatItIs(found: Findings): string {
  if (found.vector)
    return say`A page of shapes, ${compressionWords(found).replace(', shapes', '')}.`;
  const megapixels = say`${formatMegapixels(found.megapixels)} megapixels`;
  return say`${NAMES[found.kind]} of ${megapixels}, ${compressionWords(found)}.`;
}

function whatItSuffers(found: Findings): string {
  if (found.vector) return '';
  const missing = found.damaged > 0 ? [say`a missing part`] : [];
  const harms = findingsInWords(found).flatMap(({ matters, harm }) =>
    matters && harm ? [harm] : [],
  );
  const all = [...new Set([...missing, ...harms])];
  return all.length > 0
    ? say`It suffers from ${listed.format(all)}.`
    : say`Nothing is wrong with its pixels.`;
}

function meaning(plan: PrintPlan, metres: number, found: Findings): string {
  const { judgement } = verdict(plan, metres, found);
  const lowered = judgement.charAt(0).toLowerCase() + judgement.slice(1);
  return say`At ${paperWords(plan)} seen from ${formatNumber(metres)} m: ${lowered}`;
}
