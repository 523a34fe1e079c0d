import { formatNumber } from '../measure/format';
import type { Evidence, SeenFigures } from './evidence';
import { say } from '../words/say';

/** A figure of the evidence: what it is called, which way is good, and where it stands. */
export interface EvidenceRow {
  title: string;
  unit: string;
  digits: number;
  good: 'more' | 'less';
  /** what better means here */
  means: string;
  of(found: Evidence): number | null;
  /** the same of the original, if it has one */
  ofOriginal?(found: SeenFigures): number | null;
}

/** The evidence, figure by figure, in the order that it is read. */
export const EVIDENCE_ROWS: readonly EvidenceRow[] = [
  {
    ...{ title: say`Reduced back`, unit: 'dB', digits: 1, good: 'more', means: 'truer' },
    of: ({ psnrReduced }) => psnrReduced,
  },
  {
    ...{ title: say`Similarity (SSIM)`, unit: 'of 1', digits: 3, good: 'more', means: 'truer' },
    of: ({ ssimReduced }) => ssimReduced,
  },
  {
    ...{ title: say`Colour shift`, unit: 'levels', digits: 1, good: 'less', means: 'truer' },
    of: ({ colourShift }) => colourShift,
  },
  {
    ...{ title: say`Blocking`, unit: '%', digits: 0, good: 'less', means: 'cleaner' },
    of: ({ blocking }) => blocking,
    ofOriginal: ({ blocking }) => blocking,
  },
  {
    ...{ title: say`Noise`, unit: 'levels', digits: 1, good: 'less', means: 'smoother' },
    of: ({ noise }) => noise,
    ofOriginal: ({ noise }) => noise,
  },
  {
    ...{ title: say`Edges rise in`, unit: 'px', digits: 1, good: 'less', means: 'crisper' },
    of: ({ edgeRisePx }) => edgeRisePx,
    ofOriginal: ({ edgeRisePx }) => edgeRisePx,
  },
  {
    ...{ title: say`Overshoot`, unit: '%', digits: 1, good: 'less', means: 'calmer' },
    of: ({ overshootPercent }) => overshootPercent,
  },
];

/** A figure of a row as it is read; a dash where there is none. */
export const figureWords = ({ digits }: EvidenceRow, value: number | null): string =>
  value === null ? '–' : formatNumber(value, digits);

/** Which of several figures is the better one; null where they are alike as they are read, or only one is known. */
export function bestOf({ good, digits }: EvidenceRow, figures: readonly (number | null)[]) {
  const known = figures.filter((figure) => figure !== null);
  if (known.length < 2) return null;
  const best = good === 'more' ? Math.max(...known) : Math.min(...known);
  const alike = known.filter((figure) => figure.toFixed(digits) === best.toFixed(digits));
  return alike.length > 1 ? null : figures.indexOf(best);
}
