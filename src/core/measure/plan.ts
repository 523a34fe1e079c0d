import { z } from 'zod';
import type { Rect } from '../frame/framing';
import type { Region, Size } from '../raster/region';
import { formatNumber } from './format';
import type { Paper } from './paper';
import { MM_PER_INCH, toInches, toPixels } from './units';
import { say } from '../words/say';

/** Resolution of a result in pixels per inch. */
export const Ppi = z.number().min(1).max(4800);

/** Enlargement factors that make sense; beyond them the numbers are a slip of the keyboard. */
export const FACTOR = { least: 1 / 64, most: 64 } as const;

/** The most pixels that a result may have on one side, and in all. */
export const RESULT_LIMIT = { side: 300_000, pixels: 2_000_000_000 } as const;

/** What of an original the paper is planned for. */
export interface Picture {
  /** the framed part, in pixels of the frame */
  rect: Rect;
  /** drawn from shapes: it has no pixels of its own, and no factor to be held to */
  vector?: boolean;
  /** sides of the squares, in pixels of the file, that one of its pixels stood for there */
  repeats?: number;
}

/** All figures that follow from a picture, a paper and a resolution. */
export interface PrintPlan {
  /** pixels of the result: trim and bleed */
  pixels: Size;
  /** where the trimmed print lies in them */
  trim: Region;
  /** where the picture lies in them; the rest is margin and filled bleed */
  picture: Region;
  /** the part of the frame that the picture's place shows, in its pixels */
  source: Rect;
  /** the part of the frame under the whole trim, which may reach beyond the picture */
  window: Rect;
  /** paper that the result covers at its ppi, inches */
  inches: Size;
  /** trimmed paper that was ordered, inches; an open side follows */
  ordered: Size;
  /** result pixels a source pixel, per axis */
  factor: { x: number; y: number };
  /** what the original itself carries on the ordered paper, per axis */
  ppiBefore: { x: number; y: number };
  ppiAfter: number;
  megapixels: number;
  /** uncompressed, RGB, 8 bit */
  bytes: number;
  /** share of the picture that the trim leaves out, 0–1 */
  croppedAway: number;
  /** share of the trimmed paper that stays empty, 0–1 */
  margins: number;
  /** how much wider (above 0) or narrower stretching makes things, as a share */
  distortion: number;
  vector: boolean;
}

/** A plan, or in words why there is none. */
export type PlanResult = { ok: true; plan: PrintPlan } | { ok: false; reason: string };

/**
 * The print plan. Target pixels = round(inches x ppi), and round(bleed x ppi) more on every side;
 * the open side keeps the picture's shape. A shape mismatch of under half a target pixel is
 * stretched away rather than cropped.
 * @param ppi resolution of the result
 */
export function planPrint(
  { rect, vector = false, repeats = 1 }: Picture,
  paper: Paper,
  ppi: number,
): PlanResult {
  const inches = orderedInches(rect, paper, ppi);
  const trimmed = trimPixels(rect, paper, ppi, inches);
  const bleed = Math.round((paper.bleed.mm / MM_PER_INCH) * ppi);
  const pixels = { width: trimmed.width + 2 * bleed, height: trimmed.height + 2 * bleed };
  const asked: Asked = { paper, inches, ppi };
  const tooLarge = refusal(trimmed, pixels, asked, vector ? null : rect);
  if (tooLarge) return { ok: false, reason: tooLarge };

  const trim = { x: bleed, y: bleed, ...trimmed };
  const window = windowOn(rect, inches, trimmed, paper);
  const x = along(
    { start: window.x, span: window.width, pixels: trimmed.width },
    { start: rect.x, span: rect.width },
    bleed,
    paper,
  );
  const y = along(
    { start: window.y, span: window.height, pixels: trimmed.height },
    { start: rect.y, span: rect.height },
    bleed,
    paper,
  );
  const factor = { x: trimmed.width / window.width, y: trimmed.height / window.height };
  const beyond = vector ? null : factorRefusal(factor, trimmed, repeats, asked);
  if (beyond) return { ok: false, reason: beyond };

  const shownX = overlap(window.x, window.width, rect.x, rect.width);
  const shownY = overlap(window.y, window.height, rect.y, rect.height);
  return {
    ok: true,
    plan: {
      pixels,
      trim,
      picture: { x: x.at, y: y.at, width: x.size, height: y.size },
      source: { x: x.start, y: y.start, width: x.span, height: y.span },
      window,
      inches: { width: pixels.width / ppi, height: pixels.height / ppi },
      ordered: inches,
      factor,
      ppiBefore: { x: window.width / inches.width, y: window.height / inches.height },
      ppiAfter: ppi,
      megapixels: (pixels.width * pixels.height) / 1e6,
      bytes: pixels.width * pixels.height * 3,
      croppedAway: 1 - (shownX * shownY) / (rect.width * rect.height),
      margins: Math.max(0, 1 - (shownX * shownY) / (window.width * window.height)),
      distortion: paper.fit === 'stretch' ? factor.x / factor.y - 1 : 0,
      vector,
    },
  };
}

