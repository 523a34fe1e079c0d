import { useMemo } from 'react';
import { usePicked } from '../../../../parts/use-picked';
import type { Layer } from '../../panes/layers';
import { PaneCaption } from '../compared/PaneCaption';
import { SidePane } from '../compared/SidePane';
import type { Compared, Side } from '../compared/use-compared';
import { GAINS, useLooking, type Gain } from '../mode';
import { wholeView, type ModeView, type SceneProps } from '../view';
import { say } from '@/core/words/say';

/** How the result differs from what it is compared with, pixel by pixel. */
function Difference({ bench, compared, view, ...rest }: SceneProps) {
  const { gain, absolute } = usePicked(useLooking, 'gain', 'absolute');
  const side = useMemo(() => differing(compared, gain, absolute), [compared, gain, absolute]);
  return (
    <>
      {side ? (
        <div className="pane">
          <SidePane
            {...{ side, view }}
            resolved={rest.resolved}
            onTrouble={rest.onTrouble}
            onBusy={rest.onBusy}
          />
        </div>
      ) : (
        <p className="stage-message" role="status">
          {say`${compared.after.name} and ${compared.before.name} have pixels of another size each: they can’t be subtracted. Look at them side by side.`}
        </p>
      )}
      <PaneCaption {...{ bench, compared }} of={0} at="left" />
      {side && (
        <div className="caption right">
          <b>{compared.after.caption.name}</b>
          {absolute ? say`differs by` : say`less it, about grey`}
          <span className="figure">× {gain}</span>
        </div>
      )}
    </>
  );
}

/** The result's side as its difference; null where both have different pixels. */
function differing({ before, after }: Compared, gain: Gain, absolute: boolean): Side | null {
  const { recipe, original, size }: Layer = before.layer;
  const { layer } = after;
  if (size.width !== layer.size.width || size.height !== layer.size.height) return null;
  // What is brighter than it is compared with shows brighter than grey.
  const against = { recipe, original, gain: absolute ? gain : -gain, absolute };
  return { ...after, name: say`Difference of ${after.name}`, layer: { ...layer, against } };
}

/** Signed differences are about grey, others on black. */
const SIGNS = [
  { absolute: false, title: say`About grey`, sign: '± ' },
  { absolute: true, title: say`On black`, sign: '' },
];

function Options() {
  const { gain, absolute } = usePicked(useLooking, 'gain', 'absolute');
  const valueOf = (one: boolean, times: number) => `${one ? 'absolute' : 'signed'} ${times}`;
  return (
    <select
      className="list-choice"
      aria-label={say`How differences are shown`}
      value={valueOf(absolute, gain)}
      onChange={({ target: { value } }) => {
        const [how, times] = value.split(' ');
        useLooking.setState({ absolute: how === 'absolute', gain: Number(times) as Gain });
      }}
    >
      {SIGNS.map((one) => (
        <optgroup key={one.title} label={one.title}>
          {GAINS.map((times) => (
            <option key={times} value={valueOf(one.absolute, times)}>
              {one.sign}× {times}
            </option>
          ))}
        </optgroup>
      ))}
    </select>
  );
}

export const difference: ModeView = {
  Scene: Difference,
  Options,
  pane: wholeView,
  moves: true,
  overlaid: false,
};
