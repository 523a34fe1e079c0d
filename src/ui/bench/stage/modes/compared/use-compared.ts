import { useMemo } from 'react';
import type { Size } from '@/core/raster/region';
import { formatPpi } from '@/core/measure/format';
import { blurredBy } from '@/core/recipe/finish';
import { eyeBlur, inPixels } from '@/core/steps/paper/surfaces';
import { factorOf, leastPpi } from '@/core/measure/plan';
import type { Recipe } from '@/core/recipe/recipe';
import type { Resolved } from '@/core/recipe/resolve';
import { asFarAs, stagesOf } from '@/core/recipe/stages';
import { trialOf } from '@/core/recipe/trials';
import { stepOf, type Trial } from '@/core/recipe/work';
import { methodNotes } from '@/core/steps/enlarge/methods';
import { usePicked } from '../../../../parts/use-picked';
import type { PaneOriginal } from '../../../preview-original';
import { useOpen } from '../../../ticket/open';
import { useChosen } from '../../../trial-store';
import type { WorkBench } from '../../../use-work';
import { useOverlay } from '../../overlays/overlay';
import { useFinishLook } from './finish-look';
import { recipeOfFile, shiftWords, useFiles, useShifts, type FileBeside } from './files';
import { dotsLayer, originalLayer, resultLayer, type Layer } from '../../panes/layers';
import { useProof } from '../../proofing';
import { ORIGINAL, shownBeside, type Subject } from './subject';
import { say } from '@/core/words/say';

/** One side of what is compared, and what its caption says. */
export interface Side {
  /** of what: the name of its pane */
  name: string;
  layer: Layer;
  /** the same at its own pixels, however small it shows */
  own: Layer;
  /** what of the print it is, wherever one stands: not as it looks from the distance */
  plain: Layer;
  /** all of it, small, where it shows larger than that */
  coarse: Layer | undefined;
  /** whether it is the result, rather than what stands beside it */
  result: boolean;
  caption: { name: string; made: string; figure: string };
}

/** The result, and what it is compared with. */
export interface Compared {
  after: Side;
  /** what stands beside it, in as many panes as there are, one at least */
  beside: Side[];
  /** the first of those */
  before: Side;
  /** what those beside it show */
  subjects: Subject[];
}

/** How it is looked at. */
export interface Looked {
  /** device pixels to one of the result */
  scale: number;
  onOriginal: boolean;
  /** metres from which it is looked at, where it shows as it looks from there */
  afar: number | null;
  /** whether the result is worked on, so that nothing is compared */
  alone: boolean;
  /** panes beside the result */
  others: number;
}

/** What one of those beside the result comes to; null where that is the original. */
type Other = {
  subject: Subject;
  name: string;
  made: string;
  resolved: Resolved | null;
  file?: FileBeside;
};

/**
 * What is compared: the trial on the bench with the original, other trials, or itself after one of its steps; with Clean
 * open, on the original's own grid.
 * @param pane size of a pane in device pixels
 */
