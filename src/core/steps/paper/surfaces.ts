import { MM_PER_INCH } from '../../measure/units';
import { expNegative, lengthOf } from '../../raster/portable-math';

/** What a print is made on, as far as ink spreads there. */
export const SURFACES = ['gloss', 'matt', 'canvas', 'vinyl', 'textile'] as const;
export type Surface = (typeof SURFACES)[number];

/**
 * How far ink spreads on a surface: the standard deviation of a Gaussian, in mm. Round figures for inkjet on coated
 * papers, films and woven ground; a shop's own printer may differ by half.
 */
export const INK_SPREAD: Record<Surface, number> = {
  gloss: 0.03,
  vinyl: 0.045,
  matt: 0.06,
  canvas: 0.11,
  textile: 0.17,
};

/** Words in a material's name that tell its surface, in several trades' spellings. */
const TOLD: readonly [RegExp, Surface][] = [
  [/canvas|cotton stretch/i, 'canvas'],
  [/textile|fabric|flag|polyester|knit|cloth/i, 'textile'],
  [/vinyl|film|foil|adhesive|banner|mesh|window/i, 'vinyl'],
  [/gloss|satin|pearl|lustre|luster|photo/i, 'gloss'],
  [/matt|poster|proof|uncoated/i, 'matt'],
];

/** The surface that a material's name tells; null where it tells none. */
export const toldSurface = (material: string | null): Surface | null =>
  TOLD.find(([words]) => words.test(material ?? ''))?.[1] ?? null;

/** The same, taken for matt where it tells none. */
export const surfaceOf = (material: string | null): Surface => toldSurface(material) ?? 'matt';

/**
 * What the eye's own optics blur, as the standard deviation of a Gaussian in minutes of arc: about the line spread
 * that Campbell & Gubisch (1966, "Optical quality of the human eye") measured at pupils of 3 mm.
 */
const EYE_BLUR = 0.5;
/** Lines a degree at which sharpness is judged: where contrast is seen best, and somewhat above (Campbell & Robson 1968). */
export const JUDGED_AT = 8;

/** A degree and a minute of arc in millimetres, from a metre away; the tangent of a minute is the minute, of a degree to 1 in 10,000. */
const DEGREE = (1000 * Math.PI) / 180;
const MINUTE = DEGREE / 60;

/** What becomes of a print's fine detail on its way to the eye. */
export interface SpreadAndEye {
  /** standard deviations in mm on paper */
  ink: number;
  eye: number;
  together: number;
  /** share of the contrast of detail of `JUDGED_AT` lines a degree that is left, 0–1 */
  left: number;
}

/** Millimetres of a print, standard deviation, over which the eye blurs it. @param distance metres */
export const eyeBlur = (distance: number): number => distance * EYE_BLUR * MINUTE;

/**
 * Ink spread and the eye's blur as seen from a distance: variances add up, and a Gaussian of standard deviation s
 * leaves exp(-2 pi^2 s^2 f^2) of a pattern of frequency f.
 * @param distance metres
 */
export function spreadAndEye(surface: Surface, distance: number): SpreadAndEye {
  const ink = INK_SPREAD[surface];
  const eye = eyeBlur(distance);
  const together = lengthOf(ink, eye);
  const blurred = (Math.PI * together * JUDGED_AT) / (distance * DEGREE);
  return { ink, eye, together, left: expNegative(-2 * blurred * blurred) };
}

/** Millimetres on paper in pixels. */
export const inPixels = (mm: number, ppi: number): number => (mm / MM_PER_INCH) * ppi;
