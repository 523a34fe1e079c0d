import { Kind } from '@/core/inspect/kind';
import { propose } from '@/core/recipe/propose';
import type { WorkBench } from '../../use-work';
import { say } from '@/core/words/say';

/** What kind of picture it is, and why; another kind brings another proposal. */
export function KindChoice({ bench }: { bench: WorkBench }) {
  const { job, work, change } = bench;
  const { findings } = job.piece;
  const kind = work.kind ?? findings.kind;
  return (
    <div>
      <div className="kind-choice">
        <label className="field-label mb-0" htmlFor="kind">
          {say`Kind of picture`}
        </label>
        <select
          id="kind"
          className="list-choice"
          value={kind}
          onChange={(event) => {
            const chosen = Kind.parse(event.target.value);
            change(say`Kind of picture: ${chosen}`, (next, trial) => {
              next.kind = chosen === findings.kind ? null : chosen;
              const order = { ...next, page: next.framing.page, ppi: trial.ppi };
              const proposed = propose({ ...findings, kind: chosen }, order);
              trial.treatment = proposed.work.trials[0]!.treatment;
              // Zones that it works in; one that is there already may have been changed.
              const there = new Set(next.zones.map(({ id }) => id));
              next.zones.push(...proposed.work.zones.filter(({ id }) => !there.has(id)));
            });
          }}
        >
          {Kind.options.map((option) => (
            <option key={option}>{option}</option>
          ))}
        </select>
      </div>
      <p className="reason mt-1">
        {work.kind ? say`Found to be ${findings.kind}; changed by hand.` : findings.kindReason}
      </p>
    </div>
  );
}
