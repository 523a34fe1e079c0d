import { UNFRAMED } from '../frame/framing';
import type { Findings } from '../inspect/findings';
import type { Paper } from '../measure/paper';
import { verdict, type Verdict } from '../measure/verdict';
import { originalOf } from './original';
import { planOf } from './plan';

/** How a picture will look as it is ordered, or in words why it can't be. */
export type Ordered = { ok: true; verdict: Verdict } | { ok: false; reason: string };

/**
 * How a picture will look as it is ordered, before anything is decided about it.
 * @param distance metres from which the print is looked at
 * @param ppi resolution of the result
 */
export function orderedVerdict(
  findings: Findings,
  { paper, distance, ppi }: { paper: Paper; distance: number; ppi: number },
): Ordered {
  const planned = planOf(originalOf('', findings), { framing: UNFRAMED, paper }, ppi);
  return planned.ok ? { ok: true, verdict: verdict(planned.plan, distance, findings) } : planned;
}
