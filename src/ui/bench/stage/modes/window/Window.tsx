import { ArrowLeftRight } from 'lucide-react';
import { useDrag } from '@use-gesture/react';
import { IconSwitch } from '../../../../parts/IconSwitch';
import { usePicked } from '../../../../parts/use-picked';
import { PaneCaption } from '../compared/PaneCaption';
import { SidePane } from '../compared/SidePane';
import { useBusy } from '../compared/use-busy';
import { useLooking } from '../mode';
import { wholeView, type ModeView, type SceneProps } from '../view';
import { say } from '@/core/words/say';

/** A frame that is carried over one of both, in which the other shows. */
function Window({ bench, compared, frame, view, ...rest }: SceneProps) {
  const { window: place, inside } = usePicked(useLooking, 'window', 'inside');
  const hear = useBusy(rest.onBusy);
  const [inner, outer] =
    inside === 'result' ? [compared.after, compared.before] : [compared.before, compared.after];
  const percent = (share: number) => `${share * 100}%`;
  const { x, y, width, height } = place;
  const clip = [y, 1 - x - width, 1 - y - height, x].map((share) => percent(Math.max(0, share)));
  const shared = { resolved: rest.resolved, view, onTrouble: rest.onTrouble };
  const result = inside === 'result';
  return (
    <>
      <div className="pane">
        <SidePane side={outer} {...shared} onBusy={hear(0)} />
      </div>
      <div className="pane on-top" style={{ clipPath: `inset(${clip.join(' ')})` }}>
        <SidePane side={inner} {...shared} onBusy={hear(1)} />
      </div>
      <Frame frame={frame} />
      <PaneCaption {...{ bench, compared }} of={result ? 0 : 'result'} at="left" />
      <div
        className="in-window"
        style={{ left: percent(x), top: percent(y), width: percent(width) }}
      >
        <PaneCaption {...{ bench, compared }} of={result ? 'result' : 0} at="left" />
      </div>
    </>
  );
}

const LEAST = 0.08;
/** How far keys carry it, in shares of the stage. */
const STEP = 0.02;

/** Moves the frame, or its lower right corner, by shares of the stage; it stays on it. */
function change(dx: number, dy: number, corner: boolean): void {
  const { window: at } = useLooking.getState();
  const within = (value: number, least: number, most: number) =>
    Math.min(most, Math.max(least, value));
  useLooking.setState({
    window: corner
      ? {
          ...at,
          width: within(at.width + dx, LEAST, 1 - at.x),
          height: within(at.height + dy, LEAST, 1 - at.y),
        }
      : {
          ...at,
          x: within(at.x + dx, 0, 1 - at.width),
          y: within(at.y + dy, 0, 1 - at.height),
        },
  });
}

/** What a handle is dragged by. */
const useChanging = (frame: SceneProps['frame'], corner: boolean) =>
  useDrag(
    ({ delta: [dx, dy] }) => {
      const { width, height } = frame.current!.getBoundingClientRect();
      change(dx / width, dy / height, corner);
    },
    { pointer: { keys: false } },
  )();

/** The frame itself: carried by its rim, sized by its corner, both also by the arrow keys. */
function Frame({ frame }: Pick<SceneProps, 'frame'>) {
  const place = useLooking((looking) => looking.window);
  const move = useChanging(frame, false);
  const size = useChanging(frame, true);
  const keys = (corner: boolean) => (event: React.KeyboardEvent) => {
    const by = event.shiftKey ? 5 * STEP : STEP;
    const moves: Record<string, [number, number]> = {
      ArrowLeft: [-by, 0],
      ArrowRight: [by, 0],
      ArrowUp: [0, -by],
      ArrowDown: [0, by],
    };
    const to = moves[event.key];
    if (!to) return;
    event.preventDefault();
    event.stopPropagation();
    change(...to, corner);
  };
  const handle = (corner: boolean, bind: ReturnType<typeof useChanging>) => ({
    role: 'group',
    tabIndex: 0,
    'aria-label': corner
      ? say`Size of the window: arrow keys`
      : say`Place of the window: arrow keys`,
    ...bind,
    onPointerDown: (event: React.PointerEvent) => {
      // The picture beneath stays where it is.
      event.stopPropagation();
      bind.onPointerDown?.(event);
    },
    onKeyDown: keys(corner),
  });
  const percent = (share: number) => `${share * 100}%`;
  return (
    <div
      className="window-frame"
      style={{
        left: percent(place.x),
        top: percent(place.y),
        width: percent(place.width),
        height: percent(place.height),
      }}
    >
      <div className="window-rim" {...handle(false, move)} />
      <div className="window-corner" {...handle(true, size)} />
    </div>
  );
}

function Options() {
  const inside = useLooking((looking) => looking.inside);
  return (
    <IconSwitch
      label={inside === 'result' ? say`The other way round` : say`The result in the window again`}
      Icon={ArrowLeftRight}
      onPress={() => useLooking.setState({ inside: inside === 'result' ? 'other' : 'result' })}
    />
  );
}

export const windowed: ModeView = {
  Scene: Window,
  Options,
  pane: wholeView,
  shows: ({ window: place, inside }) => (inside === 'result' ? place : null),
  moves: true,
  overlaid: false,
};
