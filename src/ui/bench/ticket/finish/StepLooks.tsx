import { Eye, Layers } from 'lucide-react';
import { hasLayer } from '@/core/recipe/finish';
import { stageOf, stepOfKind, type StepChoice } from '@/core/steps';
import { useOverlay } from '../../stage/overlays/overlay';
import { look } from '../../stage/viewport';

/** Looks at one step of Finish by itself, or at what it lays over the picture. */
export function StepLooks({ step, index }: { step: StepChoice; index: number }) {
  const finish = useOverlay((overlay) => overlay.finish);
  const { title } = stepOfKind(step.kind);
  if (step.kind === 'enlarge') return null;
  const toggle = (way: 'solo' | 'layer') => {
    const on = finish.way === way && finish.step === index;
    useOverlay.setState({ finish: on ? { way: 'all' } : { way, step: index } });
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
        <Eye size={13} /> {title} alone
      </button>
      {step.kind !== 'inset' && hasLayer(step.kind) && (
        <button
          type="button"
          className="text-button"
          aria-pressed={pressed('layer')}
          onClick={() => toggle('layer')}
        >
          <Layers size={13} /> See {stageOf({ kind: step.kind }).layer!.title}
        </button>
      )}
    </div>
  );
}
