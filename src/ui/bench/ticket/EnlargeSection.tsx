import { formatFactor } from '@/core/measure/format';
import { factorOf } from '@/core/measure/plan';
import { summaryOf } from '@/core/steps';
import { Method, methodNotes } from '@/core/steps/enlarge/methods';
import { stepOf } from '@/core/treatment/recipe';
import { ofStep, type WorkBench } from '../use-work';
import { Reason } from './Reason';
import { Section } from './Section';

export function EnlargeSection({ bench }: { bench: WorkBench }) {
  const { trial, settled, change, original } = bench;
  const step = stepOf(trial.treatment, 'enlarge')!;
  const factor = settled.ok ? ` · ×${formatFactor(factorOf(settled.plan))}` : '';
  if (original.vector || trial.pixels === 'kept') {
    return (
      <Section name="enlarge" title="Enlarge" line="nothing to do">
        <p className="reason">
          {original.vector
            ? 'Drawn fresh at the resolution of the print: there are no pixels to enlarge.'
            : 'Only the size tag is set: no pixel is made anew.'}
        </p>
      </Section>
    );
  }
  return (
    <Section name="enlarge" title="Enlarge" line={summaryOf(step) + factor}>
      <div role="radiogroup" aria-label="Resampling method">
        {Method.options.map((method) => (
          <label className="method" key={method}>
            <input
              type="radio"
              name="method"
              checked={step.settings.method === method}
              onChange={() =>
                change(
                  methodNotes[method].title,
                  ofStep('enlarge', (next) => (next.settings.method = method)),
                )
              }
            />
            <b>{methodNotes[method].title}</b>
            <span>{methodNotes[method].note}</span>
          </label>
        ))}
      </div>
      <Reason bench={bench} step="enlarge" />
    </Section>
  );
}
