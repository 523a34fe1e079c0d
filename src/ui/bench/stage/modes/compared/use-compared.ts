import { useMemo } from 'react';
import type { Size } from '@/core/raster/region';
import { formatPpi } from '@/core/measure/format';
import { factorOf, leastPpi } from '@/core/measure/plan';
import type { Recipe } from '@/core/recipe/recipe';
import type { Resolved } from '@/core/recipe/resolve';
import { stepOf, type Trial } from '@/core/recipe/work';
import { methodNotes } from '@/core/steps/enlarge/methods';
import { usePicked } from '../../../../parts/use-picked';
import type { PaneOriginal } from '../../../preview-original';
import { comparedWith } from '../../../ticket/Trials';
import { useOpen } from '../../../ticket/open';
import { useChosen } from '../../../trial-store';
import type { WorkBench } from '../../../use-work';
import { useOverlay } from '../../overlays/overlay';
import { useFinishLook } from './finish-look';
import { originalLayer, resultLayer, type Layer } from '../../panes/layers';

/** One side of what is compared, and what its caption says. */
export interface Side {
  /** of what: the name of its pane */
  name: string;
  layer: Layer;
  caption: { name: string; made: string; figure: string };
}

/** The result, and what it is compared with. */
export interface Compared {
  before: Side;
  after: Side;
}

/**
 * What is compared: the trial on the bench with the original, or with another trial; with Clean open, on the
 * original's own grid.
 * @param pane size of a pane in device pixels
 * @param scale device pixels to one of the result
 * @param alone whether the result is worked on, so that nothing is compared
 */
export function useCompared(
  bench: WorkBench,
  original: PaneOriginal,
  pane: Size,
  { scale, onOriginal, alone }: { scale: number; onOriginal: boolean; alone: boolean },
): Compared | null {
  const { resolved, trial, job, work } = bench;
  const { vector } = bench.original;
  const { removed } = usePicked(useOverlay, 'removed');
  const { against } = usePicked(useChosen, 'against');
  const removing = onOriginal && removed !== 'off';
  const other = removing || alone ? null : comparedWith(work, trial, against);
  const otherResolved = useOther(bench, other);
  const finishing = useFinishLook(bench);
  const finish = onOriginal ? null : finishing;
  const { width, height } = job.piece.findings;
  return useMemo(() => {
    if (!resolved.ok || pane.width < 2) return null;
    const { recipe, plan } = resolved;
    const alike = finish?.alike ?? ((one: Recipe) => one);
    const layer = onOriginal ? originalLayer : resultLayer;
    const on = onOriginal ? scale * factorOf(plan) : scale;
    const treated = layer(original, finish?.recipe ?? recipe, on, true);
    const after: Side = {
      name: trial.name,
      layer: treated,
      caption: {
        name: trial.name,
        made:
          finish?.made ??
          (treated.caption ||
            (vector ? 'drawn fresh' : trial.pixels === 'kept' ? 'its own pixels' : madeBy(trial))),
        figure: onOriginal ? `${width} × ${height}` : sizeWords(resolved),
      },
    };
    if (other && otherResolved?.ok) {
      const beside = alike(otherResolved.recipe);
      const its = on * (recipe.target.width / beside.target.width);
      const compared = layer(original, beside, its, true);
      const made = compared.caption || madeBy(other);
      const caption = { name: other.name, made, figure: sizeWords(otherResolved) };
      return { after, before: { name: other.name, layer: compared, caption } };
    }
    const untreated = layer(original, recipe, on, false, alike);
    const before: Side = {
      name: 'The original',
      layer: untreated,
      caption: {
        name: 'Original',
        made: vector ? 'as drawn' : untreated.caption,
        figure: vector ? 'shapes' : `${formatPpi(leastPpi(plan))} ppi`,
      },
    };
    if (!removing) return { before, after };
    const made = `what cleaning took, × ${removed}`;
    const difference = { recipe: untreated.recipe, gain: Number(removed) };
    return {
      before,
      after: {
        ...after,
        layer: { ...treated, against: difference, caption: made },
        caption: { ...after.caption, made },
      },
    };
  }, [
    original,
    resolved,
    other,
    otherResolved,
    pane,
    onOriginal,
    scale,
    removing,
    removed,
    finish,
    trial,
    vector,
    width,
    height,
  ]);
}

/** Whether Clean shows the original's own grid, before anything is enlarged. */
export function useOnOriginal(zoomedThere: boolean): boolean {
  const cleaning = useOpen((open) => open.section === 'clean');
  const removed = useOverlay((overlay) => overlay.removed);
  return cleaning && (zoomedThere || removed !== 'off');
}

const madeBy = (trial: Trial): string =>
  methodNotes[stepOf(trial.treatment, 'enlarge')!.settings.method].title.toLowerCase();

const sizeWords = ({ recipe, plan }: Extract<Resolved, { ok: true }>): string =>
  `${recipe.target.width} × ${recipe.target.height} · ${formatPpi(plan.ppiAfter)} ppi`;

/** What another trial comes to, resolved anew only when it or what it rests on changes. */
function useOther({ resolve, resolved }: WorkBench, other: Trial | null): Resolved | null {
  // `resolved` changes whenever what both rest on does.
  // eslint-disable-next-line react-hooks/exhaustive-deps
  return useMemo(() => other && resolve(other), [other, resolved]);
}
