import { useDrag } from '@use-gesture/react';
import type { RefObject } from 'react';
import { useLooking } from '../mode';

const keep = (share: number): number => Math.min(0.98, Math.max(0.02, share));

/** The wipe's divider: dragged, or moved by the arrow keys. */
export function Divider({ frame }: { frame: RefObject<HTMLElement | null> }) {
  const divider = useLooking((state) => state.divider);
  const moveTo = (share: number) => useLooking.setState({ divider: keep(share) });
  const drag = useDrag(
    ({ xy: [x] }) => {
      const { left, width } = frame.current!.getBoundingClientRect();
      moveTo((x - left) / width);
    },
    { pointer: { keys: false } },
  );
  return (
    <div
      className="divider"
      style={{ left: `calc(${divider * 100}% - 1px)` }}
      role="slider"
      aria-label="Divider between original and result"
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(divider * 100)}
      tabIndex={0}
      {...drag()}
      onPointerDown={(event) => {
        // The picture beneath stays where it is.
        event.stopPropagation();
        drag().onPointerDown?.(event);
      }}
      onKeyDown={(event) => {
        const direction = event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : 0;
        if (direction === 0) return;
        event.preventDefault();
        event.stopPropagation();
        moveTo(divider + direction * (event.shiftKey ? 0.1 : 0.01));
      }}
    />
  );
}
