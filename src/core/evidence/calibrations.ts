import { MODELS } from '../learned/models';
import type { UpscaleNumbers } from '../steps/upscale/upscale';

/** How signs tell how far off a cell of a network's result is. */
export interface Calibration {
  /** of the logarithms of what was added and of the edges, and of the severity: a score in one */
  weights: readonly [added: number, edges: number, severity: number];
  /** levels that results are off by such scores (root mean square of luminance, a cell), rising */
  offByScore: readonly (readonly [score: number, off: number])[];
}

/** A calibration, and how well it is known. */
export interface KnownCalibration extends Calibration {
  /**
   * half of all cells are off by no more than so many times as much as is said, and no less: measured on pictures that were
   * left out of the calibration
   */
  usuallyWithin: number;
}

/** Ways of networks to enlarge, each with errors of its own. */
export type Calibrated = 'photo' | 'finest' | 'art' | 'restored';

/**
 * Fitted by least squares and medians on photographs, and on drawings, that no model has learnt from; `npm run bench -- enlarging`
 * fits them anew, leaving out each picture in turn, and measures them on that one. What comes after Restore is fitted on other
 * photographs than it is measured on, by `npm run bench -- restored`.
 */
export const CALIBRATIONS: Record<Calibrated, KnownCalibration> = {
  photo: {
    usuallyWithin: 1.35,
    weights: [0.41, 0.27, 1.29],
    offByScore: [
      [-1.38, 0.67],
      [-1.17, 0.79],
      [-0.99, 0.9],
      [-0.81, 1],
      [-0.59, 1.03],
      [-0.31, 1.53],
      [0.09, 2.09],
      [0.49, 3.39],
      [0.8, 4.92],
      [1.07, 6.78],
      [1.29, 7.7],
      [1.52, 9.13],
      [1.85, 13.49],
    ],
  },
  finest: {
    usuallyWithin: 1.35,
    weights: [0.37, 0.28, 1.31],
    offByScore: [
      [-1.4, 0.67],
      [-1.17, 0.79],
      [-0.98, 0.9],
      [-0.8, 0.99],
      [-0.58, 1.03],
      [-0.32, 1.53],
      [0.11, 2.07],
      [0.51, 3.33],
      [0.82, 4.9],
      [1.07, 6.68],
      [1.28, 7.41],
      [1.5, 8.69],
      [1.83, 12.08],
    ],
  },
  restored: {
    usuallyWithin: 1.5,
    weights: [-0.34, 1.25, 0.97],
    offByScore: [
      [-0.31, 0.67],
      [0.52, 1.68],
      [1.07, 3.41],
      [1.55, 6.18],
      [1.91, 9.03],
      [2.18, 12.16],
      [2.39, 14.83],
      [2.55, 16.58],
      [2.7, 18.78],
      [2.84, 20.45],
      [2.98, 23.05],
      [3.15, 25.42],
      [3.39, 28.45],
    ],
  },
  art: {
    usuallyWithin: 1.5,
    weights: [0.07, 0.73, 1.63],
    offByScore: [
      [-0.62, 0.89],
      [0.22, 1.43],
      [0.91, 5.1],
      [1.35, 7],
      [1.7, 9.41],
      [1.96, 12.17],
      [2.15, 15.48],
      [2.36, 17.16],
      [2.52, 20.14],
      [2.7, 23.33],
      [2.87, 25.69],
      [3.12, 28.92],
      [3.33, 40.57],
    ],
  },
};

/** Which of them tells of a network's enlargement. */
export const calibratedFor = ({ model, finest }: UpscaleNumbers): Calibrated =>
  model === MODELS.art.digest ? 'art' : finest ? 'finest' : 'photo';
