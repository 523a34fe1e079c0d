import type { Tone } from '@/core/measure/verdict';

const MARK = { good: '●', caution: '▲', trouble: '■' } as const;

/** A verdict's tone as a shape, for whoever sees no colour. */
export const VerdictMark = ({ tone }: { tone: Tone }) => (
  <span className={`mark-${tone}`} aria-hidden>
    {MARK[tone]}
  </span>
);
