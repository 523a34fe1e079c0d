import { useDrag } from '@use-gesture/react';
import { useEffect, useState } from 'react';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { z } from 'zod';
import { say } from '@/core/words/say';

/** How wide the ticket may be made, in CSS pixels. */
const WIDTH = { least: 340, most: 640, step: 16 } as const;
/** The stage keeps so much of the window. */
const STAGE_SHARE = 0.5;

const Chosen = z.object({ width: z.number().min(WIDTH.least).max(WIDTH.most).nullable() });

/** As wide as it was dragged; null where the window decides. It belongs to the screen: this browser keeps it. */
const useTicketWidth = create<z.infer<typeof Chosen>>()(
  persist((): z.infer<typeof Chosen> => ({ width: null }), {
    name: 'lontano-ticket',
    merge: (kept, now) => ({ ...now, ...(Chosen.partial().safeParse(kept).data ?? {}) }),
  }),
);

const widthIn = (chosen: number | null, window: number): number =>
  Math.round(
    Math.min(
      Math.max(WIDTH.least, window * STAGE_SHARE),
      chosen ?? Math.min(420, Math.max(348, window * 0.27)),
    ),
  );

/** Width of the ticket in a window. */
export function useTicket(): number {
  const { width } = useTicketWidth();
  const [inside, setInside] = useState(() => globalThis.innerWidth ?? 1280);
  useEffect(() => {
    const measure = () => setInside(innerWidth);
    addEventListener('resize', measure);
    return () => removeEventListener('resize', measure);
  }, []);
  return widthIn(width, inside);
}

const set = (width: number) =>
  useTicketWidth.setState({
    width: Math.min(WIDTH.most, innerWidth * STAGE_SHARE, Math.max(WIDTH.least, width)),
  });

/** The edge between ticket and stage, to be dragged; a double click lets the window decide again. */
export function TicketEdge({ width }: { width: number }) {
  const drag = useDrag(({ xy: [x] }) => set(x), { pointer: { keys: false } });
  return (
    <div
      className="ticket-edge"
      role="separator"
      aria-orientation="vertical"
      aria-label={say`Width of the ticket`}
      aria-valuemin={WIDTH.least}
      aria-valuemax={WIDTH.most}
      aria-valuenow={width}
      tabIndex={0}
      title={say`Drag for a wider or narrower ticket; double click as usual`}
      onDoubleClick={() => useTicketWidth.setState({ width: null })}
      onKeyDown={(event) => {
        const by = { ArrowLeft: -WIDTH.step, ArrowRight: WIDTH.step }[event.key];
        if (!by) return;
        event.preventDefault();
        event.stopPropagation();
        set(width + by);
      }}
      {...drag()}
    />
  );
}