/** The ordered paper in inches; a side that was left open follows the picture's shape. */
function orderedInches(rect: Rect, paper: Paper, ppi: number): Size {
  const { width, height } = sides(paper);
  const shape = rect.width / rect.height;
  const horizontal = { originalPixels: rect.width, ppi };
  const vertical = { originalPixels: rect.height, ppi };
  return {
    width: width ? toInches(width, horizontal) : toInches(height!, vertical) * shape,
    height: height ? toInches(height, vertical) : toInches(width!, horizontal) / shape,
  };
}

function trimPixels(rect: Rect, paper: Paper, ppi: number, inches: Size): Size {
  const { width, height } = sides(paper);
  return {
    width: width
      ? toPixels(width, { originalPixels: rect.width, ppi })
      : Math.round(inches.width * ppi),
    height: height
      ? toPixels(height, { originalPixels: rect.height, ppi })
      : Math.round(inches.height * ppi),
  };
}

/** Without any side given, the paper holds the picture's own pixels. */
const sides = ({ width, height }: Paper) => ({
  width: width ?? (height ? null : ({ value: 100, unit: '%' } as const)),
  height,
});

/** What was asked for: paper, and pixels on it. */
interface Asked {
  paper: Paper;
  inches: Size;
  ppi: number;
}

/** @param source what may not become too small; null where that is of shapes */
function refusal(trim: Size, pixels: Size, asked: Asked, source: Size | null): string | null {
  if (trim.width < 1 || trim.height < 1) {
    const share = Math.max(
      shareFor(asked, 'width', source?.width ?? 1),
      shareFor(asked, 'height', source?.height ?? 1),
    );
    return say`That paper holds less than one pixel. ${nearest(asked, share)}`;
  }
  const side = Math.max(pixels.width, pixels.height);
  const all = pixels.width * pixels.height;
  if (side <= RESULT_LIMIT.side && all <= RESULT_LIMIT.pixels) return null;
  const share = Math.min(RESULT_LIMIT.side / side, Math.sqrt(RESULT_LIMIT.pixels / all));
  return say`That would be ${pixels.width} x ${pixels.height} pixels, more than Lontano makes (${RESULT_LIMIT.pixels / 1e6} megapixels, ${RESULT_LIMIT.side} px a side). ${nearest(asked, share)}`;
}

/** Factors count on the file as it came, whose squares may have become single pixels. */
function factorRefusal(
  factor: { x: number; y: number },
  trim: Size,
  repeats: number,
  asked: Asked,
): string | null {
  const most = Math.max(factor.x, factor.y) / repeats;
  if (most > FACTOR.most) {
    const times = formatNumber(most, most < 100 ? 1 : 0);
    return say`That is ${times} times the original; Lontano goes up to ${FACTOR.most} times. ${nearest(asked, FACTOR.most / most)}`;
  }
  if (Math.min(factor.x, factor.y) >= FACTOR.least) return null;
  const share = Math.max(
    shareFor(asked, 'width', trim.width / factor.x),
    shareFor(asked, 'height', trim.height / factor.y),
  );
  return say`That is less than a ${(1 / FACTOR.least).toFixed(0)}th of the original. ${nearest(asked, share)}`;
}

