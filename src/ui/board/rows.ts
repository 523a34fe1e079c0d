import { formatLength } from '@/core/measure/units';
import type { PrintPlan } from '@/core/measure/plan';
import { verdict, type Verdict } from '@/core/measure/verdict';
import type { JobState, JobSummary } from '@/core/shop/job';
import { planOf } from '@/core/recipe/plan';
import { originalOf } from '@/core/recipe/original';

/** A job with what follows from its order. */
export interface BoardRow extends JobSummary {
  plan: PrintPlan | null;
  verdict: Verdict | null;
  /** what a search looks through */
  words: string;
}

export function rowOf(job: JobSummary): BoardRow {
  const { findings, work } = job;
  const planned = planOf(originalOf(job.digest, findings), work, work.trials[0]!.ppi);
  const plan = planned.ok ? planned.plan : null;
  return {
    ...job,
    plan,
    verdict:
      plan && verdict(plan, work.distance, { ...findings, kind: work.kind ?? findings.kind }),
    words: `${job.number} ${job.title} ${job.customer}`.toLowerCase(),
  };
}

/** What of the board is shown. */
export interface Shown {
  archived: boolean;
  state: JobState | null;
  search: string;
}

/** The rows that are shown; every word of the search must be found. */
export function shownRows(rows: readonly BoardRow[], { archived, state, search }: Shown) {
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  return rows.filter(
    (row) =>
      row.archived === archived &&
      (!state || row.state === state) &&
      words.every((word) => row.words.includes(word)),
  );
}

/** The ordered paper as it was typed. */
export function orderedWords({ work, findings }: JobSummary): string {
  const { width, height } = work.paper;
  if (width && height && width.unit === height.unit && width.unit !== '%') {
    return `${formatLength(width).replace(/ \D+$/, '')} × ${formatLength(height)}`;
  }
  if (width || height)
    return `${width ? formatLength(width) : '…'} × ${height ? formatLength(height) : '…'}`;
  return findings.vector ? 'its own size' : `${findings.width} × ${findings.height} px`;
}