export function useCompared(
  bench: WorkBench,
  original: PaneOriginal,
  pane: Size,
  { scale, onOriginal, afar, alone, others: count }: Looked,
): Compared | null {
  const { resolved, trial, job } = bench;
  const { vector } = bench.original;
  const { removed } = usePicked(useOverlay, 'removed');
  const removing = onOriginal && removed !== 'off';
  const files = useFiles(bench);
  const proofed = useProof(bench);
  const proof = onOriginal ? null : proofed;
  const others = useOthers(bench, removing || alone ? 0 : count, files, proof !== null);
  const shifts = useShifts(
    bench,
    others.flatMap(({ file }) => (file ? [file] : [])),
  );
  const finishing = useFinishLook(bench);
  const finish = onOriginal ? null : finishing;
  const { width, height } = job.piece.findings;
  return useMemo(() => {
    if (!resolved.ok || pane.width < 2) return null;
    const { recipe, plan } = resolved;
    const alike = (one: Recipe) => {
      const seen = finish ? finish.alike(one) : one;
      // What the eye can't resolve from there is taken away from all that is compared.
      return afar === null ? seen : blurredBy(seen, inPixels(eyeBlur(afar), one.target.ppi));
    };
    const shownResult = finish ? finish.recipe : recipe;
    const result =
      afar === null
        ? shownResult
        : blurredBy(shownResult, inPixels(eyeBlur(afar), recipe.target.ppi));
    const layer = onOriginal ? originalLayer : resultLayer;
    const on = onOriginal ? scale * factorOf(plan) : scale;
    const whole = (at: number) => Math.max(1, at);
    /**
     * As a layer is made at its own scale, so at a small one. Of what is drawn from shapes that is no quicker, and of
     * what is cleaned alone the finished picture tells nothing.
     */
    const coarseOf = (make: (at: number) => Layer): Layer | undefined => {
      const small = COARSE / recipe.target.width;
      return !vector && !onOriginal && scale > 2 * small ? make(small) : undefined;
    };
    const treated = layer(original, result, on, true);
    /** Trials are seen as printed, or none of them is. */
    const printed = (one: Layer): Layer => (proof ? { ...one, proof: proof.proof } : one);
    const printedCoarse = (one: Layer | undefined) => one && printed(one);
    const after: Side = {
      ...{ name: trial.name, layer: printed(treated), result: true },
      own: layer(original, result, whole(on), true),
      plain: resultLayer(original, shownResult, 1, true),
      coarse: printedCoarse(coarseOf((at) => resultLayer(original, result, at, true))),
      caption: {
        name: trial.name,
        made:
          proof?.made ??
          finish?.made ??
          (treated.caption ||
            (afar !== null && say`as seen from ${afar} m`) ||
            (vector
              ? say`drawn fresh`
              : trial.pixels === 'kept'
                ? say`its own pixels`
                : madeBy(trial))),
        figure: onOriginal ? `${width} × ${height}` : sizeWords(resolved),
      },
    };
    const untreated = (): Side => {
      const shown = layer(original, recipe, on, false, alike);
      return {
        ...{ name: say`The original`, layer: shown, result: false },
        own: layer(original, recipe, whole(on), false, alike),
        plain: resultLayer(original, recipe, 1, false),
        coarse: coarseOf((at) => resultLayer(original, recipe, at, false, alike)),
        caption: {
          name: say`Original`,
          made: vector ? say`as drawn` : shown.caption,
          figure: vector ? say`shapes` : say`${formatPpi(leastPpi(plan))} ppi`,
        },
      };
    };
    const sideOfFile = (beside: FileBeside): Side => {
      const shift = shifts.get(beside.file.digest);
      const placed = recipeOfFile(recipe, beside, shift);
      const shown =
        beside.dots && scale > 1
          ? dotsLayer(beside.pane, placed, scale, alike)
          : resultLayer(beside.pane, placed, scale, false, alike);
      const ppi = Math.min(
        beside.file.width / (recipe.target.width / recipe.target.ppi),
        beside.file.height / (recipe.target.height / recipe.target.ppi),
      );
      return {
        ...{ name: beside.name, layer: shown, result: false },
        own: resultLayer(beside.pane, placed, whole(scale), false, alike),
        plain: resultLayer(beside.pane, placed, 1, false),
        coarse: coarseOf((at) => resultLayer(beside.pane, placed, at, false, alike)),
        caption: {
          name: beside.name,
          made: beside.made + shiftWords(beside, shift),
          figure: beside.dots
            ? say`${formatPpi(ppi)} dots an inch`
            : say`${beside.file.width} × ${beside.file.height} · ${formatPpi(ppi)} ppi`,
        },
      };
    };
    const sideOf = (other: Other): Side => {
      if (other.file) return sideOfFile(other.file);
      if (!other.resolved?.ok) return untreated();
      const shown = alike(other.resolved.recipe);
      const its = on * (recipe.target.width / shown.target.width);
      const compared = layer(original, shown, its, true);
      const print = other.subject.of === 'screen' ? (one: Layer) => one : printed;
      return {
        ...{ name: other.name, layer: print(compared), result: false },
        own: layer(original, shown, whole(its), true),
        plain: resultLayer(original, other.resolved.recipe, 1, true),
        coarse: coarseOf((at) =>
          print(
            resultLayer(original, shown, (at * recipe.target.width) / shown.target.width, true),
          ),
        ),
        caption: {
          name: other.name,
          made: onOriginal ? compared.caption : other.made,
          figure: sizeWords(other.resolved),
        },
      };
    };
    const sides = others.length > 0 ? others.map(sideOf) : [untreated()];
    const subjects = others.length > 0 ? others.map(({ subject }) => subject) : [ORIGINAL];
    const compared = { beside: sides, before: sides[0]!, subjects };
    if (!removing) return { ...compared, after };
    const made = say`what cleaning took, × ${removed}`;
    const difference = { recipe: sides[0]!.layer.recipe, gain: Number(removed) };
    return {
      ...compared,
      after: {
        ...after,
        layer: { ...treated, against: difference, caption: made },
        caption: { ...after.caption, made },
      },
    };
  }, [
    original,
    resolved,
    others,
    shifts,
    pane,
    onOriginal,
    scale,
    removing,
    removed,
    afar,
    finish,
    proof,
    trial,
    vector,
    width,
    height,
  ]);
}

