import { z } from 'zod';
import type { Rect } from '../frame/framing';
import type { Region, Size } from '../raster/region';
import type { Paper } from './paper';
import { MM_PER_INCH, toInches, toPixels } from './units';

/** Resolution of a result in pixels per inch. */
export const Ppi = z.number().min(1).max(4800);

/**
 * Enlargement factors that make sense: a small symbol of pixel squares may fill a wall. Beyond them
 * the numbers are a slip of the keyboard.
 */
export const FACTOR = { least: 1 / 64, most: 512 } as const;

/** The most pixels that a result may have on one side, and in all. */
export const RESULT_LIMIT = { side: 300_000, pixels: 2_000_000_000 } as const;

/** What of an original the paper is planned for. */
export interface Picture {
  /** the framed part, in pixels of the frame */
  rect: Rect;
  /** drawn from shapes: it has no pixels of its own, and no factor to be held to */
  vector?: boolean;
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
  { rect, vector = false }: Picture,
  paper: Paper,
  ppi: number,
): PlanResult {
  const inches = orderedInches(rect, paper, ppi);
  const trimmed = trimPixels(rect, paper, ppi, inches);
  const bleed = Math.round((paper.bleed.mm / MM_PER_INCH) * ppi);
  const pixels = { width: trimmed.width + 2 * bleed, height: trimmed.height + 2 * bleed };
  const tooLarge = refusal(trimmed, pixels);
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
  const beyond = vector ? null : factorRefusal(factor);
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

function refusal(trim: Size, pixels: Size): string | null {
  if (trim.width < 1 || trim.height < 1) {
    return 'That paper holds less than one pixel. Order a larger print or more ppi.';
  }
  const side = Math.max(pixels.width, pixels.height);
  if (side > RESULT_LIMIT.side || pixels.width * pixels.height > RESULT_LIMIT.pixels) {
    return `That would be ${pixels.width} x ${pixels.height} pixels, more than Lontano makes (${RESULT_LIMIT.pixels / 1e6} megapixels, ${RESULT_LIMIT.side} px a side). Order a smaller print or fewer ppi.`;
  }
  return null;
}

function factorRefusal(factor: { x: number; y: number }): string | null {
  const most = Math.max(factor.x, factor.y);
  if (most > FACTOR.most) {
    return `That is ${most.toFixed(0)} times the original; Lontano goes up to ${FACTOR.most} times. Order a smaller print or fewer ppi.`;
  }
  return Math.min(factor.x, factor.y) < FACTOR.least
    ? `That is less than a ${(1 / FACTOR.least).toFixed(0)}th of the original. Order a larger print or more ppi.`
    : null;
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
  const at = (pixel: number, own: number) =>
    pixel === edge(own) ? own : window.start + (pixel - bleed) / scale;
  const start = at(from, picture.start);
  const end = at(to, picture.start + picture.span);
  return { at: from, size: to - from, start, span: end - start };
}

const overlap = (a: number, aSpan: number, b: number, bSpan: number): number =>
  Math.max(0, Math.min(a + aSpan, b + bSpan) - Math.max(a, b));

/** The smaller of both axes: what an uneven enlargement can be trusted with. */
export const leastPpi = (plan: PrintPlan): number => Math.min(plan.ppiBefore.x, plan.ppiBefore.y);

/** The larger factor of both axes. */
export const factorOf = (plan: PrintPlan): number => Math.max(plan.factor.x, plan.factor.y);
