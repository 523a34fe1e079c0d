import { useQuery } from '@tanstack/react-query';
import { useMemo, useState, type CSSProperties } from 'react';
import type { Resolved } from '@/core/recipe/resolve';
import { STOP_WORDS } from '@/core/stops/stop';
import { paneOriginal } from '../bench/preview-original';
import { useOnPaper } from '../bench/stage/on-paper';
import { resultLayer } from '../bench/stage/panes/layers';
import { Pane } from '../bench/stage/panes/Pane';
import { api } from '../data/api';
import type { Pictured } from './recipe-on';
import { say } from '@/core/words/say';

/** Of each of both, in CSS pixels. */
const SIDE = { width: 374, height: 236 };

interface Side {
  name: string;
  resolved: Resolved;
}

/** A picture's worst place as it is treated now and as it would be, at 1:1. */
export function BeforeAfter({
  picture,
  before,
  after,
}: {
  picture: Pictured;
  before: Side;
  after: Side;
}) {
  const { digest, findings } = picture;
  const onPaper = useOnPaper(picture);
  const within = onPaper?.within;
  const { data: stops } = useQuery({
    queryKey: ['stops', digest, findings.page, within],
    queryFn: () => api.stops(digest, findings.page, within!),
    enabled: !findings.vector && (within?.width ?? 0) > 0,
    staleTime: Infinity,
  });
  const stop = stops?.[0];
  const centre = useMemo(
    () => (stop && onPaper?.toPaper(stop.x, stop.y)) ?? { x: 0.5, y: 0.5 },
    [stop, onPaper],
  );
  const looked = findings.vector !== null || stops !== undefined;
  return (
    <figure className="before-after">
      <div>
        {[before, after].map((side, i) => (
          <Spot key={i} picture={picture} side={side} centre={looked ? centre : null} />
        ))}
      </div>
      <figcaption className="soft">
        {stop
          ? say`Where it is worst, ${STOP_WORDS[stop.kind].title}: ${STOP_WORDS[stop.kind].figure(stop.figure)}, at 1:1.`
          : say`Its middle, at 1:1.`}
      </figcaption>
    </figure>
  );
}

function Spot({
  picture: { digest, findings },
  side: { name, resolved },
  centre,
}: {
  picture: Pictured;
  side: Side;
  centre: { x: number; y: number } | null;
}) {
  const [trouble, setTrouble] = useState<string | null>(null);
  const [busy, setBusy] = useState(true);
  const layer = useMemo(
    () =>
      resolved.ok ? resultLayer(paneOriginal(digest, findings), resolved.recipe, 1, true) : null,
    [digest, findings, resolved],
  );
  const [view] = useState(() => {
    const dense = devicePixelRatio;
    return { width: Math.round(SIDE.width * dense), height: Math.round(SIDE.height * dense) };
  });
  return (
    <div
      className="spot"
      style={{ '--width': `${SIDE.width}px`, '--height': `${SIDE.height}px` } as CSSProperties}
      data-busy={busy}
    >
      {layer && centre && (
        <Pane {...{ layer, centre, view, name }} onTrouble={setTrouble} onBusy={setBusy} />
      )}
      <span className="caption left">
        <b>{name}</b>
        {busy && <span className="figure">{say`computing …`}</span>}
      </span>
      {(trouble ?? (!resolved.ok && resolved.reason)) && (
        <p className="trouble">{trouble ?? (!resolved.ok && resolved.reason)}</p>
      )}
    </div>
  );
}
