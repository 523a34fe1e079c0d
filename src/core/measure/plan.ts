import { z } from 'zod';
import type { Size } from '../raster/region';
import { Length, toInches, toPixels } from './units';

/** How a picture meets a paper of another shape. */
export const Fit = z.enum(['crop', 'stretch']);
export type Fit = z.infer<typeof Fit>;

/** The ordered paper: one side may be left open and then follows the picture's shape. */
export const Paper = z.object({
  width: Length.nullable(),
  height: Length.nullable(),
  fit: Fit,
});
export type Paper = z.infer<typeof Paper>;

/** Resolution of a result in pixels per inch. */
export const Ppi = z.number().min(1).max(4800);

/** Enlargement factors that make sense; beyond them the numbers are a slip of the keyboard. */
export const FACTOR = { least: 1 / 64, most: 64 } as const;

/** The most pixels that a result may have on one side, and in all. */
export const RESULT_LIMIT = { side: 300_000, pixels: 2_000_000_000 } as const;

/** A real-valued rectangle on the original's pixels. */
export interface SourceRect {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** All figures that follow from an original, a paper and a resolution. */
export interface PrintPlan {
  /** result pixels */
  pixels: Size;
  /** paper that the result covers at its ppi, inches */
  inches: Size;
  /** paper that was ordered, inches; an open side follows */
  ordered: Size;
  /** what of the original is used */
  source: SourceRect;
  /** result pixels a source pixel, per axis */
  factor: { x: number; y: number };
  /** what the original itself carries on the ordered paper, per axis */
  ppiBefore: { x: number; y: number };
  ppiAfter: number;
  megapixels: number;
  /** uncompressed, RGB, 8 bit */
  bytes: number;
  /** share of the original that cropping leaves out, 0–1 */
  croppedAway: number;
  /** how much wider (above 0) or narrower stretching makes things, as a share */
  distortion: number;
}

/** A plan, or in words why there is none. */
export type PlanResult = { ok: true; plan: PrintPlan } | { ok: false; reason: string };

/**
 * The print plan. Target pixels = round(inches x ppi); the open side keeps the picture's shape.
 * A shape mismatch of under half a target pixel is stretched away rather than cropped.
 * @param original pixels of the original
 * @param ppi resolution of the result
 */
export function planPrint(original: Size, paper: Paper, ppi: number): PlanResult {
  const horizontal = { originalPixels: original.width, ppi };
  const vertical = { originalPixels: original.height, ppi };
  const shape = original.width / original.height;
  const open = { value: 100, unit: '%' } as const;
  const width = paper.width ?? (paper.height ? null : open);
  const height = paper.height;

  const inches = {
    width: width ? toInches(width, horizontal) : toInches(height!, vertical) * shape,
    height: height ? toInches(height, vertical) : toInches(width!, horizontal) / shape,
  };
  const pixels = {
    width: width ? toPixels(width, horizontal) : Math.round(inches.width * ppi),
    height: height ? toPixels(height, vertical) : Math.round(inches.height * ppi),
  };
  if (pixels.width < 1 || pixels.height < 1) {
    return {
      ok: false,
      reason: 'That paper holds less than one pixel. Order a larger print or more ppi.',
    };
  }
  const source = sourceRect(original, inches, pixels, paper);
  const factor = { x: pixels.width / source.width, y: pixels.height / source.height };
  const least = Math.min(factor.x, factor.y);
  const most = Math.max(factor.x, factor.y);
  if (most > FACTOR.most || least < FACTOR.least) {
    return {
      ok: false,
      reason:
        most > FACTOR.most
          ? `That is ${most.toFixed(0)} times the original; Lontano goes up to ${FACTOR.most} times. Order a smaller print or fewer ppi.`
          : `That is less than a ${(1 / FACTOR.least).toFixed(0)}th of the original. Order a larger print or more ppi.`,
    };
  }
  const side = Math.max(pixels.width, pixels.height);
  if (side > RESULT_LIMIT.side || pixels.width * pixels.height > RESULT_LIMIT.pixels) {
    return {
      ok: false,
      reason: `That would be ${pixels.width} x ${pixels.height} pixels, more than Lontano makes (${RESULT_LIMIT.pixels / 1e6} megapixels, ${RESULT_LIMIT.side} px a side). Order a smaller print or fewer ppi.`,
    };
  }
  const used = source.width * source.height;
  return {
    ok: true,
    plan: {
      pixels,
      inches: { width: pixels.width / ppi, height: pixels.height / ppi },
      ordered: inches,
      source,
      factor,
      ppiBefore: { x: source.width / inches.width, y: source.height / inches.height },
      ppiAfter: ppi,
      megapixels: (pixels.width * pixels.height) / 1e6,
      bytes: pixels.width * pixels.height * 3,
      croppedAway: 1 - used / (original.width * original.height),
      distortion: paper.fit === 'stretch' ? factor.x / factor.y - 1 : 0,
    },
  };
}

/** The rectangle of the original that fills the paper. */
function sourceRect(original: Size, inches: Size, pixels: Size, paper: Paper): SourceRect {
  const all = { x: 0, y: 0, width: original.width, height: original.height };
  if (paper.fit === 'stretch' || !paper.width || !paper.height) return all;
  const target = inches.width / inches.height;
  const shape = original.width / original.height;
  if (Math.abs(target / shape - 1) * Math.max(pixels.width, pixels.height) < 0.5) return all;
  if (target > shape) {
    const height = original.width / target;
    return { x: 0, y: (original.height - height) / 2, width: original.width, height };
  }
  const width = original.height * target;
  return { x: (original.width - width) / 2, y: 0, width, height: original.height };
}

/** The smaller of both axes: what an uneven enlargement can be trusted with. */
export const leastPpi = (plan: PrintPlan): number => Math.min(plan.ppiBefore.x, plan.ppiBefore.y);

/** The larger factor of both axes. */
export const factorOf = (plan: PrintPlan): number => Math.max(plan.factor.x, plan.factor.y);
