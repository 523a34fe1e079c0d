import { useEffect, useMemo, useRef } from 'react';
import type { Region, Size } from '@/core/raster/region';
import { clip } from '@/core/raster/region';
import { canonicalJson } from '@/core/recipe/canonical';
import { ask, PRIORITY } from '@/preview/client';
import type { Layer } from '../panes/layers';

/** Of a thumbnail, in its pixels. */
export const THUMB: Size = { width: 76, height: 54 };

/** The place of a stop, small, as the original has it. @param at shares of the paper */
export function StopThumb({ layer, at }: { layer: Layer; at: { x: number; y: number } }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const region = useMemo(() => about(layer, at), [layer, at]);
  const key = canonicalJson([layer.original, layer.recipe, region]);
  useEffect(() => {
    if (region.width < 1 || region.height < 1) return;
    const stop = new AbortController();
    const { original, recipe } = layer;
    ask(
      'pixels',
      { original, recipe, region, against: null, mayDraft: true },
      { priority: PRIORITY.ahead, group: 'map', signal: stop.signal },
    )
      .then(({ rgba, width, height }) =>
        canvas.current?.getContext('2d')?.putImageData(new ImageData(rgba, width, height), 0, 0),
      )
      // The place can be gone to without its picture.
      .catch(() => {});
    return () => stop.abort();
    // The key says all that matters here.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  return <canvas ref={canvas} width={THUMB.width} height={THUMB.height} aria-hidden />;
}

/** Pixels of a layer about a place, moved to lie on its grid. */
function about({ paper, size }: Layer, { x, y }: { x: number; y: number }): Region {
  const begin = (at: number, side: number, all: number) =>
    Math.max(0, Math.min(Math.round(at - side / 2), all - side));
  return clip(
    {
      x: begin(paper.x + x * paper.width, THUMB.width, size.width),
      y: begin(paper.y + y * paper.height, THUMB.height, size.height),
      ...THUMB,
    },
    size,
  );
}
