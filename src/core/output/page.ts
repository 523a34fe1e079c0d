import type { Rect } from '../frame/framing';
import { MM_PER_INCH } from '../measure/units';
import type { Size } from '../raster/region';
import { hasMarks, type Marks } from './marks';

/** Points of a PDF to an inch, and to a millimetre. */
export const POINTS = 72;
const PT = POINTS / MM_PER_INCH;

/** Marks begin so far beyond the bleed, are so long, and the sheet ends so far beyond them, in millimetres. */
const GAP = 2;
const LENGTH = 5;
const RIM = 1.5;
/** Height of the slug's letters, in millimetres. */
const LETTERS = 2.4;
/** No side of a page is longer than this many of its units (ISO 32000-1, annex C). */
const LONGEST = 14_400;

/** A line of a mark. */
export interface Stroke {
  from: { x: number; y: number };
  to: { x: number; y: number };
  dashed: boolean;
}

/** Where all that a page holds lies: in points, from its lower left corner, as a PDF counts. */
export interface PageLayout {
  /** how many points one unit of the page stands for: 1, or more where it is longer than 200 inches */
  unit: number;
  media: Size;
  trim: Rect;
  bleed: Rect;
  picture: Rect;
  strokes: readonly Stroke[];
  /** centres of registration marks */
  targets: readonly { x: number; y: number; radius: number }[];
  /** where the slug begins, how high its letters are, and how long it may be; null without one */
  slug: { x: number; y: number; size: number; length: number } | null;
}

/**
 * A page of exactly a result's size, and of what is printed about it.
 * @param pixels of the result, bleed included
 * @param bleed pixels of it beyond the trim on every side
 */
export function layOutPage(
  { width, height, ppi, bleed }: Size & { ppi: number; bleed: number },
  marks: Marks,
): PageLayout {
  const points = (pixels: number) => (pixels / ppi) * POINTS;
  const around = hasMarks(marks) ? (GAP + LENGTH + RIM) * PT : 0;
  const picture = { x: around, y: around, width: points(width), height: points(height) };
  const b = points(bleed);
  const trim = {
    x: around + b,
    y: around + b,
    width: points(width - 2 * bleed),
    height: points(height - 2 * bleed),
  };
  const media = { width: picture.width + 2 * around, height: picture.height + 2 * around };
  return {
    ...{ unit: Math.max(1, Math.ceil(Math.max(media.width, media.height) / LONGEST)) },
    ...{ media, trim, bleed: picture, picture },
    strokes: [
      ...(marks.crop ? cropMarks(trim, picture) : []),
      ...marks.folds.flatMap((fold) => foldMarks(fold, trim, picture)),
    ],
    targets: marks.registration ? targetsOf(picture) : [],
    slug: marks.slug
      ? {
          x: trim.x,
          y: RIM * PT,
          size: LETTERS * PT,
          // It stays clear of the mark at the middle and of those at the corner.
          length: trim.width / (marks.registration ? 2 : 1) - 2 * LENGTH * PT,
        }
      : null,
  };
}

/** Two lines at every corner, in line with the trim, beyond the bleed. */
function cropMarks(trim: Rect, picture: Rect): Stroke[] {
  return [trim.x, trim.x + trim.width]
    .flatMap((x) => upright(x, picture, false))
    .concat([trim.y, trim.y + trim.height].flatMap((y) => level(y, picture, false)));
}

/** A dashed line at both ends of a fold; none where it lies beyond the print. */
function foldMarks({ along, mm }: Marks['folds'][number], trim: Rect, picture: Rect): Stroke[] {
  const side = along === 'width' ? trim.width : trim.height;
  const at = mm * PT;
  if (at >= side) return [];
  // Heights are told from the top, and a page counts from below.
  return along === 'width'
    ? upright(trim.x + at, picture, true)
    : level(trim.y + trim.height - at, picture, true);
}

function upright(x: number, picture: Rect, dashed: boolean): Stroke[] {
  const below = picture.y - GAP * PT;
  const above = picture.y + picture.height + GAP * PT;
  return [
    { from: { x, y: below }, to: { x, y: below - LENGTH * PT }, dashed },
    { from: { x, y: above }, to: { x, y: above + LENGTH * PT }, dashed },
  ];
}

function level(y: number, picture: Rect, dashed: boolean): Stroke[] {
  const left = picture.x - GAP * PT;
  const right = picture.x + picture.width + GAP * PT;
  return [
    { from: { x: left, y }, to: { x: left - LENGTH * PT, y }, dashed },
    { from: { x: right, y }, to: { x: right + LENGTH * PT, y }, dashed },
  ];
}

/** A circle with a cross at the middle of each side. */
function targetsOf(picture: Rect) {
  const away = (GAP + LENGTH / 2) * PT;
  const radius = (LENGTH / 2) * PT;
  const [x, y] = [picture.x + picture.width / 2, picture.y + picture.height / 2];
  return [
    { x: picture.x - away, y, radius },
    { x: picture.x + picture.width + away, y, radius },
    { x, y: picture.y - away, radius },
    { x, y: picture.y + picture.height + away, radius },
  ];
}
