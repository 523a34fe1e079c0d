import type { Findings } from '../inspect/findings';
import type { Kind } from '../inspect/kind';
import { eyePpi, sharpFrom } from './eye';
import { formatNumber, formatPpi } from './format';
import { leastPlaced } from './placed-ppi';
import { leastPpi, type PrintPlan } from './plan';
import { MM_PER_INCH } from './units';
import { say } from '../words/say';

/** How a print will look at its distance: good, with reserve, or not usable. */
export type Tone = 'good' | 'caution' | 'trouble';

export interface Verdict {
  tone: Tone;
  /** a few words for a row of the board */
  short: string;
  /** its effective resolution and what is needed, as facts */
  fact: string;
  /** what follows from it */
  judgement: string;
}

/** What a verdict looks at besides the plan. */
export type Judged = Pick<
  Findings,
  'kind' | 'detail' | 'jpeg' | 'compressedBefore' | 'vector' | 'damaged'
>;

type Page = NonNullable<Findings['vector']>;

/** Real resolution is told beside the nominal one where it is less than this share of it. */
const TELLING = 0.85;
/** Below this share of what is needed, even the best enlargement looks soft. */
const ENOUGH = 0.5;
const BARELY = 0.12;
/** Below this quality blocks have eaten what enlarging could bring out … */
const RUINED_QUALITY = 12;
/** … and with less real resolution than this the pixels only say that there is more. */
const HOLLOW = 0.12;

/** Lettering and line work are judged by their edges, for which the eye asks twice as much. */
export const isLineWork = (kind: Kind): boolean => kind === 'line art';

/** Resolution that is needed at a distance (metres) for such a picture, in ppi. */
export const eyeNeed = (metres: number, kind: Kind): number =>
  eyePpi(metres) * (isLineWork(kind) ? 2 : 1);

/** The distance in metres from which so many ppi look sharp. */
export const holdsFrom = (ppi: number, kind: Kind): number =>
  sharpFrom(isLineWork(kind) ? ppi / 2 : ppi);

/** The resolution of what a picture really shows: nominal pixels that carry no detail do not count, in ppi. */
export const realPpi = (plan: PrintPlan, { detail, kind }: Pick<Judged, 'detail' | 'kind'>) =>
  leastPpi(plan) * (detail === null || kind === 'pixel squares' ? 1 : Math.sqrt(detail));

/** The ordered paper in centimetres, for sentences. */
export const paperWords = ({ ordered }: PrintPlan): string => {
  const cm = (inches: number) => formatNumber((inches * MM_PER_INCH) / 10, 1);
  return say`${cm(ordered.width)} x ${cm(ordered.height)} cm`;
};

/**
 * The effective resolution of the original on the ordered paper against what is needed from there.
 * @param metres viewing distance
 */
export function verdict(plan: PrintPlan, metres: number, found: Judged): Verdict {
  const seen = say`Seen from ${formatNumber(metres)} m, ${formatPpi(eyeNeed(metres, found.kind))} ppi are needed${
    isLineWork(found.kind) ? say`, twice as many as for a photograph, since it is line work` : ''
  }.`;
  if (found.vector) return ofPage(found.vector, plan, metres);
  const carried = leastPpi(plan);
  const real = realPpi(plan, found);
  const hollow =
    real < TELLING * carried ? say` Its real detail is that of ${formatPpi(real)} ppi.` : '';
  const fact = say`Effective resolution at ${paperWords(plan)}: ${formatPpi(carried)} ppi.${hollow} ${seen}`;
  const share = real / eyeNeed(metres, found.kind);
  const from = formatNumber(holdsFrom(real, found.kind), 1);
  const wrong = notUsable(found);
  if (wrong && (share < 2 || found.damaged > 0)) {
    return {
      tone: 'trouble',
      short: say`not usable, ask for another file`,
      fact,
      judgement: say`${wrong} Ask for another file.`,
    };
  }
  if (found.kind === 'pixel squares') {
    return {
      tone: 'good',
      short: say`squares stay squares`,
      fact,
      judgement: say`Its squares stay sharp at any size.`,
    };
  }
  if (share >= 1) {
    return {
      tone: 'good',
      short: say`holds from ${from} m`,
      fact,
      judgement: say`The picture holds by itself from ${from} m on.`,
    };
  }
  if (share >= ENOUGH) {
    return {
      tone: 'good',
      short: say`enlarging is enough`,
      fact,
      judgement: say`Enlarging is enough; the finest lettering may look soft.`,
    };
  }
  if (share >= BARELY) {
    return {
      tone: 'caution',
      short: say`enlarge, fine print stays soft`,
      fact,
      judgement: say`Enlarging helps; fine lettering will stay soft.`,
    };
  }
  return {
    tone: 'trouble',
    short: say`ask for a larger file`,
    fact,
    judgement: say`That is too far apart: ask the customer for a larger file.`,
  };
}

