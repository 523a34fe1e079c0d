import { MoveHorizontal, MoveVertical } from 'lucide-react';
import { IconSwitch } from '../../../../parts/IconSwitch';
import { PaneCaption } from '../compared/PaneCaption';
import { SidePane } from '../compared/SidePane';
import { useBusy } from '../compared/use-busy';
import { useHolding } from '../compared/use-holding';
import { useLooking } from '../mode';
import { wholeView, type ModeView, type SceneProps } from '../view';
import { Divider } from './Divider';
import { say } from '@/core/words/say';

/** What is compared over the result, cut at a divider. */
function Wipe({ bench, compared, frame, view, ...rest }: SceneProps) {
  const { before, after } = compared;
  const holding = useHolding(rest.shown);
  const hear = useBusy(rest.onBusy);
  const divider = useLooking((looking) => looking.divider);
  const level = useLooking((looking) => looking.level);
  const beyond = `${(1 - divider) * 100}%`;
  const cut = holding
    ? undefined
    : { clipPath: level ? `inset(0 0 ${beyond} 0)` : `inset(0 ${beyond} 0 0)` };
  const shared = { resolved: rest.resolved, view, onTrouble: rest.onTrouble };
  return (
    <>
      {/* It comes first, so that its pixels are asked for first; it lies on top. */}
      <div className="pane on-top" style={cut}>
        <SidePane side={before} {...shared} onBusy={hear(1)} />
      </div>
      <div className="pane">
        <SidePane side={after} {...shared} onBusy={hear(0)} />
      </div>
      {!holding && <Divider frame={frame} level={level} />}
      <PaneCaption {...{ bench, compared }} of={0} at="left" />
      {!holding && (
        <div className={level ? 'below' : undefined}>
          <PaneCaption {...{ bench, compared }} of="result" at={level ? 'left' : 'right'} />
        </div>
      )}
    </>
  );
}

function Options() {
  const level = useLooking((looking) => looking.level);
  return (
    <IconSwitch
      label={level ? say`Divider upright (L)` : say`Divider level (L)`}
      Icon={level ? MoveHorizontal : MoveVertical}
      onPress={() => useLooking.setState({ level: !level })}
    />
  );
}

export const wipe: ModeView = {
  Scene: Wipe,
  Options,
  pane: wholeView,
  shows: ({ divider, level }) =>
    level
      ? { x: 0, y: divider, width: 1, height: 1 - divider }
      : { x: divider, y: 0, width: 1 - divider, height: 1 },
  moves: true,
  overlaid: true,
};
