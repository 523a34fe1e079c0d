import { useEffect, useMemo, useRef } from 'react';
import type { Size } from '@/core/raster/region';
import { canonicalJson } from '@/core/recipe/canonical';
import type { Recipe } from '@/core/recipe/recipe';
import { ask, PRIORITY } from '@/preview/client';
import type { PaneOriginal } from '../../preview-original';
import type { WorkBench } from '../../use-work';
import { SeenMap } from '../sweep/SeenMap';
import { resultLayer } from './layers';
import { usePicked } from '../../../parts/use-picked';
import { look, useViewport } from '../viewport';

interface Props {
  bench: WorkBench;
  original: PaneOriginal;
  recipe: Recipe;
  /** device pixels to one of the result */
  scale: number;
  /** device pixels of a pane */
  view: Size;
}

const WIDEST = 132;
const HIGHEST = 96;

/** The whole paper, small, with a frame about what the stage shows; a press goes there. */
export function PaperMap(props: Props) {
  const { recipe, scale, view } = props;
  // Nothing to go to where all of it is seen.
  if (scale * recipe.target.width <= view.width * 1.02) return null;
  return <Map {...props} />;
}

function Map({ bench, original, recipe, scale, view }: Props) {
  const { centre } = usePicked(useViewport, 'centre');
  const canvas = useRef<HTMLCanvasElement>(null);
  const layer = useMemo(() => {
    const { width, height } = recipe.target;
    return resultLayer(original, recipe, Math.min(1, WIDEST / width, HIGHEST / height), true);
  }, [original, recipe]);
  const key = canonicalJson([layer.original, layer.recipe]);
  const { width, height } = layer.size;
  useEffect(() => {
    const stop = new AbortController();
    const region = { x: 0, y: 0, width, height };
    const { original: of, recipe: seen } = layer;
    ask(
      'pixels',
      { original: of, recipe: seen, region, against: null, mayDraft: false },
      { priority: PRIORITY.figures, group: 'map', signal: stop.signal },
    )
      .then(({ rgba }) =>
        canvas.current?.getContext('2d')?.putImageData(new ImageData(rgba, width, height), 0, 0),
      )
      // The stage itself says what is wrong; the map stays as it was.
      .catch(() => {});
    return () => stop.abort();
    // The key says all of the layer that matters here.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  const share = {
    x: view.width / (scale * recipe.target.width),
    y: view.height / (scale * recipe.target.height),
  };
  const left = (centre.x - share.x / 2) * width;
  const top = (centre.y - share.y / 2) * height;
  return (
    <div
      className="map"
      style={{ width, height }}
      onPointerDown={(event) => {
        event.stopPropagation();
        const box = event.currentTarget.getBoundingClientRect();
        look({
          centre: {
            x: (event.clientX - box.left) / box.width,
            y: (event.clientY - box.top) / box.height,
          },
        });
      }}
    >
      <canvas ref={canvas} width={width} height={height} />
      <SeenMap bench={bench} />
      <i
        style={{
          transform: `translate(${left}px, ${top}px)`,
          width: share.x * width,
          height: share.y * height,
        }}
      />
    </div>
  );
}
