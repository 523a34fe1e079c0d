import { useDrag, usePinch, useWheel } from '@use-gesture/react';
import { useRef, type RefObject } from 'react';
import type { Size } from '@/core/raster/region';
import { usePicked } from '../../parts/use-picked';
import { paneUnder, type Pointer } from './pointed';
import { look, useViewport, WHOLE_PAPER, type Zoom } from './viewport';

/** Zooms that plus, minus and the wheel walk through, on the original's grid and the result's. */
const STEPS: Zoom[] = [
  { of: 'fit' },
  ...[1, 2, 4, 8, 16].map((scale) => ({ of: 'original' as const, scale })),
  ...[1, 2, 4].map((scale) => ({ of: 'result' as const, scale })),
];

/** What the wheel turns until another zoom is taken, in pixels of scrolling. */
const WHEEL_STEP = 50;
/** Fingers go so many times as far apart. */
const PINCH_STEP = 1.35;

const keepOnPaper = (share: number): number => Math.min(1, Math.max(0, share));

/** Whether something on the stage is to be pressed, rather than the picture moved. */
const isControl = (target: EventTarget | null): boolean =>
  target instanceof Element && target.closest('button, select, .self-test') !== null;

/** Dragging, fingers, wheel and keys on the stage. */
export function useNavigation(
  frame: RefObject<HTMLElement | null>,
  target: Size | null,
  /** device pixels to one result pixel, as it is now */
  scale: number,
  factor: number,
) {
  const { zoom: present } = usePicked(useViewport, 'zoom');

  const moveBy = (dx: number, dy: number) => {
    if (!target) return;
    const { centre } = useViewport.getState();
    const ratio = devicePixelRatio || 1;
    look({
      centre: {
        x: keepOnPaper(centre.x - (dx * ratio) / (scale * target.width)),
        y: keepOnPaper(centre.y - (dy * ratio) / (scale * target.height)),
      },
    });
  };

  const scaleOf = (zoom: Zoom): number =>
    zoom.of === 'result' ? zoom.scale : zoom.of === 'original' ? zoom.scale / factor : 0;

  /** The next zoom in or out of the present one, holding the place under the pointer. */
  const zoomBy = (direction: 1 | -1, at?: Pointer) => {
    if (!target) return;
    const ordered = STEPS.filter(
      (step) => step.of !== 'original' || scaleOf(step) < 0.999 || present.of === 'original',
    ).sort((a, b) => scaleOf(a) - scaleOf(b));
    const next =
      direction > 0
        ? ordered.find((step) => scaleOf(step) > scale * 1.001)
        : ([...ordered]
            .reverse()
            .find((step) => scaleOf(step) > 0 && scaleOf(step) < scale * 0.999) ?? ordered[0]);
    if (next) zoomTo(next, at);
  };

  /** Another zoom, holding the place under the pointer. */
  const zoomTo = (next: Zoom, at?: Pointer) => {
    if (!target) return;
    const { centre } = useViewport.getState();
    const box = at && frame.current && paneUnder(frame.current, at)?.getBoundingClientRect();
    const nextScale = scaleOf(next);
    if (!at || !box || nextScale === 0) {
      look(nextScale === 0 ? WHOLE_PAPER : { zoom: next });
      return;
    }
    const ratio = devicePixelRatio || 1;
    const shift = (offset: number, side: number) =>
      ((offset * ratio) / side) * (1 / scale - 1 / nextScale);
    look({
      zoom: next,
      centre: {
        x: keepOnPaper(centre.x + shift(at.clientX - box.left - box.width / 2, target.width)),
        y: keepOnPaper(centre.y + shift(at.clientY - box.top - box.height / 2, target.height)),
      },
    });
  };

  /** whether two fingers are on the picture */
  const fingers = useRef(false);
  const dragging = useDrag(
    ({ delta, event, first, cancel }) => {
      // Two fingers move it as well, between them.
      if (fingers.current || (first && isControl(event.target))) cancel();
      else moveBy(...delta);
    },
    { pointer: { keys: false } },
  );
  /** how far fingers have moved apart since the zoom changed last */
  const pinched = useRef(1);
  const between = useRef<[number, number]>([0, 0]);
  usePinch(
    ({ first, last, movement: [apart], origin: [x, y], event }) => {
      event.preventDefault();
      fingers.current = !last;
      if (first) {
        pinched.current = 1;
        between.current = [x, y];
      }
      const [u, v] = between.current;
      between.current = [x, y];
      if (event.type !== 'wheel') moveBy(x - u, y - v);
      const since = apart / pinched.current;
      if (since < PINCH_STEP && since > 1 / PINCH_STEP) return;
      pinched.current = apart;
      zoomBy(since > 1 ? 1 : -1, { clientX: x, clientY: y });
    },
    { target: frame, eventOptions: { passive: false } },
  );
  // React's own wheel listener is passive and can't keep the page from scrolling.
  const gathered = useRef(0);
  useWheel(
    ({ event, delta: [, down] }) => {
      // With Ctrl it is a pinch.
      if (isControl(event.target) || event.ctrlKey) return;
      event.preventDefault();
      gathered.current += down;
      if (Math.abs(gathered.current) < WHEEL_STEP) return;
      zoomBy(gathered.current < 0 ? 1 : -1, event);
      gathered.current = 0;
    },
    { target: frame, eventOptions: { passive: false } },
  );

  return {
    ...dragging(),
    /** To 1:1 at the pointer, or back to the whole. */
    onDoubleClick(event: React.MouseEvent) {
      if (isControl(event.target)) return;
      if (scale >= 1) look(WHOLE_PAPER);
      else zoomTo({ of: 'result', scale: 1 }, event);
    },
    onKeyDown(event: React.KeyboardEvent) {
      if (isControl(event.target)) return;
      const far = event.shiftKey ? 200 : 40;
      const moves: Record<string, [number, number]> = {
        ArrowLeft: [far, 0],
        ArrowRight: [-far, 0],
        ArrowUp: [0, far],
        ArrowDown: [0, -far],
      };
      const move = moves[event.key];
      if (move) {
        event.preventDefault();
        moveBy(...move);
      }
      if (event.key === '+' || event.key === '=') zoomBy(1);
      if (event.key === '-') zoomBy(-1);
    },
  };
}
