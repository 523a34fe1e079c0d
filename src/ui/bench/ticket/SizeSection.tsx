import { Link2, Link2Off } from 'lucide-react';
import { useState } from 'react';
import { formatFactor, formatMegapixels, formatNumber, formatPpi } from '@/core/measure/format';
import { factorOf, leastPpi, Ppi, type PrintPlan } from '@/core/measure/plan';
import { fromInches, parseLength, Unit, type Length } from '@/core/measure/units';
import { verdict } from '@/core/measure/verdict';
import { Choices } from '../../parts/Choices';
import { FigureField } from '../../parts/FigureField';
import type { WorkBench } from '../use-work';
import { DistanceDrawing } from './DistanceDrawing';
import { Section } from './Section';

type Side = 'width' | 'height';
const OTHER = { width: 'height', height: 'width' } as const;
const LABEL = { width: 'Width', height: 'Height' } as const;

export function SizeSection({ bench }: { bench: WorkBench }) {
  const { work, trial, settled, change, sketch, original } = bench;
  const plan = settled.ok ? settled.plan : null;
  const [apart, setApart] = useState(false);
  const { paper } = work;
  const bothGiven = paper.width !== null && paper.height !== null;
  const sameShape = plan !== null && plan.croppedAway < 0.002 && Math.abs(plan.distortion) < 0.002;
  const linked = !apart && (!bothGiven || sameShape);

  /** The side as it is typed, or as it follows from the other one. */
  const lengthOf = (side: Side): Length | null => {
    const typed = paper[side];
    if (typed) return typed;
    const unit = paper[OTHER[side]]?.unit ?? 'cm';
    const value =
      plan &&
      fromInches(plan.ordered[side], unit, { originalPixels: original.size[side], ppi: trial.ppi });
    return value ? { value, unit } : null;
  };

  const setSide = (side: Side, length: Length) =>
    change(`${LABEL[side]} ${formatNumber(length.value)} ${length.unit}`, ({ paper: next }) => {
      next[side] = length;
      next[OTHER[side]] = linked ? null : (next[OTHER[side]] ?? lengthOf(OTHER[side]));
    });

  const field = (side: Side) => {
    const length = lengthOf(side);
    const unit = length?.unit ?? 'cm';
    return (
      <FigureField
        label={LABEL[side]}
        text={length ? formatNumber(length.value) : ''}
        onEnter={(text) => {
          const typed = parseLength(text, unit);
          if (!typed) return 'A length above 0, e.g. 120 cm.';
          setSide(side, typed);
          return null;
        }}
        onStep={(direction, ten) => {
          const value = (length?.value ?? 0) + direction * (ten ? 10 : 1);
          if (value > 0) setSide(side, { value: Number(value.toFixed(3)), unit });
        }}
        unit={
          <select
            aria-label={`Unit of the ${side}`}
            value={unit}
            onChange={(event) => {
              const next = Unit.parse(event.target.value);
              const value =
                plan &&
                fromInches(plan.ordered[side], next, {
                  originalPixels: original.size[side],
                  ppi: trial.ppi,
                });
              if (value) setSide(side, { value: Number(value.toFixed(4)), unit: next });
            }}
          >
            {Unit.options.map((option) => (
              <option key={option}>{option}</option>
            ))}
          </select>
        }
      />
    );
  };

  return (
    <Section name="size" title="Size" line={plan ? `${sizeLine(bench, plan)}` : 'not possible'}>
      <div className="length-fields">
        {field('width')}
        <button
          type="button"
          className="link-button"
          aria-pressed={linked}
          aria-label="One side follows the other"
          title={linked ? 'One side follows the other' : 'Both sides are given'}
          onClick={() => {
            if (linked) setApart(true);
            else {
              setApart(false);
              change('Height follows', ({ paper: next }) => {
                next.width ??= lengthOf('width');
                next.height = null;
              });
            }
          }}
        >
          {linked ? <Link2 size={16} /> : <Link2Off size={16} />}
        </button>
        {field('height')}
        <FigureField
          label="Resolution"
          text={formatNumber(trial.ppi)}
          unit="ppi"
          onEnter={(text) => {
            const ppi = Ppi.safeParse(Number(text.replace(',', '.').replace(/ppi$/, '')));
            if (!ppi.success) return '1 to 4800';
            change(`${ppi.data} ppi`, ({ trials }) => (trials[0]!.ppi = ppi.data));
            return null;
          }}
          onStep={(direction, ten) =>
            change(`${trial.ppi + direction * (ten ? 10 : 1)} ppi`, ({ trials }) => {
              trials[0]!.ppi = Ppi.catch(trial.ppi).parse(trial.ppi + direction * (ten ? 10 : 1));
            })
          }
        />
      </div>
      {!settled.ok && <p className="field-trouble">{settled.reason}</p>}
      {plan && bothGiven && !sameShape && (
        <>
          <Choices
            name="fit"
            label="How the picture meets the paper"
            value={paper.fit}
            onChange={(fit) =>
              change(fit === 'crop' ? 'Fill and crop' : 'Stretch', (next) => (next.paper.fit = fit))
            }
            options={[
              { value: 'crop', label: 'Fill and crop' },
              { value: 'stretch', label: 'Stretch' },
            ]}
          />
          <p className="reason">
            {paper.fit === 'crop'
              ? `Filling this paper leaves out ${formatNumber(plan.croppedAway * 100, 1)} % of the picture.`
              : `Stretching makes everything ${formatNumber(Math.abs(plan.distortion) * 100, 1)} % ${plan.distortion > 0 ? 'wider' : 'narrower'} than it is.`}
          </p>
        </>
      )}
      {plan && <Verdict plan={plan} metres={work.distance} />}
      {plan && (
        <DistanceDrawing
          inches={plan.ordered}
          metres={work.distance}
          onDrag={(metres) => sketch((next) => (next.distance = metres))}
          onSet={(metres) =>
            change(`Seen from ${formatNumber(metres)} m`, (next) => (next.distance = metres))
          }
        />
      )}
      {plan && (
        <dl className="facts">
          <dt>Result</dt>
          <dd className="figure">
            {plan.pixels.width} × {plan.pixels.height} px · {formatMegapixels(plan.megapixels)} MP
          </dd>
          <dt>Factor</dt>
          <dd className="figure">
            {Math.abs(plan.factor.x / plan.factor.y - 1) < 0.001
              ? `×${formatFactor(plan.factor.x)}`
              : `×${formatFactor(plan.factor.x)} wide, ×${formatFactor(plan.factor.y)} high`}
          </dd>
        </dl>
      )}
    </Section>
  );
}

function sizeLine(bench: WorkBench, plan: PrintPlan): string {
  const { width, height } = bench.work.paper;
  const given = width ?? height;
  const unit = given && given.unit !== '%' ? given.unit : 'px';
  const side = (name: Side) =>
    unit === 'px'
      ? String(plan.pixels[name])
      : formatNumber(
          fromInches(plan.ordered[name], unit, {
            originalPixels: bench.original.size[name],
            ppi: bench.trial.ppi,
          }),
          1,
        );
  return `${side('width')} × ${side('height')} ${unit} · ×${formatFactor(factorOf(plan))}`;
}

function Verdict({ plan, metres }: { plan: PrintPlan; metres: number }) {
  const { tone, sentence } = verdict(plan, metres);
  const [fact, ...judgement] = sentence.split(/(?<=\.) /);
  return (
    <div className="verdict">
      <span className="big-figure">
        {formatPpi(leastPpi(plan))}
        <small>ppi now</small>
      </span>
      <p>
        {fact} <span className={tone}>{judgement.join(' ')}</span>
      </p>
    </div>
  );
}
