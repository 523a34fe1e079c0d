import { useDrag } from '@use-gesture/react';
import type { RefObject } from 'react';
import { useLooking } from '../mode';
import { say } from '@/core/words/say';

const keep = (share: number): number => Math.min(0.98, Math.max(0.02, share));

interface Props {
  frame: RefObject<HTMLElement | null>;
  /** it lies level rather than upright */
  level: boolean;
}

/** The wipe's divider: dragged, or moved by the arrow keys. */
export function Divider({ frame, level }: Props) {
  const divider = useLooking((state) => state.divider);
  const moveTo = (share: number) => useLooking.setState({ divider: keep(share) });
  const drag = useDrag(
    ({ xy: [x, y] }) => {
      const { left, top, width, height } = frame.current!.getBoundingClientRect();
      moveTo(level ? (y - top) / height : (x - left) / width);
    },
    { pointer: { keys: false } },
  );
  return (
    <div
      className={`divider ${level ? 'level' : ''}`}
      style={{ [level ? 'top' : 'left']: `calc(${divider * 100}% - 1px)` }}
      aria-orientation={level ? 'vertical' : 'horizontal'}
      role="slider"
      aria-label={say`Divider between original and result`}
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
        const [back, on] = level ? ['ArrowUp', 'ArrowDown'] : ['ArrowLeft', 'ArrowRight'];
        const by = event.shiftKey ? 0.1 : 0.01;
        const places: Record<string, number> = {
          [back!]: divider - by,
          [on!]: divider + by,
          Home: 0,
          End: 1,
        };
        const to = places[event.key];
        if (to === undefined) return;
        event.preventDefault();
        event.stopPropagation();
        moveTo(to);
      }}
    />
  );
}
