import { useState, type CSSProperties } from 'react';
import type { Size } from '@/core/raster/region';
import type { Layer } from '../bench/stage/panes/layers';
import { Pane } from '../bench/stage/panes/Pane';
import { say } from '@/core/words/say';

/** A spot of a print, at 1:1. */
export function Spot({
  name,
  layer,
  centre,
  side,
  trouble: reason = null,
}: {
  name: string;
  /** null where there is nothing to show */
  layer: Layer | null;
  /** shares of the paper; null until it is known where to look */
  centre: { x: number; y: number } | null;
  /** in CSS pixels */
  side: Size;
  /** why nothing shows */
  trouble?: string | null;
}) {
  const [trouble, setTrouble] = useState<string | null>(null);
  const [busy, setBusy] = useState(true);
  const dense = typeof window === 'undefined' ? 1 : devicePixelRatio;
  const width = Math.round(side.width * dense);
  const height = Math.round(side.height * dense);
  const [view, setView] = useState({ width, height });
  // The same view as long as its size is.
  if (view.width !== width || view.height !== height) setView({ width, height });
  const shown = trouble ?? reason;
  return (
    <div
      className="spot"
      style={{ '--width': `${side.width}px`, '--height': `${side.height}px` } as CSSProperties}
      data-busy={busy}
    >
      {layer && centre && (
        <Pane {...{ layer, centre, view, name }} onTrouble={setTrouble} onBusy={setBusy} />
      )}
      <span className="caption left">
        <b>{name}</b>
        {busy && !shown && <span className="figure">{say`computing …`}</span>}
      </span>
      {shown && <p className="trouble">{shown}</p>}
    </div>
  );
}
