import { Caption, SidePane } from '../compared/SidePane';
import { useHolding } from '../compared/use-holding';
import type { ModeView, SceneProps } from '../view';

/** Pixels between the two panes. */
const GAP = 2;

/** The original at the left, the result at the right: the same place on paper. */
function SideBySide({ compared, view, ...rest }: SceneProps) {
  const { before, after } = compared;
  const holding = useHolding(rest.shown);
  const shared = {
    resolved: rest.resolved,
    view: sideBySide.pane(view),
    onTrouble: rest.onTrouble,
  };
  return (
    <>
      <div className="pane" style={{ right: '50%', marginRight: GAP / 2 }}>
        <SidePane side={before} {...shared} />
        <Caption side={before} at="left" />
      </div>
      <div className="pane" style={{ left: '50%', marginLeft: GAP / 2, opacity: holding ? 0 : 1 }}>
        <SidePane side={after} {...shared} onBusy={rest.onBusy} />
        <Caption side={after} at="right" />
      </div>
    </>
  );
}

export const sideBySide: ModeView = {
  Scene: SideBySide,
  pane: ({ width, height }) => ({ width: Math.floor(width / 2) - GAP / 2, height }),
  moves: true,
  overlaid: true,
};
