import { estimate } from '@/core/render/throughput';
import { carryOut, MODEL_OF } from '@/core/steps/enlarge/choose';
import {
  isLearned,
  Learned,
  Method,
  methodNotes,
  Plain,
  Traced,
} from '@/core/steps/enlarge/methods';
import { stepOf, type Trial } from '@/core/recipe/work';
import { choosingFor } from '@/core/recipe/plan';
import { useThroughput } from '../../../data/queries';
import { estimateWords } from '../../../parts/time-left';
import { ofStep, type WorkBench } from '../../use-work';
import { Section } from '../Section';
import { Inventions } from './Inventions';
import { MethodParts } from './MethodParts';
import { MethodSettings } from './MethodSettings';
import { SaveDrawing } from './SaveDrawing';
import { TestAdvice } from './TestAdvice';
import { TestLine } from './TestLine';
import { TryButtons } from './TryButtons';
import { say } from '@/core/words/say';

export function EnlargeSection({ bench }: { bench: WorkBench }) {
  const { trial, original } = bench;
  const step = stepOf(trial.treatment, 'enlarge')!;
  if (original.vector || trial.pixels === 'kept') {
    return (
      <Section bench={bench} name="enlarge" title={say`Enlarge`} line={say`nothing to do`}>
        <p className="reason">
          {original.vector
            ? say`Drawn fresh at the resolution of the print: there are no pixels to enlarge.`
            : say`Only the size tag is set: no pixel is made anew.`}
        </p>
      </Section>
    );
  }
  const { method } = step.settings;
  const chosen = chosenFor(bench);
  const title = method === 'auto' && chosen ? `auto: ${gistOf(chosen.method)}` : gistOf(method);
  return (
    <Section bench={bench} name="enlarge" title={say`Enlarge`} line={title}>
      <div className="methods" role="radiogroup" aria-label={say`Method`}>
        <MethodRow bench={bench} method="auto" />
        <span className="field-label">{say`By networks`}</span>
        {Learned.options.map((one) => (
          <MethodRow key={one} bench={bench} method={one} />
        ))}
        <span className="field-label">{say`By areas and edges`}</span>
        <MethodRow bench={bench} method={Traced.value} />
        <span className="field-label">{say`Classic`}</span>
        {Plain.options.map((one) => (
          <MethodRow key={one} bench={bench} method={one} />
        ))}
      </div>
      <p className="reason">
        {method === 'auto' && chosen ? chosen.sentence : methodNotes[method].note}
      </p>
      <TestAdvice bench={bench} />
      <SaveDrawing bench={bench} />
      <MethodSettings bench={bench} />
      <MethodParts bench={bench} />
      <TryButtons bench={bench} />
      <Inventions bench={bench} />
    </Section>
  );
}

/** A method in so few words that they fit a closed section's line. */
const gistOf = (method: Method): string =>
  methodNotes[method].title.toLowerCase().replace('network for ', '');

/** What automatic comes to, and why. */
export function chosenFor({ resolved, original, work, models }: WorkBench) {
  if (!resolved.ok) return null;
  return carryOut('auto', choosingFor(original, work, resolved.plan, models)).chosen;
}

/** The trial with another method. */
export function withMethod(trial: Trial, method: Method): Trial {
  const other = structuredClone(trial);
  stepOf(other.treatment, 'enlarge')!.settings.method = method;
  return other;
}

/** One method: what it would take here, and how it fared on this very picture. */
function MethodRow({ bench, method }: { bench: WorkBench; method: Method }) {
  const { trial, change } = bench;
  const { data: throughput } = useThroughput();
  const taken = stepOf(trial.treatment, 'enlarge')!.settings.method === method;
  const resolved = throughput ? bench.resolve(withMethod(trial, method)) : null;
  const missing = isLearned(method) ? MODEL_OF[method] : null;
  const without = missing !== null && bench.models[missing] === null;
  return (
    <label className="method" title={methodNotes[method].note}>
      <input
        type="radio"
        name="method"
        checked={taken}
        disabled={without}
        onChange={() =>
          change(
            methodNotes[method].title,
            ofStep('enlarge', (next) => (next.settings.method = method)),
          )
        }
      />
      <b>{methodNotes[method].title}</b>
      {without ? (
        <span className="caution">{say`model missing`}</span>
      ) : (
        <>
          <TestLine bench={bench} method={method} />
          <span className="figure">
            {resolved?.ok ? estimateWords(estimate(resolved.recipe, throughput!)) : ''}
          </span>
        </>
      )}
    </label>
  );
}
