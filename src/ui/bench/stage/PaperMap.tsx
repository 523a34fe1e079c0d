import { useEffect, useMemo, useRef, useState } from 'react';
import { canonicalJson, type SettledRecipe } from '@/core/treatment/recipe';
import { PreviewQueue } from '@/preview/client';
import { useView } from '../view-store';
import { resultLayer } from './layers';
import { previewed, type PaneOriginal } from './previewed';

interface Props {
  original: PaneOriginal;
  recipe: SettledRecipe;
  /** how much of the paper's width and height the stage shows */
  share: { x: number; y: number };
}

const WIDEST = 132;
const HIGHEST = 96;

/** The whole paper, small, with a frame about what the stage shows; a press goes there. */
export function PaperMap({ original, recipe, share }: Props) {
  const { centre, set } = useView();
  const canvas = useRef<HTMLCanvasElement>(null);
  const [queue] = useState(() => new PreviewQueue());
  const layer = useMemo(() => {
    const { width, height } = recipe.target;
    return resultLayer(recipe, Math.min(1, WIDEST / width, HIGHEST / height), true);
  }, [recipe]);
  const key = canonicalJson(layer.recipe);
  const { width, height } = layer.size;
  useEffect(() => {
    queue
      .ask(previewed(original, layer, { x: 0, y: 0, width, height }))
      .then((pixels) => {
        const context = canvas.current?.getContext('2d');
        if (pixels) context?.putImageData(new ImageData(pixels.rgba, width, height), 0, 0);
      })
      // The stage itself says what is wrong; the map stays as it was.
      .catch(() => {});
    // The key says all of the layer that matters here.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [queue, original, key]);
  const percent = (value: number) => `${value * 100}%`;
  return (
    <div
      className="map"
      style={{ width, height }}
      onPointerDown={(event) => {
        event.stopPropagation();
        const box = event.currentTarget.getBoundingClientRect();
        set({
          centre: {
            x: (event.clientX - box.left) / box.width,
            y: (event.clientY - box.top) / box.height,
          },
        });
      }}
    >
      <canvas ref={canvas} width={width} height={height} />
      <i
        style={{
          left: percent(centre.x - share.x / 2),
          top: percent(centre.y - share.y / 2),
          width: percent(share.x),
          height: percent(share.y),
        }}
      />
    </div>
  );
}
