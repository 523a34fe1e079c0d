import { Eye, Layers } from 'lucide-react';
import { hasLayer } from '@/core/recipe/finish';
import { stageOf, stepOfKind, type StepChoice } from '@/core/steps';
import { standing, useFinish, useOverlay } from '../../stage/overlays/overlay';
import { look } from '../../stage/viewport';
import type { WorkBench } from '../../use-work';
import { say } from '@/core/words/say';

interface Props {
  bench: WorkBench;
  step: StepChoice;
  index: number;
}

/** Looks at one step of Finish by itself, or at what it lays over the picture. */
export function StepLooks({ bench, step, index }: Props) {
  const { trial } = bench;
  const finish = useFinish(trial);
  const { title } = stepOfKind(step.kind);
  if (step.kind === 'enlarge') return null;
  const among = standing(trial.treatment);
  const toggle = (way: 'solo' | 'layer') => {
    const on = finish.way === way && finish.step === index;
    useOverlay.setState({ finish: on ? { way: 'all' } : { way, step: index, among } });
    // A layer shows what it is at the result's own pixels alone.
    if (!on && way === 'layer') look({ zoom: { of: 'result', scale: 1 } });
  };
  const pressed = (way: 'solo' | 'layer') => finish.way === way && finish.step === index;
  return (
    <div className="step-looks">
      <button
        type="button"
        className="text-button"
        aria-pressed={pressed('solo')}
        onClick={() => toggle('solo')}
      >
        <Eye size={13} /> {say`${title} alone`}
      </button>
      {step.kind !== 'inset' && hasLayer(step.kind) && (
        <button
          type="button"
          className="text-button"
          aria-pressed={pressed('layer')}
          onClick={() => toggle('layer')}
        >
          <Layers size={13} /> {say`See ${stageOf({ kind: step.kind }).layer!.title}`}
        </button>
      )}
    </div>
  );
}
