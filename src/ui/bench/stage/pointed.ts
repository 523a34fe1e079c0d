import type { Size } from '@/core/raster/region';
import type { PaperPlace } from '@/core/stops/apart';
import { useViewport } from './viewport';

/** Where a pointer is, in CSS pixels of the page. */
export type Pointer = Pick<PointerEvent, 'clientX' | 'clientY'>;

/** A place that is pointed at. */
export interface Pointed {
  /** device pixels from the upper left corner of its pane */
  u: number;
  v: number;
  /** pixel of the result */
  x: number;
  y: number;
}

/** What shows pictures on the stage. */
export const panesOf = (stage: HTMLElement): HTMLCanvasElement[] => [
  ...stage.querySelectorAll<HTMLCanvasElement>('.pane canvas[data-wanted]'),
];

/** The pane under a pointer. */
export const paneUnder = (
  stage: HTMLElement,
  { clientX, clientY }: Pointer,
): HTMLCanvasElement | undefined =>
  panesOf(stage).find((canvas) => {
    const { left, top, right, bottom } = canvas.getBoundingClientRect();
    return clientX >= left && clientX < right && clientY >= top && clientY < bottom;
  });

/**
 * The place under a pointer, of all panes alike; null beside the paper.
 * @param target size of the result in pixels
 * @param view device pixels of a pane, `scale` of it to one of the result
 */
export function pointedAt(
  stage: HTMLElement,
  { clientX, clientY }: Pointer,
  target: Size,
  { view, scale }: { view: Size; scale: number },
): Pointed | null {
  const pane = paneUnder(stage, { clientX, clientY });
  if (!pane) return null;
  const box = pane.getBoundingClientRect();
  const ratio = devicePixelRatio || 1;
  const [u, v] = [(clientX - box.left) * ratio, (clientY - box.top) * ratio];
  const { centre } = useViewport.getState();
  const x = Math.floor(centre.x * target.width + (u - view.width / 2) / scale);
  const y = Math.floor(centre.y * target.height + (v - view.height / 2) / scale);
  const onIt = x >= 0 && y >= 0 && x < target.width && y < target.height;
  return onIt ? { u, v, x, y } : null;
}

/** Where the pointer was seen last over a stage. */
let last: { stage: HTMLElement; at: Pointer } | null = null;

/** Follows the pointer over a stage. @returns what ends that */
export function followPointer(stage: HTMLElement): () => void {
  const follow = (event: PointerEvent) => {
    last = { stage, at: { clientX: event.clientX, clientY: event.clientY } };
  };
  const leave = () => {
    last = null;
  };
  stage.addEventListener('pointermove', follow);
  stage.addEventListener('pointerleave', leave);
  return () => {
    leave();
    stage.removeEventListener('pointermove', follow);
    stage.removeEventListener('pointerleave', leave);
  };
}

/** The place that is pointed at just now, as shares of the paper; null where the pointer is elsewhere. */
export function placeNow(target: Size, shown: { view: Size; scale: number }): PaperPlace | null {
  const under = last && pointedAt(last.stage, last.at, target, shown);
  return under && { x: (under.x + 0.5) / target.width, y: (under.y + 0.5) / target.height };
}
