import { ArrowDown, ArrowUp, Trash2 } from 'lucide-react';
import { Form } from 'react-bootstrap';
import { phasesOf, stepOfKind, summaryOf, type StepChoice } from '@/core/steps';
import { moveStep } from '@/core/recipe/order';
import { stepOf } from '@/core/recipe/work';
import { Slider } from '../../../parts/Slider';
import { ofStepAt, slides, type WorkBench } from '../../use-work';
import { endSpotting } from '../../stage/tools/tool';
import { useOpen } from '../open';
import { Reason } from '../Reason';
import { StepLooks } from '../finish/StepLooks';
import { SPECIAL } from './special';
import { StepControls } from './StepControls';
import { ZoneField } from '../zones/ZoneField';
import { say } from '@/core/words/say';

interface Props {
  bench: WorkBench;
  step: StepChoice;
  /** where it stands in the treatment */
  index: number;
}

/** A summary where the step's title stands beside it: what that says already is left out. */
function beside(title: string, summary: string): string {
  const name = title.toLowerCase();
  const said = [name, name.split(' ')[0]!].find((start) => summary.startsWith(`${start} `));
  return said ? summary.slice(said.length + 1) : summary;
}

/** One step: switched in its row, set in what the row opens. */
export function StepRow({ bench, step, index }: Props) {
  const { change, work } = bench;
  const open = useOpen((state) => state.step === index);
  const openStep = (to: number | null) => {
    useOpen.setState({ step: to });
    endSpotting();
  };
  const { title } = stepOfKind(step.kind);
  const Special = SPECIAL[step.kind];
  const zone = work.zones.find(({ id }) => id === step.zone);
  const finishing = phasesOf(bench.trial.treatment)[index] === 'target';
  const strength = (value: number) => ofStepAt(index, (next) => (next.strength = value));
  return (
    <div className={`step ${open ? 'open' : ''} ${step.on ? '' : 'off'}`}>
      <div className="step-head">
        <Form.Check
          type="switch"
          aria-label={say`${title} on`}
          checked={step.on}
          onChange={() =>
            change(
              step.on ? say`${title} off` : say`${title} on`,
              ofStepAt(index, (next) => {
                next.on = !step.on as never;
                if (next.on && next.strength === 0) next.strength = 100;
              }),
            )
          }
        />
        <button type="button" aria-expanded={open} onClick={() => openStep(open ? null : index)}>
          <span className="step-name">{title}</span>
          <span className="figure">
            {step.on ? beside(title, summaryOf(step)) : say`off`}
            {zone && ` · ${step.elsewhere ? say`everywhere but ` : ''}${zone.name}`}
          </span>
        </button>
      </div>
      {open && (
        <div className="step-body">
          {Special && <Special bench={bench} step={step} index={index} />}
          <StepControls bench={bench} step={step} index={index} />
          {finishing && <StepLooks bench={bench} step={step} index={index} />}
          {stepOfKind(step.kind).belongsTo !== 'picture' && (
            <>
              <Slider
                label={say`Strength`}
                value={step.strength}
                min={0}
                max={100}
                step={1}
                unit="%"
                usual={100}
                {...slides(bench, strength, (value) => `${title} ${value} %`)}
              />
              <ZoneField bench={bench} step={step} index={index} />
            </>
          )}
          {stepOf(bench.trial.treatment, step.kind) === step && (
            <Reason bench={bench} step={step.kind} />
          )}
          <div className="step-moves">
            <MoveButton {...{ bench, index, title }} by={-1} />
            <MoveButton {...{ bench, index, title }} by={1} />
          </div>
          <button
            type="button"
            className="text-button"
            onClick={() => {
              change(say`${title} removed`, (_, next) => {
                next.treatment.splice(index, 1);
              });
              openStep(null);
            }}
          >
            <Trash2 size={13} /> {say`Remove`}
          </button>
        </div>
      )}
    </div>
  );
}

interface MoveProps {
  bench: WorkBench;
  index: number;
  title: string;
  by: -1 | 1;
}

/** Moves a step by one place, on its side of the enlargement. */
function MoveButton({ bench: { trial, change }, index, title, by }: MoveProps) {
  const to = moveStep([...trial.treatment], index, by);
  const [Icon, words] = by < 0 ? [ArrowUp, 'earlier'] : [ArrowDown, 'later'];
  return (
    <button
      type="button"
      className="text-button"
      disabled={to === index}
      onClick={() => {
        change(`${title} ${words}`, (_, next) => void moveStep(next.treatment, index, by));
        useOpen.setState({ step: to });
      }}
    >
      <Icon size={13} /> {by < 0 ? say`Earlier` : say`Later`}
    </button>
  );
}
