import { Repeat2 } from 'lucide-react';
import { useEffect } from 'react';
import { IconSwitch } from '../../../../parts/IconSwitch';
import { usePicked } from '../../../../parts/use-picked';
import { PaneCaption } from '../compared/PaneCaption';
import { SidePane } from '../compared/SidePane';
import { useBusy } from '../compared/use-busy';
import { flip, PACES, useLooking, type Pace } from '../mode';
import { wholeView, type ModeView, type SceneProps } from '../view';
import { say } from '@/core/words/say';

/** Both in the same place, one after the other: what differs moves. */
function Blink({ bench, compared, view, ...rest }: SceneProps) {
  const { blinked, pace } = usePicked(useLooking, 'blinked', 'pace');
  const hear = useBusy(rest.onBusy);
  useEffect(() => {
    if (pace === 0) return;
    const beat = setInterval(flip, pace * 1000);
    return () => clearInterval(beat);
  }, [pace]);
  const shared = { resolved: rest.resolved, view, onTrouble: rest.onTrouble };
  return (
    <>
      {/* Both are kept ready, so that nothing is waited for. */}
      <div className="pane on-top" style={{ visibility: blinked ? 'visible' : 'hidden' }}>
        <SidePane side={compared.before} {...shared} onBusy={hear(1)} />
      </div>
      <div className="pane">
        <SidePane side={compared.after} {...shared} onBusy={hear(0)} />
      </div>
      <PaneCaption {...{ bench, compared }} of={blinked ? 0 : 'result'} at="left" />
      {!blinked && (
        <div className="below">
          <PaneCaption {...{ bench, compared }} of={0} at="left" before="blinks with" />
        </div>
      )}
    </>
  );
}

function Options() {
  const pace = useLooking((looking) => looking.pace);
  return (
    <>
      <IconSwitch label={say`The other one (V)`} Icon={Repeat2} onPress={flip} />
      <select
        className="list-choice"
        aria-label={say`Pace`}
        value={pace}
        onChange={(event) => useLooking.setState({ pace: Number(event.target.value) as Pace })}
      >
        {PACES.map((seconds) => (
          <option key={seconds} value={seconds}>
            {seconds === 0 ? say`by hand` : `${seconds} s`}
          </option>
        ))}
      </select>
    </>
  );
}

export const blink: ModeView = {
  Scene: Blink,
  Options,
  pane: wholeView,
  shows: ({ blinked }) => (blinked ? null : { x: 0, y: 0, width: 1, height: 1 }),
  moves: true,
  overlaid: false,
};
