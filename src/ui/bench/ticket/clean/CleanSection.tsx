import { listedIn } from '@/core/recipe/order';
import { Choices } from '../../../parts/Choices';
import type { WorkBench } from '../../use-work';
import { useOverlay, type Removed } from '../../stage/overlays/overlay';
import { Section } from '../Section';
import { CleaningFigures } from './CleaningFigures';
import { StepList, stepsLine } from '../steps/StepList';
import { Zones } from '../zones/Zones';
import { look } from '../../stage/viewport';
import { say } from '@/core/words/say';

const CLEANING = listedIn('original');

const REMOVED: { value: Removed; label: string }[] = [
  { value: 'off', label: say`Picture` },
  { value: '1', label: '× 1' },
  { value: '4', label: '× 4' },
  { value: '12', label: '× 12' },
];

/** Everything that is done at the original's size. */
export function CleanSection({ bench }: { bench: WorkBench }) {
  const { trial, original, work } = bench;
  const removed = useOverlay((overlay) => overlay.removed);
  const rests = original.vector
    ? say`Drawn from shapes: there is nothing to clean.`
    : trial.pixels === 'kept'
      ? say`Only the size tag is set: the pixels stay as they are.`
      : null;
  if (rests) {
    return (
      <Section bench={bench} name="clean" title={say`Clean`} line={say`nothing to do`}>
        <p className="reason">{rests}</p>
      </Section>
    );
  }
  return (
    <Section bench={bench} name="clean" title={say`Clean`} line={stepsLine(bench, 'original')}>
      <CleaningFigures bench={bench} />
      {work.framing.grid && (
        <p className="reason mb-0">
          {say`Taken back to its true grid: nothing of compression is left to clean.`}
        </p>
      )}
      <StepList bench={bench} phase="original" kinds={CLEANING} />
      <Zones bench={bench} />
      <div className="looking">
        <span className="field-label">{say`Show only what was removed`}</span>
        <Choices
          name="removed"
          label={say`Show only what was removed`}
          className="figure"
          value={removed}
          options={REMOVED}
          onChange={(value) => {
            useOverlay.setState({ removed: value });
            if (value !== 'off') look({ zoom: { of: 'original', scale: 2 } });
          }}
        />
      </div>
      <p className="soft mb-0">
        {say`Works on the original’s own grid.`}{' '}
        <button
          type="button"
          className="text-button"
          onClick={() => look({ zoom: { of: 'original', scale: 4 } })}
        >
          {say`Look there at 4:1`}
        </button>
      </p>
    </Section>
  );
}