/** How many times the paper's side it takes for so many pixels not to become too few. */
const shareFor = ({ inches, ppi }: Asked, side: keyof Size, pixels: number): number =>
  Math.ceil(FACTOR.least * pixels) / (inches[side] * ppi);

/** The order that works and is nearest: so many times the size, or the resolution. */
function nearest({ paper, inches, ppi }: Asked, share: number): string {
  const rounded = (value: number, digits: number) =>
    (share < 1 ? Math.floor : Math.ceil)(value * 10 ** digits) / 10 ** digits;
  const order = say`Order ${share < 1 ? say`at most` : say`at least`}`;
  const { value, unit } = sides(paper).width ?? sides(paper).height!;
  // Told in pixels, a paper's resolution changes nothing.
  if (unit === 'px' || unit === '%') {
    const digits = unit === 'px' ? 0 : 2;
    return `${order} ${formatNumber(rounded(value * share, digits), digits)} ${unit}.`;
  }
  const length = (side: number) => {
    const centimetres = (side * share * MM_PER_INCH) / 10;
    const digits = centimetres < 1 ? 3 : centimetres < 10 ? 2 : 1;
    return formatNumber(rounded(centimetres, digits), digits);
  };
  const other = rounded(ppi * share, 0);
  const orOther = Ppi.safeParse(other).success ? say`, or ${other} ppi` : '';
  return say`${order} ${length(inches.width)} x ${length(inches.height)} cm${orOther}.`;
}

/** The part of the frame that lies under the trimmed paper. */
function windowOn(rect: Rect, inches: Size, pixels: Size, { fit, place }: Paper): Rect {
  if (fit === 'stretch') return rect;
  const target = inches.width / inches.height;
  const shape = rect.width / rect.height;
  const alike = Math.abs(target / shape - 1) * Math.max(pixels.width, pixels.height) < 0.5;
  if (alike && place.zoom === 1) return rect;
  const byWidth = fit === 'crop' ? target > shape : target < shape;
  const width = (alike || byWidth ? rect.width : rect.height * target) / place.zoom;
  const height = (alike || !byWidth ? rect.height : rect.width / target) / place.zoom;
  return {
    x: rect.x + place.x * (rect.width - width),
    y: rect.y + place.y * (rect.height - height),
    width,
    height,
  };
}

/** Of an original's pixel: what sums of fractions are off by. */
const TINY = 1e-6;

/**
 * One axis: which whole result pixels show the picture, and what of it they show. Where the
 * picture ends on the paper, its edge is moved to the next whole pixel.
 */
function along(
  window: { start: number; span: number; pixels: number },
  picture: { start: number; span: number },
  bleed: number,
  paper: Paper,
) {
  const scale = window.pixels / window.span;
  const reach = paper.bleed.fill === 'picture' ? bleed : 0;
  const first = bleed - reach;
  const last = bleed + window.pixels + reach;
  const edge = (at: number) => bleed + Math.round((at - window.start) * scale);
  // A margin below half a pixel is none.
  const from = Math.min(Math.max(edge(picture.start), first), last - 1);
  const to = Math.max(Math.min(edge(picture.start + picture.span), last), from + 1);
  const under = (pixel: number) => window.start + (pixel - bleed) / scale;
  const end = picture.start + picture.span;
  // An edge beyond the paper, by however little, is cropped and not drawn onto it.
  const own = {
    start: from === edge(picture.start) && picture.start >= under(first) - TINY,
    end: to === edge(end) && end <= under(last) + TINY,
  };
  const [shownFrom, shownTo] = [own.start ? picture.start : under(from), own.end ? end : under(to)];
  return { at: from, size: to - from, start: shownFrom, span: shownTo - shownFrom };
}

const overlap = (a: number, aSpan: number, b: number, bSpan: number): number =>
  Math.max(0, Math.min(a + aSpan, b + bSpan) - Math.max(a, b));

/** The smaller of both axes: what an uneven enlargement can be trusted with. */
export const leastPpi = (plan: PrintPlan): number => Math.min(plan.ppiBefore.x, plan.ppiBefore.y);

/** The larger factor of both axes. */
export const factorOf = (plan: PrintPlan): number => Math.max(plan.factor.x, plan.factor.y);
