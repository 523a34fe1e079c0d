import { Columns2, Minus, Plus, Rows2 } from 'lucide-react';
import { IconSwitch } from '../../../../parts/IconSwitch';
import { usePicked } from '../../../../parts/use-picked';
import { PaneCaption } from '../compared/PaneCaption';
import { SidePane } from '../compared/SidePane';
import { useBusy } from '../compared/use-busy';
import { useHolding } from '../compared/use-holding';
import { useLooking } from '../mode';
import type { ModeView, SceneProps } from '../view';
import { say } from '@/core/words/say';

/** Pixels between two panes. */
const GAP = 2;

/** Two or three beside or above each other, the result last: the same place on paper. */
function SideBySide({ bench, compared, view, ...rest }: SceneProps) {
  const { beside, after } = compared;
  const holding = useHolding(rest.shown);
  const hear = useBusy(rest.onBusy);
  const { stacked, together } = usePicked(useLooking, 'stacked', 'together');
  const shared = {
    resolved: rest.resolved,
    view: sideBySide.pane(view, { together, stacked }),
    onTrouble: rest.onTrouble,
  };
  const panes = [
    ...beside.map((side, i) => ({ side, of: i })),
    { side: after, of: 'result' as const },
  ];
  return (
    <div className={`beside ${stacked ? 'stacked' : ''}`} style={{ gap: GAP }}>
      {panes.map(({ side, of }, i) => (
        // While the original is held the result is out of sight.
        <div className="pane-cell" key={of} style={{ opacity: holding && of === 'result' ? 0 : 1 }}>
          <div className="pane">
            <SidePane side={side} {...shared} onBusy={hear(i)} />
          </div>
          <PaneCaption
            {...{ bench, compared, of }}
            at={of === 'result' && !stacked && panes.length === 2 ? 'right' : 'left'}
          />
        </div>
      ))}
    </div>
  );
}

function Options() {
  const { stacked, together } = usePicked(useLooking, 'stacked', 'together');
  return (
    <>
      <IconSwitch
        label={together === 2 ? say`Three of them` : say`Two of them`}
        Icon={together === 2 ? Plus : Minus}
        onPress={() => useLooking.setState({ together: together === 2 ? 3 : 2 })}
      />
      <IconSwitch
        label={stacked ? say`Beside each other (L)` : say`One above the other (L)`}
        Icon={stacked ? Columns2 : Rows2}
        onPress={() => useLooking.setState({ stacked: !stacked })}
      />
    </>
  );
}

export const sideBySide: ModeView = {
  Scene: SideBySide,
  Options,
  pane: ({ width, height }, { together, stacked }) => {
    const part = (side: number) => Math.floor((side - (together - 1) * GAP) / together);
    return stacked ? { width, height: part(height) } : { width: part(width), height };
  },
  others: ({ together }) => together - 1,
  moves: true,
  overlaid: true,
};
