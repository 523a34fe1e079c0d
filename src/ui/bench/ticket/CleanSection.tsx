import { Form } from 'react-bootstrap';
import { summaryOf } from '@/core/steps';
import { stepOf } from '@/core/treatment/recipe';
import { Slider } from '../../parts/Slider';
import { ofStep, type WorkBench } from '../use-work';
import { useView } from '../view-store';
import { Reason } from './Reason';
import { Section } from './Section';

export function CleanSection({ bench }: { bench: WorkBench }) {
  const { trial, change, sketch, job, original, work } = bench;
  const set = useView((view) => view.set);
  const step = stepOf(trial.treatment, 'compression');
  if (!step) return null;
  const rests = original.vector
    ? 'Drawn from shapes: there is nothing to clean.'
    : work.framing.grid
      ? 'Taken back to its true grid: nothing of compression is left to clean.'
      : trial.pixels === 'kept'
        ? 'Only the size tag is set: the pixels stay as they are.'
        : null;
  if (rests) {
    return (
      <Section name="clean" title="Clean" line="nothing to do">
        <p className="reason">{rests}</p>
      </Section>
    );
  }
  const strength = (value: number) =>
    ofStep('compression', (next) => {
      next.strength = value;
      next.on = value > 0;
    });
  return (
    <Section
      name="clean"
      title="Clean"
      line={step.on ? summaryOf(step) : 'off'}
    >
      <Form.Check
        type="switch"
        id="clean-on"
        label="Take out compression blocks"
        checked={step.on}
        onChange={() =>
          change(
            step.on ? 'Cleaning off' : 'Cleaning on',
            ofStep('compression', (next) => {
              next.on = !step.on;
              if (next.on && next.strength === 0) next.strength = 70;
            }),
          )
        }
      />
      <Slider
        label="Strength"
        value={step.on ? step.strength : 0}
        min={0}
        max={100}
        step={1}
        unit="%"
        usual={100}
        onDrag={(value) => sketch(strength(value))}
        onSet={(value) => change(`Clean ${value} %`, strength(value))}
      />
      <Reason bench={bench} step="compression" />
      {!job.piece.findings.jpeg && (
        <p className="reason">
          The file carries no compression tables; those of a middling JPEG are assumed.
        </p>
      )}
      <p className="soft mb-0">
        Works on the original’s own grid.{' '}
        <button
          type="button"
          className="btn btn-link p-0 align-baseline"
          style={{ fontSize: 'inherit' }}
          onClick={() => set({ zoom: { of: 'original', scale: 4 } })}
        >
          Look there at 4:1
        </button>
      </p>
    </Section>
  );
}
