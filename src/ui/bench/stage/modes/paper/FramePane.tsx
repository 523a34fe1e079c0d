import { useDrag } from '@use-gesture/react';
import { useMemo, useRef, type ReactNode } from 'react';
import { WHOLE, type Grip } from '@/core/frame/arrange';
import { frameSize, type Rect } from '@/core/frame/framing';
import type { Size } from '@/core/raster/region';
import { framingOf } from '@/core/recipe/plan';
import type { Recipe } from '@/core/recipe/recipe';
import type { WorkBench } from '../../../use-work';
import { frameLayer, placeOf } from '../../panes/layers';
import { Pane } from '../../panes/Pane';
import type { PaneOriginal } from '../../../preview-original';
import { say } from '@/core/words/say';

/** A rectangle that is drawn but not dragged: bleed outside, safe margin inside. */
export interface Guide {
  rect: Rect;
  kind: 'bleed' | 'safe';
}

interface Props {
  bench: WorkBench;
  original: PaneOriginal;
  recipe: Recipe;
  /** device pixels of the stage */
  view: Size;
  /** what is dragged, in pixels of the frame */
  rect: Rect;
  guides?: readonly Guide[];
  /** parts that stay bare, and the colour that they have then, in pixels of the frame */
  bare?: { colour: string; parts: readonly Rect[] };
  /** fine lines to hold horizons and plumb lines against */
  ruled?: boolean;
  /** what stands at the rectangle */
  caption: ReactNode;
  name: string;
  /** while it is dragged: how far, in pixels of the frame, from where it was */
  onDrag(grip: Grip, by: { x: number; y: number }): void;
  /** at the end of a drag, or for a key */
  onDrop(grip: Grip, by: { x: number; y: number }): void;
  /** where a drag is broken off */
  onGiveUp(): void;
  onTrouble(words: string | null): void;
}

const GRIPS: { grip: Grip; cursor: string; words: string }[] = [
  { grip: { x: -1, y: -1 }, cursor: 'nwse-resize', words: say`upper left corner` },
  { grip: { x: 0, y: -1 }, cursor: 'ns-resize', words: say`upper side` },
  { grip: { x: 1, y: -1 }, cursor: 'nesw-resize', words: say`upper right corner` },
  { grip: { x: 1, y: 0 }, cursor: 'ew-resize', words: say`right side` },
  { grip: { x: 1, y: 1 }, cursor: 'nwse-resize', words: say`lower right corner` },
  { grip: { x: 0, y: 1 }, cursor: 'ns-resize', words: say`lower side` },
  { grip: { x: -1, y: 1 }, cursor: 'nesw-resize', words: say`lower left corner` },
  { grip: { x: -1, y: 0 }, cursor: 'ew-resize', words: say`left side` },
];

/** Room left about the picture, in CSS pixels. */
const ROOM = 44;

