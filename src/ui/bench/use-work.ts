import { useCallback, useMemo, useState } from 'react';
import type { Findings } from '@/core/inspect/findings';
import type { JobView } from '@/core/shop/job';
import { stepOf, type Trial, type Work } from '@/core/recipe/work';
import { resolveRecipe, type Resolved } from '@/core/recipe/resolve';
import { trialOf } from '@/core/recipe/trials';
import type { StepChoice, StepKind } from '@/core/steps';
import { originalOf, type Original } from '@/core/recipe/original';
import { ALL_MODELS, type Models } from '@/core/learned/models';
import { useModels, usePiece } from '../data/queries';
import { settleNow, useSettling } from '../parts/settling';
import type { Inside } from './placed-bench';
import { useChosen } from './trial-store';

/** The work on the bench: as it stands, how it is changed, and what follows from it. */
export interface WorkBench {
  /** where it is a picture on a page: which, and the bench of the page */
  inside: Inside | null;
  job: JobView;
  original: Original;
  /** what was found, with the kind that the picture is taken for */
  found: Findings;
  work: Work;
  /** the trial on the bench, among those of the work */
  trial: Trial;
  resolved: Resolved;
  models: Models;
  /** what another of its trials comes to */
  resolve(trial: Trial): Resolved;
  /** the same of what is kept, while something is only sketched */
  kept: Resolved;
  /** shows a change at once, without keeping it: while a slider is dragged; null gives it up */
  sketch(change: Change | null): void;
  /** keeps a change under a label for the list of changes */
  change(label: string, change: Change): void;
  undo: (() => void) | null;
  redo: (() => void) | null;
  /** jumps to an entry of the history */
  moveTo(id: number): void;
  /** @param after the place of the step after which it is wanted; the finished picture without one */
  run(after?: number): void;
  running: boolean;
  /** something is on its way to the server */
  saving: boolean;
}

/** Changes a copy of the work, and in it the trial on the bench. */
export type Change = (work: Work, trial: Trial) => void;

const changed = (work: Work, id: string | null, change: Change): Work => {
  const copy = structuredClone(work);
  change(copy, trialOf(copy, id));
  return copy;
};

export function useWorkBench(fetched: JobView): WorkBench {
  const { state, queue } = usePiece(fetched.piece);
  const piece = state.shown;
  const job = useMemo(() => ({ ...fetched, piece }), [fetched, piece]);
  // What is sketched on one picture is nothing to another.
  const [sketch, setSketch] = useState<{ of: number; work: Work } | null>(null);
  const sketched = sketch?.of === piece.id ? sketch.work : null;
  const setSketched = useCallback(
    (work_: Work | null) => setSketch(work_ && { of: piece.id, work: work_ }),
    [piece.id],
  );
  const work = sketched ?? piece.work;
  const chosen = useChosen((state) => state.trial);
  const trial = trialOf(work, chosen);
  const { digest, findings, takenOut } = piece;

  const original = useMemo<Original>(
    () => originalOf(digest, findings, takenOut),
    [digest, findings, takenOut],
  );
  const { data: models = ALL_MODELS } = useModels();
  const resolved = useMemo(
    () => resolveRecipe(original, work, trial, models),
    [original, work, trial, models],
  );
  const kept = useMemo(
    () => resolveRecipe(original, piece.work, trialOf(piece.work, chosen), models),
    [original, piece.work, chosen, models],
  );

  const settling = useSettling();
  const at = piece.history.findIndex((entry) => entry.id === piece.current);
  const moveTo = useCallback(
    (id: number) => {
      settleNow();
      setSketched(null);
      queue.move({ to: id });
    },
    [queue, setSketched],
  );
  const step = (by: -1 | 1) => {
    // A change that is still on its way can be undone too.
    const possible = piece.history[at + by] !== undefined || (by < 0 && state.changing > 0);
    const move = () => {
      settleNow();
      setSketched(null);
      queue.move({ by });
    };
    // What keys just changed can be undone too.
    return possible || (by < 0 && settling) ? move : null;
  };

  return {
    inside: null,
    job,
    original,
    found: work.kind ? { ...findings, kind: work.kind } : findings,
    work,
    trial,
    resolved,
    models,
    resolve: (other) => resolveRecipe(original, work, other, models),
    kept,
    sketch: (change) => setSketched(change && changed(piece.work, chosen, change)),
    change: (label, change) => {
      settleNow();
      setSketched(null);
      const { id } = trialOf(piece.work, chosen);
      // Of that very trial, whichever lies on the bench when its turn comes.
      queue.change(label, (work_) => {
        const of = work_.trials.find((one) => one.id === id);
        if (of) change(work_, of);
      });
    },
    undo: step(-1),
    redo: step(1),
    moveTo,
    run: (after) => {
      settleNow();
      queue.run(trial.id, after ?? null);
    },
    running: state.asking > 0,
    saving: state.changing > 0 || settling,
  };
}

/**
 * A slider's two ways to change a setting: in passing, and for good.
 * @param words what the list of changes says of it
 */
export const slides = (
  { change, sketch }: Pick<WorkBench, 'change' | 'sketch'>,
  put: (value: number) => Change,
  words: (value: number) => string,
) => ({
  onDrag: (value: number) => sketch(put(value)),
  onSet: (value: number) => change(words(value), put(value)),
});

/** A change to the step at a place of the trial's treatment. */
export const ofStepAt =
  (index: number, change: (step: StepChoice) => void): Change =>
  (_, trial) => {
    const step = trial.treatment[index];
    if (step) change(step);
  };

/** A change to one step of the trial. */
export const ofStep =
  <K extends StepKind>(kind: K, change: (step: Extract<StepChoice, { kind: K }>) => void): Change =>
  (_, trial) => {
    const step = stepOf(trial.treatment, kind);
    if (step) change(step);
  };
