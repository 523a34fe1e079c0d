import { Caption, SidePane } from '../compared/SidePane';
import { useHolding } from '../compared/use-holding';
import { useLooking } from '../mode';
import { wholeView, type ModeView, type SceneProps } from '../view';
import { Divider } from './Divider';

/** The original over the result, cut at a divider. */
function Wipe({ compared, frame, view, ...rest }: SceneProps) {
  const { before, after } = compared;
  const holding = useHolding(rest.shown);
  const divider = useLooking((looking) => looking.divider);
  const cut = holding ? undefined : { clipPath: `inset(0 ${(1 - divider) * 100}% 0 0)` };
  const shared = { resolved: rest.resolved, view, onTrouble: rest.onTrouble };
  return (
    <>
      {/* The original comes first, so that its pixels are asked for first; it lies on top. */}
      <div className="pane on-top" style={cut}>
        <SidePane side={before} {...shared} />
      </div>
      <div className="pane">
        <SidePane side={after} {...shared} onBusy={rest.onBusy} />
      </div>
      {!holding && <Divider frame={frame} />}
      <Caption side={before} at="left" />
      {!holding && <Caption side={after} at="right" />}
    </>
  );
}

export const wipe: ModeView = { Scene: Wipe, pane: wholeView, moves: true, overlaid: true };
