import { PaneCaption } from '../compared/PaneCaption';
import { SidePane } from '../compared/SidePane';
import { useHolding } from '../compared/use-holding';
import { wholeView, type ModeView, type SceneProps } from '../view';

/** The result, or the original for as long as its key is held. */
function Alone({ bench, compared, view, ...rest }: SceneProps) {
  const { before, after } = compared;
  const holding = useHolding(rest.shown);
  const shared = { resolved: rest.resolved, view, onTrouble: rest.onTrouble };
  return (
    <>
      {holding && (
        <div className="pane on-top">
          <SidePane side={before} {...shared} />
        </div>
      )}
      <div className="pane">
        <SidePane side={after} {...shared} onBusy={rest.onBusy} />
      </div>
      <PaneCaption {...{ bench, compared }} of={holding ? 0 : 'result'} at="left" />
    </>
  );
}

export const alone: ModeView = { Scene: Alone, pane: wholeView, moves: true, overlaid: true };
