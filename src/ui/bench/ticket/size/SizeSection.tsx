import dynamic from 'next/dynamic';
import { formatFactor, formatMegapixels, formatNumber, formatPpi } from '@/core/measure/format';
import { factorOf, leastPpi, type PrintPlan } from '@/core/measure/plan';
import { orderedWords } from '@/core/measure/ordered-words';
import { realPpi, verdict } from '@/core/measure/verdict';
import { PROPOSED_PPI } from '@/core/recipe/propose';
import { useLists } from '../../../data/queries';
import { Choices } from '../../../parts/Choices';
import { Copyable } from '../../../parts/Copyable';
import { slides, type WorkBench } from '../../use-work';
import { Section } from '../Section';
import { CustomerNote } from './CustomerNote';
import { DistanceDrawing } from './DistanceDrawing';
import { FitControls } from './FitControls';
import { PaperFields } from './PaperFields';
import { PrintedWith } from './PrintedWith';
import { WhatIf, WithoutNewPixels } from './WhatIf';
import { say } from '@/core/words/say';

const DistanceChart = dynamic(
  () => import('./DistanceChart').then((module) => module.DistanceChart),
  { ssr: false, loading: () => <div className="distance-chart" /> },
);

export function SizeSection({ bench }: { bench: WorkBench }) {
  const { work, trial, resolved, change, original } = bench;
  const plan = resolved.ok ? resolved.plan : null;
  const { data: lists } = useLists();
  const device = lists?.devices.find((one) => one.name === work.device)?.ppi ?? PROPOSED_PPI;
  const { kind } = bench.found;
  return (
    <Section
      bench={bench}
      name="size"
      title={say`Size`}
      line={plan ? sizeLine(bench, plan) : say`not possible`}
    >
      <PaperFields bench={bench} plan={plan} />
      {!resolved.ok && <p className="field-trouble">{resolved.reason}</p>}
      {plan && <VerdictWords bench={bench} plan={plan} />}
      {plan && (
        <DistanceDrawing
          inches={plan.ordered}
          metres={work.distance}
          kind={kind}
          {...slides(
            bench,
            (metres) => (next) => (next.distance = metres),
            (metres) => say`Seen from ${formatNumber(metres)} m`,
          )}
        />
      )}
      {!original.vector && (
        <Choices
          name="pixels"
          label={say`New pixels, or only the size tag`}
          value={trial.pixels}
          onChange={(pixels) =>
            change(pixels === 'new' ? say`New pixels` : say`Only the size tag`, (_, next) => {
              next.pixels = pixels;
            })
          }
          options={[
            { value: 'new', label: say`Make new pixels` },
            { value: 'kept', label: say`Only set the size tag` },
          ]}
        />
      )}
      {trial.pixels === 'kept' && plan && (
        <p className="reason">
          {say`Every pixel stays as it is; the file only says ${formatNumber(plan.ppiAfter)} ppi. Clean, Enlarge and Finish rest.`}
        </p>
      )}
      {plan && <FitControls bench={bench} plan={plan} />}
      <PrintedWith bench={bench} />
      {plan && (
        <DistanceChart
          kind={kind}
          distance={work.distance}
          effective={plan.vector ? null : realPpi(plan, bench.found)}
          printer={device}
          assumed={work.device === null}
        />
      )}
      {plan && (
        <dl className="facts">
          <dt>{say`Result`}</dt>
          <dd>
            <Copyable>{`${plan.pixels.width} × ${plan.pixels.height}`}</Copyable>
            <span className="figure"> {say`· ${formatMegapixels(plan.megapixels)} MP`}</span>
          </dd>
          {!plan.vector && (
            <>
              <dt>{say`Factor`}</dt>
              <dd className="figure">
                {Math.abs(plan.factor.x / plan.factor.y - 1) < 0.001
                  ? `×${formatFactor(plan.factor.x)}`
                  : say`×${formatFactor(plan.factor.x)} wide, ×${formatFactor(plan.factor.y)} high`}
              </dd>
            </>
          )}
        </dl>
      )}
      {plan && <WhatIf bench={bench} plan={plan} device={device} />}
      <WithoutNewPixels bench={bench} device={device} />
      {plan && <CustomerNote bench={bench} plan={plan} />}
    </Section>
  );
}

function sizeLine(bench: WorkBench, plan: PrintPlan): string {
  const size = orderedWords(plan, bench.work.paper);
  if (plan.vector) return size;
  return bench.trial.pixels === 'kept'
    ? say`${size} · tag only`
    : `${size} · ×${formatFactor(factorOf(plan))}`;
}

function VerdictWords({ bench, plan }: { bench: WorkBench; plan: PrintPlan }) {
  const { tone, fact, judgement } = verdict(plan, bench.work.distance, bench.found);
  return (
    <div className="verdict">
      <span>
        <span className="big-figure">
          {plan.vector ? '∞' : formatPpi(leastPpi(plan))}
          <small>{say`ppi`}</small>
        </span>
        <small className="soft">{say`before enlarging`}</small>
      </span>
      <p>
        {fact} <span className={tone}>{judgement}</span>
      </p>
    </div>
  );
}
