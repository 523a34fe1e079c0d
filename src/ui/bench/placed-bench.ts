import { canonicalJson } from '@/core/recipe/canonical';
import type { PlacedOriginal } from '@/core/recipe/original';
import type { PlannedPage } from '@/core/recipe/plan';
import { placedIn, placedWork, putPlaced, putPlacedTrial } from '@/core/recipe/placed-work';
import { propose } from '@/core/recipe/propose';
import { resolveRecipe, type Resolved } from '@/core/recipe/resolve';
import { trialOf } from '@/core/recipe/trials';
import type { Trial } from '@/core/recipe/work';
import { NOTHING_KEPT } from '../data/comparing';
import type { Change, WorkBench } from './use-work';
import { say } from '@/core/words/say';

/** A picture on a page of shapes, on the bench as one of its own: what is done to it is kept in the page's work. */
export interface Inside {
  /** its number among the page's pictures */
  picture: number;
  page: WorkBench;
}

/** The bench of a picture on a page; null where it is not there any more, or the page can't be planned. */
export function placedBench(page: WorkBench, picture: number): WorkBench | null {
  const placed = page.original.pictures.find((one) => one.picture === picture);
  const taken = page.job.piece.takenOut.find((one) => one.picture === picture);
  const planned = plannedPage(page, page.resolved);
  if (!placed || !taken || !planned) return null;
  const { original } = placed;
  const work = placedWork(page.work, page.trial, placed, planned);
  const trial = trialOf(work, page.trial.id);
  const resolved = resolveRecipe(original, work, trial, page.models);
  const inside = insideOf(page, placed, planned);
  const { findings } = taken;
  const order = { ...work, ppi: trial.ppi };
  return {
    ...page,
    ...{ original, work, trial, resolved },
    inside: { picture, page },
    found: work.kind ? { ...findings, kind: work.kind } : findings,
    job: {
      ...page.job,
      runs: [],
      piece: {
        ...page.job.piece,
        id: NOTHING_KEPT,
        ...{ digest: taken.digest, findings, work, takenOut: [] },
        fileName: say`${page.job.piece.fileName}, picture ${picture}`,
        reasons: propose(findings, order).reasons,
      },
    },
    resolve: (other) => resolvedFor(page, placed, other),
    kept: resolvedKept(page, placed),
    sketch: (change) => page.sketch(change && inside(change)),
    change: (label, change) => page.change(say`Picture ${picture}: ${label}`, inside(change)),
  };
}

const plannedPage = ({ original, work }: WorkBench, resolved: Resolved): PlannedPage | null =>
  resolved.ok ? { size: original.size, turn: work.framing.turn, plan: resolved.plan } : null;

/** What another trial of the page comes to for the picture: on that trial's own grid. */
function resolvedFor(page: WorkBench, placed: PlacedOriginal, { id }: Trial): Resolved {
  const trial = trialOf(page.work, id);
  const outer = page.resolve(trial);
  const planned = plannedPage(page, outer);
  if (!outer.ok || !planned) return outer;
  const work = placedWork(page.work, trial, placed, planned);
  return resolveRecipe(placed.original, work, trialOf(work, id), page.models);
}

function resolvedKept(page: WorkBench, placed: PlacedOriginal): Resolved {
  const { kept, job, trial } = page;
  const planned = plannedPage(page, kept);
  if (!kept.ok || !planned) return kept;
  const work = placedWork(job.piece.work, trialOf(job.piece.work, trial.id), placed, planned);
  return resolveRecipe(placed.original, work, trialOf(work, trial.id), page.models);
}

/** A change of the picture's work as one of its page's. */
const insideOf =
  ({ work: { framing } }: WorkBench, placed: PlacedOriginal, planned: PlannedPage) =>
  (change: Change): Change =>
  (work, trial) => {
    const which = { page: framing.page, picture: placed.picture };
    const before = placedWork(work, trial, placed, planned);
    const after = structuredClone(before);
    change(after, trialOf(after, trial.id));
    const { kind, zones } = after;
    if (!alike([kind, zones], [before.kind, before.zones])) putPlaced(work, which, { kind, zones });
    work.begun = after.begun;
    work.trials = after.trials.map((one) => {
      const outer = work.trials.find(({ id }) => id === one.id);
      const own = outer ?? { ...structuredClone(trial), id: one.id };
      own.name = one.name;
      const { treatment, guards } = one;
      const was = before.trials.find(({ id }) => id === one.id);
      const changed = !was || !alike([treatment, guards], [was.treatment, was.guards]);
      if (changed) {
        const on = placedIn(own, which)?.on ?? true;
        putPlacedTrial(own, which, { on, treatment, guards });
      }
      return own;
    });
  };

const alike = (a: unknown, b: unknown): boolean => canonicalJson(a) === canonicalJson(b);