/** Pixels that the small picture of all is wide, which shows where a place's own pixels are not there yet. */
const COARSE = 480;

/** Whether Clean shows the original's own grid, before anything is enlarged. */
export function useOnOriginal(zoomedThere: boolean): boolean {
  const cleaning = useOpen((open) => open.section === 'clean');
  const removed = useOverlay((overlay) => overlay.removed);
  return cleaning && (zoomedThere || removed !== 'off');
}

const madeBy = (trial: Trial): string =>
  methodNotes[stepOf(trial.treatment, 'enlarge')!.settings.method].title.toLowerCase();

const sizeWords = ({ recipe, plan }: Extract<Resolved, { ok: true }>): string =>
  say`${recipe.target.width} × ${recipe.target.height} · ${formatPpi(plan.ppiAfter)} ppi`;

/** What stands beside the result, resolved anew only when it or what it rests on changes. */
function useOthers(
  bench: WorkBench,
  count: number,
  files: readonly FileBeside[],
  proofing: boolean,
): Other[] {
  const { work, trial, resolve, resolved } = bench;
  const chosen = useChosen((state) => state.beside);
  return useMemo(
    () =>
      count === 0
        ? []
        : shownBeside(work, trial, chosen, count, files, proofing).map((subject): Other => {
            if (subject.of === 'original') {
              return { subject, name: say`Original`, made: '', resolved: null };
            }
            if (subject.of === 'trial') {
              const other = trialOf(work, subject.id);
              return { subject, name: other.name, made: madeBy(other), resolved: resolve(other) };
            }
            if (subject.of === 'screen') {
              const name = say`${trial.name} on the screen`;
              return { subject, name, made: madeBy(trial), resolved };
            }
            if (subject.of === 'file') {
              const file = files.find((one) => one.file.digest === subject.digest)!;
              return { subject, name: file.name, made: file.made, resolved: null, file };
            }
            const { index, name } = stagesOf(trial.treatment).find(
              (stage) => stage.index === subject.step,
            )!;
            const treatment = asFarAs(trial.treatment, index);
            const words = `${trial.name} ${name}`;
            return { subject, name: words, made: '', resolved: resolve({ ...trial, treatment }) };
          }),
    // `resolved` changes whenever what all of them rest on does.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [count, chosen, resolved, trial, work.trials, files, proofing],
  );
}
