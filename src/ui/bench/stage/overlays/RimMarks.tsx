import { useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { REACH_MOST } from '@/core/guard/guards';
import { factorOf } from '@/core/measure/plan';
import { withoutFinish } from '@/core/recipe/finish';
import type { Recipe } from '@/core/recipe/recipe';
import type { Region, Size } from '@/core/raster/region';
import { ask, PRIORITY } from '@/preview/client';
import { tell } from '../../../data/notices';
import { usePicked } from '../../../parts/use-picked';
import type { WorkBench } from '../../use-work';
import { useLooking } from '../modes/mode';
import { visible, type Layer } from '../panes/layers';
import { drawStrengths } from '../panes/strengths';
import { useViewport } from '../viewport';
import { say } from '@/core/words/say';

/** Ochre, as everything that wants attention. */
const TINT = { colour: [214, 128, 10], alpha: 0.85 } as const;

interface Props {
  bench: WorkBench;
  layer: Layer;
  view: Size;
}

/** Marks over a part of a result, and what they follow from. */
interface Held {
  recipe: Recipe;
  before: Recipe;
  region: Region;
  marks: Uint8Array;
  found: boolean;
}
/** A pixel without a mark. */
const NOTHING = { marks: new Uint8Array(1), region: { x: 0, y: 0, width: 1, height: 1 } };

/** Marks on the picture where rims of finishing would be seen from the ordered distance; at the result's own pixels. */
export function RimMarks({ bench, layer, view }: Props) {
  const { resolved, resolve, trial, work } = bench;
  const centre = useViewport((state) => state.centre);
  const canvas = useRef<HTMLCanvasElement>(null);
  const { comparing, divider, level, holding, stacked } = usePicked(
    useLooking,
    'comparing',
    'divider',
    'level',
    'holding',
    'stacked',
  );
  // They are of the result: the original, beside it or in its place, has none.
  const from = `${100 * (holding ? 1 : comparing === 'wipe' ? divider : 0)}%`;
  const ratio = devicePixelRatio || 1;
  const onResult = {
    clipPath: level ? `inset(${from} 0 0 0)` : `inset(0 0 0 ${from})`,
    // Side by side the result's pane is the last one.
    ...(comparing === 'side by side' &&
      (stacked
        ? { top: 'auto', bottom: 0, height: view.height / ratio }
        : { left: 'auto', right: 0, width: view.width / ratio })),
  };
  const [held, setHeld] = useState<Held | null>(null);
  const region = useMemo(() => visible(layer, centre, view), [layer, centre, view]);
  const before = useMemo(() => {
    const plain = resolve({ ...trial, treatment: withoutFinish(trial.treatment) });
    return plain.ok ? plain.recipe : null;
    // All that it reads of the bench follows from what is resolved.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [resolved]);
  const reach = resolved.ok
    ? Math.min(REACH_MOST, Math.max(1, Math.ceil(factorOf(resolved.plan))))
    : 1;
  const { distance } = work;

  // Marks of what shows no longer are gone at once; the others move with the picture.
  const shown = held?.recipe === layer.recipe && held.before === before ? held : null;
  useLayoutEffect(() => {
    if (!canvas.current) return;
    const { marks, region: over } = shown ?? NOTHING;
    drawStrengths(canvas.current, marks, over, layer, centre, view, TINT);
  }, [shown, layer, centre, view]);

  useEffect(() => {
    if (!before || region.width < 1 || region.height < 1) return;
    const stop = new AbortController();
    const { original, recipe } = layer;
    const seen = { ppi: recipe.target.ppi, distance };
    ask(
      'rims',
      { original, before, after: recipe, reach, region, seen },
      { priority: PRIORITY.figures, group: 'rims', signal: stop.signal },
    )
      .then((marks) => {
        const found = marks.some((mark) => mark > 0);
        if (!stop.signal.aborted) setHeld({ recipe, before, region, marks, found });
      })
      .catch(() => {
        if (stop.signal.aborted) return;
        tell(say`Halos could not be marked. Reload the page to try again.`, 'trouble');
      });
    return () => stop.abort();
  }, [before, layer, region, reach, distance]);

  return (
    <>
      <canvas
        ref={canvas}
        className="rim-marks"
        style={onResult}
        width={view.width}
        height={view.height}
        role="img"
        aria-label={say`Halos that would be seen`}
      />
      {shown && (
        <p className="map-scale mb-0" role="status">
          {shown.found
            ? say`Ochre: halos that would be seen from ${distance} m`
            : say`No halos here that would be seen from ${distance} m`}
        </p>
      )}
    </>
  );
}
