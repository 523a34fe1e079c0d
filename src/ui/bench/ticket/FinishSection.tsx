import { Form } from 'react-bootstrap';
import { formatNumber } from '@/core/measure/format';
import { MM_PER_INCH } from '@/core/measure/units';
import { steps, summaryOf } from '@/core/steps';
import { RADIUS_LIMIT, type SharpenSettings } from '@/core/steps/sharpen/sharpen';
import { RETOUCHING } from '@/core/treatment/order';
import { stepOf } from '@/core/treatment/recipe';
import { Slider } from '../../parts/Slider';
import { ofStep, slides, type WorkBench } from '../use-work';
import { StepList } from './clean/StepList';
import { Reason } from './Reason';
import { Section } from './Section';

export function FinishSection({ bench }: { bench: WorkBench }) {
  const { trial, change, original } = bench;
  const step = stepOf(trial.treatment, 'sharpen');
  if (!step) return null;
  const { radius, unit, amount, threshold } = step.settings;
  const usual = steps.sharpen.defaults;
  const put = (settings: Partial<SharpenSettings>) =>
    ofStep('sharpen', (next) => Object.assign(next.settings, settings));
  const sets = (key: 'radius' | 'amount' | 'threshold', words: (value: number) => string) =>
    slides(bench, (value) => put({ [key]: value }), words);
  const inOther =
    unit === 'mm'
      ? `${formatNumber((radius / MM_PER_INCH) * trial.ppi, 1)} px`
      : `${formatNumber((radius / trial.ppi) * MM_PER_INCH)} mm`;
  return (
    <Section name="finish" title="Finish" line={step.on ? summaryOf(step) : 'off'}>
      <Form.Check
        type="switch"
        id="sharpen-on"
        label="Unsharp mask on luminance"
        checked={step.on}
        onChange={() =>
          change(
            step.on ? 'Sharpening off' : 'Sharpening on',
            ofStep('sharpen', (next) => (next.on = !step.on)),
          )
        }
      />
      <Slider
        label={`Radius (${inOther})`}
        value={radius}
        min={0.01}
        max={unit === 'mm' ? 5 : RADIUS_LIMIT}
        step={unit === 'mm' ? 0.01 : 0.1}
        usual={unit === 'mm' ? usual.radius : 1.5}
        unit={
          <select
            aria-label="Unit of the radius"
            value={unit}
            onChange={() => {
              const next = unit === 'mm' ? 'px' : 'mm';
              const value =
                unit === 'mm'
                  ? (radius / MM_PER_INCH) * trial.ppi
                  : (radius / trial.ppi) * MM_PER_INCH;
              const kept = Math.min(RADIUS_LIMIT, Math.max(0.01, Number(value.toFixed(2))));
              change(`Radius in ${next}`, put({ unit: next, radius: kept }));
            }}
          >
            <option>mm</option>
            <option>px</option>
          </select>
        }
        {...sets('radius', (value) => `Radius ${formatNumber(value)} ${unit}`)}
      />
      <Slider
        label="Amount"
        value={amount}
        min={0}
        max={300}
        step={1}
        usual={usual.amount}
        unit="%"
        {...sets('amount', (value) => `Amount ${value} %`)}
      />
      <Slider
        label="Threshold"
        value={threshold}
        min={0}
        max={32}
        step={0.5}
        usual={usual.threshold}
        unit="levels"
        {...sets('threshold', (value) => `Threshold ${value}`)}
      />
      <Reason bench={bench} step="sharpen" />
      {!original.vector && (
        <>
          <span className="field-label">After enlarging</span>
          <StepList bench={bench} phase="target" kinds={RETOUCHING} />
        </>
      )}
    </Section>
  );
}
