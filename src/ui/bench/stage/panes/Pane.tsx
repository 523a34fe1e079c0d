import { LRUCache } from 'lru-cache';
import { useEffect, useId, useLayoutEffect, useMemo, useRef } from 'react';
import { beside, contains, type Region, type Size } from '@/core/raster/region';
import { canonicalJson } from '@/core/recipe/canonical';
import { ask, PRIORITY } from '@/preview/client';
import { placeOf, visible, type Layer } from './layers';
import {
  ahead,
  arriving,
  heldWhole,
  inHalves,
  joined,
  type Arrived,
  type Painted,
} from './painted';
import { useCoarse } from './use-coarse';
import { Painter, type Wanted } from './painter';
import { say } from '@/core/words/say';

interface Props {
  layer: Layer;
  /** all of it, small: it shows where its own pixels are not there yet */
  coarse?: Layer | undefined;
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
export function Pane({ layer, coarse, centre, view, name, onTrouble, onBusy, onPainted }: Props) {
  const group = useId();
  const canvas = useRef<HTMLCanvasElement>(null);
  const region = useMemo(() => visible(layer, centre, view), [layer, centre, view]);
  const of = useMemo(
    () => canonicalJson([layer.original, layer.recipe, layer.against ?? null, layer.proof ?? null]),
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

  // Draws at once on every change of view; new pixels follow when they are computed. A canvas of another size is an empty one:
  // it never shows as such.
  const small = useCoarse(coarse);
  const redraw = useRef(() => {});
  useLayoutEffect(() => {
    redraw.current = () => {
      const held = painted.current;
      const whole = held?.of === of && contains(held.region, region);
      draw(canvas.current, { small: whole ? null : small, held }, layer, centre, view);
      if (small && canvas.current) canvas.current.dataset.coarse = key;
    };
    redraw.current();
  }, [layer, centre, view, small, of, region, key]);

  const painter = useRef<Painter<Arrived> | null>(null);
  /** what is computed before it is wanted, as long as nothing is */
  const further = useRef<AbortController | null>(null);
  useEffect(() => {
    let last: Wanted | null = null;
    let begun: Region | null = null;
    const lookFurther = (wanted: Wanted) => {
      if (wanted.of !== last?.of) begun = null;
      const next = ahead(last, wanted, begun);
      last = wanted;
      if (!next) return;
      begun = next;
      further.current?.abort();
      const { signal } = (further.current = new AbortController());
      const { original, recipe, against } = wanted.layer;
      const parts = beside(next, wanted.region).flatMap((part) => inHalves(part, wanted.region));
      for (const { region: part, half } of parts) {
        ask(
          'ahead',
          { original, recipe, region: part, against: against ?? null },
          { priority: PRIORITY.ahead, group: `${group} ${half}`, signal },
          // Nobody waits for it: when it is wanted it is asked for again.
        ).catch(() => {});
      }
    };
    const mine = new Painter<Arrived>({
      held: (wanted) => heldWhole(wanted, final.current),
      ask: (wanted, mayDraft, signal) => {
        // What lies beyond another layer is nothing to this one.
        if (wanted.of !== last?.of) further.current?.abort();
        const { original, recipe, against, proof } = wanted.layer;
        const priority = mayDraft ? PRIORITY.seen : PRIORITY.refined;
        return arriving(wanted, final.current, (part, half) =>
          ask(
            'pixels',
            {
              ...{ original, recipe, region: part, mayDraft },
              ...{ against: against ?? null, proof: proof ?? null },
            },
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
          say`The preview could not be computed. The job is unharmed; reload the page to try again.`,
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
    painter.current?.want({ key, of, layer, region });
  }, [key, of, layer, region]);

  return (
    <canvas
      ref={canvas}
      width={view.width}
      height={view.height}
      aria-label={name}
      role="img"
      data-difference={layer.against !== undefined}
      data-wanted={key}
      data-exact={layer.exact}
      data-left={left}
      data-top={top}
    />
  );
}

/** Draws held pixels where they belong, over the small picture of all; pixels of another grid are stretched to their place. */
function draw(
  canvas: HTMLCanvasElement | null,
  { small, held }: { small: Painted | null; held: Painted | null },
  layer: Layer,
  centre: { x: number; y: number },
  view: Size,
): void {
  const context = canvas?.getContext('2d');
  if (!context) return;
  // One picture alone takes the place of all that was there, which is quicker than laying it over nothing.
  const alone = small === null && held !== null;
  context.globalCompositeOperation = alone ? 'copy' : 'source-over';
  if (!alone) context.clearRect(0, 0, view.width, view.height);
  const { left, top } = placeOf(layer, centre, view);
  for (const painted of [small, held]) {
    if (!painted) continue;
    const { region, bitmap, layer: from } = painted;
    // Both grids carry the same paper: through it one is brought onto the other.
    const gridX = (layer.paper.width / from.paper.width) * layer.scale;
    const gridY = (layer.paper.height / from.paper.height) * layer.scale;
    const place = [
      left + layer.paper.x * layer.scale + (region.x - from.paper.x) * gridX,
      top + layer.paper.y * layer.scale + (region.y - from.paper.y) * gridY,
      region.width * gridX,
      region.height * gridY,
    ] as const;
    // Squares are pixels; a small copy of many has none to show.
    context.imageSmoothingEnabled = painted === small;
    if (small) context.clearRect(...place);
    context.drawImage(bitmap, ...place);
  }
}
