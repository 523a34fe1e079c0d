import { sameShape } from '../evidence/evidence';
import type { Size } from '../raster/region';
import type { MountNumbers } from '../steps/mount/mount';
import type { ResampleNumbers } from '../steps/resample/resample';
import type { Recipe } from './recipe';

/** A picture file that is laid on a paper. */
export interface PictureFile extends Size {
  digest: string;
  page: number;
  alpha: boolean;
}

/**
 * A picture file on the paper of a recipe: its own pixels, in the middle where its shape is another.
 * @param shift how far it is moved, in pixels of the result
 */
export function fileOnPaper(
  { target, ...recipe }: Recipe,
  { digest, page, width, height, alpha }: PictureFile,
  shift: { x: number; y: number } = { x: 0, y: 0 },
): Recipe {
  const [across, down] = [target.width / width, target.height / height];
  const fits = sameShape({ width, height }, target);
  const scale = Math.min(across, down);
  const shown = fits
    ? target
    : {
        width: Math.max(1, Math.round(width * scale)),
        height: Math.max(1, Math.round(height * scale)),
      };
  const numbers: ResampleNumbers = {
    ...{ method: 'nearest', light: 'gamma', limit: 0, step: 10, turn: 0, straighten: 0 },
    ...{ width: shown.width, height: shown.height },
    source: {
      x: (-shift.x * width) / shown.width,
      y: (-shift.y * height) / shown.height,
      ...{ width, height },
    },
  };
  const inMiddle: MountNumbers = {
    ...{ width: target.width, height: target.height, colour: recipe.colour },
    x: (target.width - shown.width) >> 1,
    y: (target.height - shown.height) >> 1,
    ...{ left: 'colour', right: 'colour', top: 'colour', bottom: 'colour' },
  };
  return {
    ...{ ...recipe, target },
    alpha: alpha ? 'laid' : 'none',
    original: { digest, page, width, height, drawn: null },
    steps: [
      { kind: 'resample', strength: 100, numbers },
      ...(fits ? [] : [{ kind: 'mount' as const, strength: 100, numbers: inMiddle }]),
    ],
  };
}