/** Of a page of shapes: by the picture on it that carries least, looked at as a photograph. */
function ofPage(page: Page, plan: PrintPlan, metres: number): Verdict {
  const need = eyePpi(metres);
  const seen = say`Seen from ${formatNumber(metres)} m, ${formatPpi(need)} ppi are needed.`;
  const least = leastPlaced(page, plan);
  const drawn = say`At ${paperWords(plan)} it is drawn fresh`;
  if (!least) {
    return {
      tone: 'good',
      short: say`drawn at any size`,
      fact: `${drawn}. ${seen}`,
      judgement: say`There are no pixels to enlarge.`,
    };
  }
  const fact = say`${drawn}, but for pictures: the effective resolution of number ${least.picture} is ${formatPpi(least.ppi)} ppi. ${seen}`;
  const share = least.ppi / need;
  if (share >= 1) {
    return {
      tone: 'good',
      short: say`its pictures hold`,
      fact,
      judgement: say`Its pictures hold by themselves.`,
    };
  }
  if (share >= ENOUGH) {
    const judgement = say`Enlarging its pictures is enough.`;
    return { tone: 'good', short: say`enlarge its pictures`, fact, judgement };
  }
  if (share >= BARELY) {
    const judgement = say`Enlarging helps its pictures; their finest detail will stay soft.`;
    return { tone: 'caution', short: say`its pictures stay soft`, fact, judgement };
  }
  const judgement = say`A picture on it is far too small: ask the customer for the page with its pictures in full size.`;
  return { tone: 'trouble', short: say`ask for larger pictures`, fact, judgement };
}

/** Damage that no treatment takes away, in a sentence; null where there is none. */
export function notUsable(findings: Judged): string | null {
  const { jpeg, compressedBefore, detail, damaged, kind } = findings;
  if (damaged > 0) return say`A part of the file is missing.`;
  const quality = compressedBefore?.quality ?? jpeg?.quality ?? 100;
  if (quality < RUINED_QUALITY) {
    return say`JPEG quality ${quality} has left blocks where detail was.`;
  }
  if (detail !== null && detail < HOLLOW && kind !== 'pixel squares') {
    return say`Only about ${Math.max(1, Math.round(detail * 100))} % of its pixels hold detail: it was enlarged before, or never sharp.`;
  }
  return null;
}

/** Inches that a postcard is wide: a scan of one is what customers most often can make. */
const POSTCARD = 6;

/** What a customer may have that would do better, by what the picture is. @param scan ppi for a scan of a postcard */
function helpOf(kind: Kind, scan: number): string {
  const drawing = say`Is there the file that it was drawn in (PDF, SVG or EPS)? Whoever made it has it, and it prints sharp at any size. If it is lettering, the name of the font helps as well.`;
  const photograph = say`Is there the file as it came from the camera, not sent through a messenger or saved from a web page? If there is a print of it, 15 cm wide, a scan at ${scan} ppi would do; of a larger one accordingly less.`;
  switch (kind) {
    case 'flat artwork':
    case 'line art':
    case 'pixel squares':
      return drawing;
    case 'mixed':
      return say`Is there the page as it was laid out, as a PDF with its pictures in full size? Otherwise: ${photograph.charAt(0).toLowerCase()}${photograph.slice(1)}`;
    case 'photograph':
      return photograph;
  }
}

/**
 * A note to the customer that is ready to be sent: what is wrong, and how many pixels or what scan
 * would do. Null where the picture does.
 * @param name the file as the customer knows it
 */
export function customerNote(
  name: string,
  size: { width: number; height: number },
  plan: PrintPlan,
  metres: number,
  found: Judged,
): string | null {
  const { tone } = verdict(plan, metres, found);
  if (tone === 'good') return null;
  if (found.vector) return pageNote(name, found.vector, plan, metres);
  const need = eyeNeed(metres, found.kind);
  const pixels = (inches: number) => Math.ceil((inches * need) / 100) * 100;
  const wanted = say`${pixels(plan.ordered.width)} x ${pixels(plan.ordered.height)} pixels`;
  const why =
    notUsable(found) ?? say`On that paper it has ${formatPpi(leastPpi(plan))} pixels an inch.`;
  return [
    say`Your picture ${name} has ${size.width} x ${size.height} pixels. ${why}`,
    say`For a print of ${paperWords(plan)} seen from ${formatNumber(metres)} m, about ${wanted} would do it justice.`,
    helpOf(found.kind, Math.ceil((plan.ordered.width * need) / POSTCARD / 50) * 50),
    tone === 'trouble'
      ? say`We would rather not print this file as it is.`
      : say`If there is none we can enlarge this one; fine details will stay soft.`,
  ].join('\n\n');
}

/** The note about a page whose shapes do and whose pictures don't. */
function pageNote(name: string, page: Page, plan: PrintPlan, metres: number): string | null {
  const least = leastPlaced(page, plan);
  if (!least) return null;
  const { placed, ppi } = least;
  const share = eyePpi(metres) / ppi;
  const pixels = (side: number) => Math.ceil((side * share) / 100) * 100;
  return [
    say`Your page ${name} is fine but for a picture on it of ${placed.width} x ${placed.height} pixels: at ${paperWords(plan)} it has ${formatPpi(ppi)} pixels an inch.`,
    say`Seen from ${formatNumber(metres)} m, about ${pixels(placed.width)} x ${pixels(placed.height)} pixels would do it justice.`,
    say`Is there the page saved with its pictures in full size, or this picture alone as it came from the camera?`,
    say`If there is none we can enlarge this one; fine details will stay soft.`,
  ].join('\n\n');
}
