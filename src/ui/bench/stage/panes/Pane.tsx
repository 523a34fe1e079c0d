import { LRUCache } from 'lru-cache';
import { useEffect, useId, useMemo, useRef } from 'react';
import type { Size } from '@/core/raster/region';
import { canonicalJson } from '@/core/recipe/canonical';
import { ask, PRIORITY } from '@/preview/client';
import { placeOf, visible, type Layer } from './layers';
import { ahead, arriving, inHalves, joined, type Arrived, type Painted } from './painted';
import { Painter, type Wanted } from './painter';

interface Props {
  layer: Layer;
  centre: { x: number; y: number };
  /** device pixels of the pane */
  view: Size;
  name: string;
  onTrouble(words: string | null): void;
  /** whether it shows something else than is wanted, or not yet its final pixels */
  onBusy(busy: boolean): void;
  /** how long the pixels that show took, once they are final */
  onPainted?(milliseconds: number): void;
}

/** What was painted last, by what it is of. */
const recent = new LRUCache<string, Painted>({ max: 4 });

/**
 * One window onto the paper. It asks the preview for just the pixels that show, and while they are computed
 * draws what it has where that now belongs. `data-wanted` and `data-painted` tell whether both are the same,
 * `data-left` and `data-top` where the layer's grid begins in it.
 */
export function Pane({ layer, centre, view, name, onTrouble, onBusy, onPainted }: Props) {
  const group = useId();
  const canvas = useRef<HTMLCanvasElement>(null);
  const region = useMemo(() => visible(layer, centre, view), [layer, centre, view]);
  const of = useMemo(
    () => canonicalJson([layer.original, layer.recipe, layer.against ?? null]),
    [layer],
  );
  // Another way of looking begins with what the last one showed of the same.
  const painted = useRef<Painted | null>(recent.get(of) ?? null);
  const final = useRef(painted.current);
  const key = useMemo(() => `${of} ${canonicalJson(region)}`, [of, region]);

  const { left, top } = placeOf(layer, centre, view);
  const told = useRef({ onTrouble, onBusy, onPainted });
  useEffect(() => {
    told.current = { onTrouble, onBusy, onPainted };
  });

  // Draws at once on every change of view; new pixels follow when they are computed.
  const redraw = useRef(() => {});
  useEffect(() => {
    redraw.current = () => draw(canvas.current, painted.current, layer, centre, view);
    redraw.current();
  }, [layer, centre, view]);

  const painter = useRef<Painter<Arrived> | null>(null);
  /** what is computed before it is wanted, as long as nothing is */
  const further = useRef<AbortController | null>(null);
  useEffect(() => {
    let last: Wanted | null = null;
    const lookFurther = (wanted: Wanted) => {
      const { signal } = (further.current = new AbortController());
      const { original, recipe, against } = wanted.layer;
      const parts = ahead(last, wanted).flatMap((part) => inHalves(part, wanted.region));
      for (const { region: part, half } of parts) {
        ask(
          'ahead',
          { original, recipe, region: part, against: against ?? null },
          { priority: PRIORITY.ahead, group: `${group} ${half}`, signal },
          // Nobody waits for it: when it is wanted it is asked for again.
        ).catch(() => {});
      }
      last = wanted;
    };
    const mine = new Painter<Arrived>({
      ask: (wanted, mayDraft, signal) => {
        const { original, recipe, against } = wanted.layer;
        const priority = mayDraft ? PRIORITY.seen : PRIORITY.refined;
        return arriving(wanted, final.current, (part, half) =>
          ask(
            'pixels',
            { original, recipe, region: part, against: against ?? null, mayDraft },
            { priority, group: `${group} ${half}`, signal },
          ),
        );
      },
      paint: (wanted, arrived) => {
        painted.current = joined(wanted, arrived);
        const { dataset } = canvas.current!;
        if (arrived.draft) {
          dataset.drafted = wanted.key;
          delete dataset.painted;
        } else {
          final.current = painted.current;
          recent.set(wanted.of, painted.current);
          dataset.painted = wanted.key;
        }
        redraw.current();
      },
      busy: (busy) => told.current.onBusy(busy),
      finished: (wanted, milliseconds) => {
        lookFurther(wanted);
        canvas.current!.dataset.milliseconds = milliseconds.toFixed(1);
        told.current.onTrouble(null);
        told.current.onPainted?.(milliseconds);
      },
      failed: () =>
        told.current.onTrouble(
          'The preview could not be computed. The job is unharmed; reload the page to try again.',
        ),
    });
    painter.current = mine;
    return () => {
      further.current?.abort();
      mine.close();
    };
  }, [group]);

  useEffect(() => {
    if (region.width < 1 || region.height < 1) return;
    further.current?.abort();
    painter.current?.want({ key, of, layer, region });
  }, [key, of, layer, region]);

  return (
    <canvas
      ref={canvas}
      width={view.width}
      height={view.height}
      aria-label={name}
      role="img"
      data-wanted={key}
      data-exact={layer.exact}
      data-left={left}
      data-top={top}
    />
  );
}

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