/** The whole picture with a rectangle on it that is dragged by its corners, sides, or as a whole. */
export function FramePane(props: Props) {
  const { bench, original, recipe, view, rect, guides = [], bare, ruled, caption, name } = props;
  const frame = frameSize(bench.original.size, framingOf(bench.original, bench.work));
  const dragged = useRef(false);
  const shown = useRef<Rect>(rect);
  // While something is dragged the picture stays where it is.
  if (!dragged.current)
    shown.current = union([{ x: 0, y: 0, ...frame }, rect, ...guides.map((guide) => guide.rect)]);
  const ratio = globalThis.devicePixelRatio || 1;
  const room = 2 * ROOM * ratio;
  const scale = Math.min(
    Math.max(1, view.width - room) / shown.current.width,
    Math.max(1, view.height - room) / shown.current.height,
    16,
  );
  const held = shown.current;
  const layer = useMemo(
    () => frameLayer(original, recipe, { width: frame.width, height: frame.height }, scale, held),
    [original, recipe, frame.width, frame.height, scale, held],
  );
  const { left, top } = placeOf(layer, CENTRE, view);
  const place = ({ x, y, width, height }: Rect) => ({
    left: (left + x * scale) / ratio,
    top: (top + y * scale) / ratio,
    width: (width * scale) / ratio,
    height: (height * scale) / ratio,
  });
  const drag = useDrag(
    ({ args, movement: [dx, dy], first, last, canceled }) => {
      const [grip] = args as [Grip];
      const by = { x: (dx * ratio) / scale, y: (dy * ratio) / scale };
      if (first) dragged.current = true;
      if (!last) props.onDrag(grip, by);
      else {
        dragged.current = false;
        if (canceled) props.onGiveUp();
        else if (by.x !== 0 || by.y !== 0) props.onDrop(grip, by);
      }
    },
    { pointer: { keys: false } },
  );
  const handlers = (grip: Grip) => {
    const bound = drag(grip);
    return {
      ...bound,
      onPointerDown(event: React.PointerEvent) {
        // Neither the picture nor what the grip belongs to moves.
        event.stopPropagation();
        bound.onPointerDown?.(event);
      },
      onPointerCancel(event: React.PointerEvent) {
        bound.onPointerCancel?.(event);
        props.onGiveUp();
      },
    };
  };
  const onKeyDown = (event: React.KeyboardEvent) => {
    const far = event.shiftKey ? 10 : 1;
    const step = Math.max(1, rect.width / 200) * far;
    const moves: Record<string, [number, number]> = {
      ArrowLeft: [-step, 0],
      ArrowRight: [step, 0],
      ArrowUp: [0, -step],
      ArrowDown: [0, step],
    };
    const move = moves[event.key];
    const grow = { '+': 1, '=': 1, '-': -1 }[event.key];
    if (!move && !grow) return;
    event.preventDefault();
    event.stopPropagation();
    if (move) props.onDrop(WHOLE, { x: move[0], y: move[1] });
    if (grow) {
      const share = (grow * step) / rect.width;
      props.onDrop({ x: 1, y: 1 }, { x: rect.width * share, y: rect.height * share });
    }
  };
  const box = place(rect);
  return (
    <div className="pane arrangement">
      <Pane
        layer={layer}
        centre={CENTRE}
        view={view}
        name={say`The whole picture`}
        onTrouble={props.onTrouble}
        onBusy={ignore}
      />
      {bare?.parts.map((part, i) => (
        <div
          key={i}
          className="bare"
          style={{ ...place(part), backgroundColor: bare.colour }}
          aria-hidden
        />
      ))}
      <div
        className={`laid ${ruled ? 'ruled' : ''}`}
        style={box}
        tabIndex={0}
        role="application"
        aria-label={say`${name}: arrow keys move it, + and - change it`}
        onKeyDown={onKeyDown}
        {...handlers(WHOLE)}
      >
        {GRIPS.map(({ grip, cursor, words }) => (
          <i
            key={words}
            className={`grip ${grip.x && grip.y ? 'corner' : 'side'}`}
            aria-hidden
            title={words}
            style={{ left: `${50 + grip.x * 50}%`, top: `${50 + grip.y * 50}%`, cursor }}
            {...handlers(grip)}
          />
        ))}
      </div>
      {guides.map((guide) => (
        <div key={guide.kind} className={`guide ${guide.kind}`} style={place(guide.rect)} />
      ))}
      <div
        className="laid-caption"
        style={{
          left: Math.min(Math.max(box.left, 8), view.width / ratio - 330),
          top: Math.max(8, box.top - 34),
        }}
      >
        {caption}
      </div>
    </div>
  );
}

const CENTRE = { x: 0.5, y: 0.5 };
const ignore = () => {};

function union(rects: readonly Rect[]): Rect {
  const x = Math.min(...rects.map((rect) => rect.x));
  const y = Math.min(...rects.map((rect) => rect.y));
  return {
    x,
    y,
    width: Math.max(...rects.map((rect) => rect.x + rect.width)) - x,
    height: Math.max(...rects.map((rect) => rect.y + rect.height)) - y,
  };
}
