import { Choices } from '../../../parts/Choices';
import { useFinish, useOverlay } from '../../stage/overlays/overlay';
import type { WorkBench } from '../../use-work';
import { say } from '@/core/words/say';

/** What of Finish is looked at: all of it, nothing, or as it will look from the ordered distance. */
export function FinishLooks({ bench: { work, trial } }: { bench: WorkBench }) {
  const { way } = useFinish(trial);
  return (
    <div className="looking">
      <Choices
        name="finish-look"
        label={say`What of Finish is looked at`}
        value={way}
        options={[
          { value: 'all', label: say`Finished` },
          { value: 'without', label: say`Without`, title: say`For as long as F is held, too` },
          { value: 'from afar', label: say`From ${work.distance} m` },
          ...(way === 'solo' || way === 'layer'
            ? [{ value: way, label: way === 'solo' ? say`One alone` : say`Its layer` }]
            : []),
        ]}
        onChange={(next) => {
          if (next === 'solo' || next === 'layer') return;
          useOverlay.setState({ finish: { way: next } });
        }}
      />
    </div>
  );
}
