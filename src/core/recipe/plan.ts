import { gridSize, pictureRect, type Framing, type Turn } from '../frame/framing';
import type { Paper } from '../measure/paper';
import {
  factorOf,
  planPrint,
  Ppi,
  type Picture,
  type PlanResult,
  type PrintPlan,
} from '../measure/plan';
import type { Size } from '../raster/region';
import type { Models } from '../learned/models';
import type { Choosing } from '../steps/enlarge/choose';
import type { MountNumbers } from '../steps/mount/mount';
import type { Original } from './original';
import type { Trial, Work } from './work';
import { say } from '../words/say';

/** What of an original a work takes. Shapes have no pixels to be straightened or taken back. */
export const framingOf = (original: Original, { framing }: Pick<Work, 'framing'>): Framing =>
  original.vector ? { ...framing, grid: null, straighten: 0 } : framing;

/** What of an original the paper is planned for. */
export function plannedPicture(original: Original, work: Pick<Work, 'framing'>): Picture {
  const framing = framingOf(original, work);
  return {
    rect: pictureRect(original.size, framing),
    vector: original.vector,
    repeats: original.size.width / gridSize(original.size, framing).width,
  };
}

/** The print plan of an original under a work, at a resolution. */
export const planOf = (
  original: Original,
  work: Pick<Work, 'framing' | 'paper'>,
  ppi: number,
): PlanResult => planPrint(plannedPicture(original, work), work.paper, ppi);

/** A page of shapes as a trial prints it: what pictures placed on it are planned by. */
export interface PlannedPage {
  /** of its nominal grid */
  size: Size;
  turn: Turn;
  plan: PrintPlan;
}

/** Pixels are kept where only the size tag is set; shapes have none to keep. */
export const keepsPixels = (original: Original, trial: Trial): boolean =>
  trial.pixels === 'kept' && !original.vector;

/** The plan of a trial: at its own resolution, or at the one that its pixels come to. */
export function planFor(original: Original, work: Work, trial: Trial): PlanResult {
  const planned = planOf(original, work, trial.ppi);
  if (!planned.ok || !keepsPixels(original, trial)) return planned;
  const { straighten } = work.framing;
  if (straighten !== 0 || Math.abs(planned.plan.distortion) > 1e-3) {
    const what = straighten === 0 ? 'Stretching' : 'Straightening';
    return {
      ok: false,
      reason: say`${what} needs new pixels: it can't be done by the size tag alone.`,
    };
  }
  const ppi = Math.min(planned.plan.ppiBefore.x, planned.plan.ppiBefore.y);
  return Ppi.safeParse(ppi).success
    ? onWholePixels(planOf(original, work, ppi))
    : {
        ok: false,
        reason: say`On that paper its pixels come to ${ppi.toPrecision(2)} ppi, which no tag says.`,
      };
}

/** The same plan with a window of whole pixels, so that each is taken once. */
function onWholePixels(planned: PlanResult): PlanResult {
  if (!planned.ok) return planned;
  const { picture, source } = planned.plan;
  const whole = {
    x: Math.max(0, Math.round(source.x)),
    y: Math.max(0, Math.round(source.y)),
    width: picture.width,
    height: picture.height,
  };
  return { ok: true, plan: { ...planned.plan, source: whole } };
}

/** Below this quality compression leaves more behind than a ringing kernel may be given, or sharpening bring out. */
const HARSH = 60;
export const isHarsh = (...compressions: ({ quality: number | null } | null)[]): boolean =>
  compressions.some((one) => (one?.quality ?? 100) < HARSH);

/** What the automatic choice of a method goes by. */
export const choosingFor = (
  original: Original,
  work: Pick<Work, 'kind'>,
  plan: PrintPlan,
  models: Models,
): Choosing => ({
  kind: work.kind ?? original.kind,
  factor: factorOf(plan),
  harsh: isHarsh(original.jpeg, original.jpeg && original.blocks),
  noise: original.noise.luma,
  pixels: original.size.width * original.size.height,
  tracedBack: original.tracedBack,
  models,
});

/** How the picture lies on its sheet; null where it fills all of it. */
export function mountOf({ pixels, picture, trim }: PrintPlan, paper: Paper): MountNumbers | null {
  const right = picture.x + picture.width;
  const bottom = picture.y + picture.height;
  const fills = right - picture.x === pixels.width && bottom - picture.y === pixels.height;
  if (fills) return null;
  const { fill } = paper.bleed;
  // Where the picture ended before the paper did, its mirror image goes on.
  const bleed = fill === 'picture' ? 'mirror' : fill === 'rim' ? 'clamp' : fill;
  const beyond = (margin: boolean): MountNumbers['left'] => (margin ? 'colour' : bleed);
  return {
    ...pixels,
    x: picture.x,
    y: picture.y,
    left: beyond(picture.x > trim.x),
    top: beyond(picture.y > trim.y),
    right: beyond(right < trim.x + trim.width),
    bottom: beyond(bottom < trim.y + trim.height),
    colour: paper.colour,
  };
}
