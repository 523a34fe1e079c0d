import { useEffect, useMemo, useRef, useState } from 'react';
import type { Region, Size } from '@/core/raster/region';
import { canonicalJson } from '@/core/treatment/recipe';
import { PreviewQueue, type Pixels } from '@/preview/client';
import { placeOf, visible, type Layer } from './layers';
import { previewed, type PaneOriginal } from './previewed';

interface Props {
  original: PaneOriginal;
  layer: Layer;
  centre: { x: number; y: number };
  /** device pixels of the pane */
  view: Size;
  name: string;
  onTrouble(words: string | null): void;
  /** begins and ends of computing */
  onBusy(busy: boolean): void;
  /** how long the pixels that show took, once they are final */
  onPainted?(milliseconds: number): void;
}

/** What a pane holds: pixels of a region of a layer's grid. */
interface Painted {
  bitmap: HTMLCanvasElement;
  region: Region;
  layer: Layer;
  key: string;
}

/**
 * One window onto the paper. It asks the preview worker for just the pixels that show, and while
 * they are computed draws what it has where that now belongs.
 */
export function Pane({ original, layer, centre, view, name, onTrouble, onBusy, onPainted }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const painted = useRef<Painted | null>(null);
  const [queue] = useState(() => new PreviewQueue());
  const latest = useRef(0);
  const key = useMemo(
    () => canonicalJson(layer.recipe) + (layer.against ? ` × ${layer.against.gain}` : ''),
    [layer.recipe, layer.against],
  );
  const region = useMemo(() => visible(layer, centre, view), [layer, centre, view]);

  const told = useRef(onPainted);
  const busy = useRef(onBusy);
  useEffect(() => {
    told.current = onPainted;
    busy.current = onBusy;
  });

  // Draws at once on every change of view; new pixels follow when they are computed.
  const redraw = useRef(() => {});
  useEffect(() => {
    redraw.current = () => draw(canvas.current, painted.current, layer, centre, view);
    redraw.current();
  }, [layer, centre, view]);

  useEffect(() => {
    if (region.width < 1 || region.height < 1) return;
    const have = painted.current;
    if (have && have.key === key && same(have.region, region)) return;
    busy.current(true);
    const mine = ++latest.current;
    const request = previewed(original, layer, region);
    const paint = (pixels: Pixels | null): Promise<void> | void => {
      if (!pixels || !canvas.current) return;
      const bitmap = document.createElement('canvas');
      bitmap.width = pixels.width;
      bitmap.height = pixels.height;
      bitmap
        .getContext('2d')!
        .putImageData(new ImageData(pixels.rgba, pixels.width, pixels.height), 0, 0);
      painted.current = { bitmap, region, layer, key };
      redraw.current();
      if (pixels.draft) {
        canvas.current.dataset.drafted = key;
        // Unless something newer is wanted by now.
        return mine === latest.current ? queue.ask(request).then(paint) : undefined;
      }
      canvas.current.dataset.painted = key;
      canvas.current.dataset.milliseconds = pixels.milliseconds.toFixed(1);
      onTrouble(null);
      busy.current(false);
      told.current?.(pixels.milliseconds);
    };
    queue
      .ask({ ...request, mayDraft: true })
      .then(paint)
      .catch(() => {
        busy.current(false);
        onTrouble(
          'The preview could not be computed. The job is unharmed; reload the page to try again.',
        );
      });
  }, [queue, original, layer, key, region, onTrouble]);

  return (
    <canvas
      ref={canvas}
      width={view.width}
      height={view.height}
      aria-label={name}
      role="img"
      data-wanted={key}
      data-exact={layer.exact}
    />
  );
}

const same = (a: Region, b: Region): boolean =>
  a.x === b.x && a.y === b.y && a.width === b.width && a.height === b.height;

/** Draws held pixels where they belong; pixels of another grid are stretched to their place. */
function draw(
  canvas: HTMLCanvasElement | null,
  painted: Painted | null,
  layer: Layer,
  centre: { x: number; y: number },
  view: Size,
): void {
  const context = canvas?.getContext('2d');
  if (!context) return;
  context.clearRect(0, 0, view.width, view.height);
  if (!painted) return;
  const { left, top } = placeOf(layer, centre, view);
  const from = painted.layer;
  // Both grids carry the same paper: through it one is brought onto the other.
  const gridX = (layer.paper.width / from.paper.width) * layer.scale;
  const gridY = (layer.paper.height / from.paper.height) * layer.scale;
  const { region, bitmap } = painted;
  context.imageSmoothingEnabled = false;
  context.drawImage(
    bitmap,
    left + layer.paper.x * layer.scale + (region.x - from.paper.x) * gridX,
    top + layer.paper.y * layer.scale + (region.y - from.paper.y) * gridY,
    region.width * gridX,
    region.height * gridY,
  );
}
