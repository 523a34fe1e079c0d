import { UNFRAMED } from '../frame/framing';
import { OPEN_PAPER } from '../measure/paper';
import { usualOutput } from '../output/output';
import { spotOn } from '../placed/place';
import { newStep } from './order';
import type { PlacedOriginal } from './original';
import type { PlannedPage } from './plan';
import type { PlacedTrial, PlacedWork, Trial, Work } from './work';

/** Which picture of which page. */
type Which = Pick<PlacedWork, 'page' | 'picture'>;

/** What is done where nothing was decided: nothing, smoothly enlarged. */
const UNTREATED: Trial['treatment'] = [newStep('enlarge', { method: 'bicubic' })];

/** Whether something is of that picture. */
export const isOf =
  ({ page, picture }: Which) =>
  (one: Which): boolean =>
    one.page === page && one.picture === picture;

/** What a trial of a page does to one of its pictures; undefined where it is drawn as it came. */
export const placedIn = (trial: Trial, which: Which): PlacedTrial | undefined =>
  trial.placed.find(isOf(which));

/**
 * The work on a picture placed on a page: ordered at exactly the pixels that it fills on the page's print. All else is
 * a work like any other, so that the picture is looked at, resolved and rendered as one of its own.
 * @param trial whose resolution it is planned for
 * @param plan of that trial's page
 */
export function placedWork(
  work: Work,
  trial: Trial,
  { picture, place }: PlacedOriginal,
  { size, plan, turn }: PlannedPage,
): Work {
  const which = { page: work.framing.page, picture };
  const spot = spotOn(place, size, { source: plan.source, turn }, plan.picture);
  const { kind, zones } = work.placed.find(isOf(which)) ?? { kind: null, zones: [] };
  const { width, height } = spot.pixels;
  return {
    ...work,
    framing: UNFRAMED,
    paper: {
      ...OPEN_PAPER,
      width: { value: width, unit: 'px' },
      height: { value: height, unit: 'px' },
      fit: 'stretch',
    },
    ...{ kind, zones, placed: [] },
    trials: work.trials.map((one) => placedTrial(one, which, trial.ppi)),
  };
}

/** What a trial does to a picture, or would where nothing was decided. */
const decidedIn = (trial: Trial, which: Which) =>
  placedIn(trial, which) ?? { treatment: UNTREATED, guards: trial.guards };

/** Draws a picture as a trial treats it, or as it came, in place. */
export function drawTreated(trial: Trial, which: Which, on: boolean): void {
  const { treatment, guards } = decidedIn(trial, which);
  putPlacedTrial(trial, which, { on, treatment, guards });
}

/** A page's trial as one of the picture; where it does nothing to it, as it came. */
function placedTrial(trial: Trial, which: Which, ppi: number): Trial {
  const { treatment, guards } = decidedIn(trial, which);
  return {
    ...{ id: trial.id, name: trial.name, ppi, pixels: 'new', treatment, guards, placed: [] },
    output: { ...usualOutput('tiff', 8), alpha: 'keep' },
    fileName: null,
    house: null,
  };
}

/** Puts what is decided about a picture for all trials into the work of its page, in place. */
export function putPlaced(
  work: Work,
  which: Which,
  decided: Omit<PlacedWork, 'page' | 'picture'>,
): void {
  const at = work.placed.findIndex(isOf(which));
  work.placed.splice(at < 0 ? work.placed.length : at, at < 0 ? 0 : 1, { ...which, ...decided });
}

/** Puts what a trial does to a picture into it, in place. */
export function putPlacedTrial(
  trial: Trial,
  which: Which,
  decided: Omit<PlacedTrial, 'page' | 'picture'>,
): void {
  const at = trial.placed.findIndex(isOf(which));
  trial.placed.splice(at < 0 ? trial.placed.length : at, at < 0 ? 0 : 1, { ...which, ...decided });
}
