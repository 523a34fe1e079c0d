import { useMemo } from 'react';
import type { Resolved } from '@/core/recipe/resolve';
import { paneOriginal } from '../bench/preview-original';
import { resultLayer } from '../bench/stage/panes/layers';
import type { Pictured } from './recipe-on';
import { Spot } from './Spot';
import { usePlaces } from './worst-place';

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
  const place = usePlaces(picture)?.[0];
  return (
    <figure className="before-after">
      <div>
        {[before, after].map((side, i) => (
          <Treated key={i} picture={picture} side={side} centre={place?.centre ?? null} />
        ))}
      </div>
      <figcaption className="soft">{place?.words}</figcaption>
    </figure>
  );
}

function Treated({
  picture: { digest, findings },
  side: { name, resolved },
  centre,
}: {
  picture: Pictured;
  side: Side;
  centre: { x: number; y: number } | null;
}) {
  const layer = useMemo(
    () =>
      resolved.ok ? resultLayer(paneOriginal(digest, findings), resolved.recipe, 1, true) : null,
    [digest, findings, resolved],
  );
  return (
    <Spot {...{ name, layer, centre }} side={SIDE} trouble={resolved.ok ? null : resolved.reason} />
  );
}
