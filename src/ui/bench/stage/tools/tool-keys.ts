import type { FocusEvent, KeyboardEvent } from 'react';
import type { Size } from '@/core/raster/region';

/** A place on the stage, in CSS pixels. */
type At = [number, number];

/** Which way a tool goes by which key, and how far. */
const WAYS: Record<string, At | undefined> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
const STEP = { near: 8, far: 40 } as const;

interface Keyed {
  /** where the tool is seen; null while nobody points */
  cursor: At | null;
  /** device pixels of the stage */
  view: Size;
  onMove(at: At): void;
  /** what pressing a pointer there does */
  onDown(at: At, event: KeyboardEvent): void;
  /** what letting go does; nothing where nothing was pressed */
  onUp(): void;
}

/** A tool without a mouse: arrow keys move it, with Shift farther, and Space is its button. */
export function toolKeys({ cursor, view, onMove, onDown, onUp }: Keyed) {
  const middle = (): At => [view.width / 2 / devicePixelRatio, view.height / 2 / devicePixelRatio];
  return {
    tabIndex: 0,
    role: 'application',
    onFocus(event: FocusEvent) {
      if (event.currentTarget.matches(':focus-visible')) onMove(cursor ?? middle());
    },
    onBlur: onUp,
    onKeyDown(event: KeyboardEvent) {
      if (event.target !== event.currentTarget) return;
      const way = WAYS[event.key];
      if (!way && event.key !== ' ') return;
      event.preventDefault();
      event.stopPropagation();
      const at = cursor ?? middle();
      if (way) {
        const by = event.shiftKey ? STEP.far : STEP.near;
        onMove([at[0] + way[0] * by, at[1] + way[1] * by]);
      } else if (!event.repeat) onDown(at, event);
    },
    onKeyUp(event: KeyboardEvent) {
      if (event.key === ' ') onUp();
    },
  };
}
