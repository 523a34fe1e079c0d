import type { Size } from '@/core/raster/region';
import { PaneCaption } from '../compared/PaneCaption';
import { SidePane } from '../compared/SidePane';
import { useBusy } from '../compared/use-busy';
import type { ModeView, SceneProps } from '../view';

/** Pixels between two panes. */
const GAP = 2;

/** Four on the same place: three that stand beside the result, and the result last. */
function Grid({ bench, compared, view, ...rest }: SceneProps) {
  const hear = useBusy(rest.onBusy);
  const { beside, after } = compared;
  const panes = [
    ...beside.map((side, i) => ({ side, of: i })),
    { side: after, of: 'result' as const },
  ];
  return (
    <div className="pane-grid" style={{ gap: GAP }}>
      {panes.map(({ side, of }, i) => (
        <div className="pane-cell" key={of}>
          <div className="pane">
            <SidePane
              {...{ side }}
              resolved={rest.resolved}
              view={paneIn(view)}
              onTrouble={rest.onTrouble}
              onBusy={hear(i)}
            />
          </div>
          <PaneCaption {...{ bench, compared, of }} at="left" />
        </div>
      ))}
    </div>
  );
}

const paneIn = ({ width, height }: Size): Size => ({
  width: Math.floor((width - GAP) / 2),
  height: Math.floor((height - GAP) / 2),
});

export const grid: ModeView = {
  Scene: Grid,
  pane: paneIn,
  others: () => 3,
  moves: true,
  overlaid: false,
};
