import { gistOf } from '@/core/inspect/gist';
import { verdict } from '@/core/measure/verdict';
import type { WorkBench } from '../../use-work';

/** The answer first: what it is, what it suffers from, and what that means for this paper. */
export function OriginalGist({ bench }: { bench: WorkBench }) {
  const { resolved, work, found } = bench;
  const plan = resolved.ok ? resolved.plan : null;
  const { what, means } = gistOf(found, plan, work.distance);
  return (
    <p className="gist">
      {what}
      {plan && means && <b className={verdict(plan, work.distance, found).tone}> {means}</b>}
    </p>
  );
}
