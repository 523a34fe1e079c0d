import dynamic from 'next/dynamic';
import { pictureRect } from '@/core/frame/framing';
import { formatFactor, formatMegapixels, formatNumber, formatPpi } from '@/core/measure/format';
import { factorOf, leastPpi, type PrintPlan } from '@/core/measure/plan';
import { fromInches } from '@/core/measure/units';
import { realPpi, verdict } from '@/core/measure/verdict';
import { framingOf } from '@/core/recipe/plan';
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

const DistanceChart = dynamic(
  () => import('./DistanceChart').then((module) => module.DistanceChart),
  { ssr: false, loading: () => <div className="distance-chart" /> },
);

/** Device resolution that is assumed until one is chosen. */
const USUAL_DEVICE = 160;

export function SizeSection({ bench }: { bench: WorkBench }) {
  const { work, trial, resolved, change, original } = bench;
  const plan = resolved.ok ? resolved.plan : null;
  const { data: lists } = useLists();
  const device = lists?.devices.find((one) => one.name === work.device)?.ppi ?? USUAL_DEVICE;
  const { kind } = bench.found;
  return (
    <Section name="size" title="Size" line={plan ? `${sizeLine(bench, plan)}` : 'not possible'}>
      <PaperFields bench={bench} plan={plan} />
      {!resolved.ok && <p className="field-trouble">{resolved.reason}</p>}
      {!original.vector && (
        <Choices
          name="pixels"
          label="New pixels, or only the size tag"
          value={trial.pixels}
          onChange={(pixels) =>
            change(pixels === 'new' ? 'New pixels' : 'Only the size tag', (_, next) => {
              next.pixels = pixels;
            })
          }
          options={[
            { value: 'new', label: 'Make new pixels' },
            { value: 'kept', label: 'Only set the size tag' },
          ]}
        />
      )}
      {trial.pixels === 'kept' && plan && (
        <p className="reason">
          Every pixel stays as it is; the file only says {formatNumber(plan.ppiAfter)} ppi. Clean,
          Enlarge and Finish rest.
        </p>
      )}
      {plan && <FitControls bench={bench} plan={plan} />}
      <PrintedWith bench={bench} />
      {plan && <VerdictWords bench={bench} plan={plan} />}
      {plan && (
        <DistanceDrawing
          inches={plan.ordered}
          metres={work.distance}
          kind={kind}
          {...slides(
            bench,
            (metres) => (next) => (next.distance = metres),
            (metres) => `Seen from ${formatNumber(metres)} m`,
          )}
        />
      )}
      {plan && (
        <DistanceChart
          kind={kind}
          distance={work.distance}
          carried={plan.vector ? null : realPpi(plan, bench.found)}
          device={device}
        />
      )}
      {plan && (
        <dl className="facts">
          <dt>Result</dt>
          <dd>
            <Copyable>{`${plan.pixels.width} × ${plan.pixels.height}`}</Copyable>
            <span className="figure"> · {formatMegapixels(plan.megapixels)} MP</span>
          </dd>
          {!plan.vector && (
            <>
              <dt>Factor</dt>
              <dd className="figure">
                {Math.abs(plan.factor.x / plan.factor.y - 1) < 0.001
                  ? `×${formatFactor(plan.factor.x)}`
                  : `×${formatFactor(plan.factor.x)} wide, ×${formatFactor(plan.factor.y)} high`}
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
  const { width, height } = bench.work.paper;
  const given = width ?? height;
  const unit = given && given.unit !== '%' ? given.unit : 'px';
  const rect = pictureRect(bench.original.size, framingOf(bench.original, bench.work));
  const side = (name: 'width' | 'height') =>
    unit === 'px'
      ? String(plan.pixels[name])
      : formatNumber(
          fromInches(plan.ordered[name], unit, {
            originalPixels: rect[name],
            ppi: bench.trial.ppi,
          }),
          1,
        );
  const size = `${side('width')} × ${side('height')} ${unit}`;
  if (plan.vector) return size;
  return bench.trial.pixels === 'kept'
    ? `${size} · tag only`
    : `${size} · ×${formatFactor(factorOf(plan))}`;
}

function VerdictWords({ bench, plan }: { bench: WorkBench; plan: PrintPlan }) {
  const { tone, fact, judgement } = verdict(plan, bench.work.distance, bench.found);
  return (
    <div className="verdict">
      <span className="big-figure">
        {plan.vector ? '∞' : formatPpi(leastPpi(plan))}
        <small>ppi now</small>
      </span>
      <p>
        {fact} <span className={tone}>{judgement}</span>
      </p>
    </div>
  );
}
