import type { Face } from '../faces/face';
import { earlierBlocks, type EarlierBlocks } from '../inspect/earlier-blocks';
import type { Blur, Findings, TracedBack } from '../inspect/findings';
import type { Kind } from '../inspect/kind';
import type { Ground } from '../inspect/grounds';
import type { History } from '../inspect/history';
import type { JpegFacts } from '../inspect/jpeg';
import type { Noise } from '../inspect/noise';
import type { TonePoints } from '../inspect/tones';
import type { Affine, TakenOut } from '../placed/placed';
import type { Size } from '../raster/region';
import type { Depth } from '../raster/samples';

/** What is known of an original besides its pixels; all that resolving may depend on. */
export interface Original {
  /** SHA-256 of the file, as hexadecimal digits */
  digest: string;
  /** of the page that is worked on; of shapes: its nominal grid */
  size: Size;
  /** bits a sample */
  depth: Depth;
  /** what kind of picture it is */
  kind: Kind;
  jpeg: JpegFacts | null;
  /** of earlier compression, where it was coarser than what the file says of itself */
  blocks: EarlierBlocks | null;
  noise: Noise;
  /** what happened to it before it came, where that is known */
  history: History | null;
  tones: TonePoints;
  /** how true a drawing is when it is traced */
  tracedBack: TracedBack | null;
  /** the largest first */
  faces: readonly Face[];
  /** flat colours that a drawing lies on */
  grounds: readonly Ground[];
  /** pixels that its sharp edges take to rise */
  edgeWidth: number;
  blur: Blur | null;
  alpha: boolean;
  /** drawn from shapes, at any size */
  vector: boolean;
  /** pictures on a page of shapes that were taken out of it */
  pictures: readonly PlacedOriginal[];
}

/** A picture on a page of shapes, as an original of its own. */
export interface PlacedOriginal {
  /** its number among the page's pictures */
  picture: number;
  place: Affine;
  /** how often the page shows it */
  times: number;
  original: Original;
}

/** Pixels that edges take to rise where none could be measured, and the fewest that they can. */
const USUAL_EDGE = 2;
const LEAST_EDGE = 1.3;

/**
 * What resolving needs of what was found.
 * @param takenOut pictures of a page of shapes, taken out of it
 */
export const originalOf = (
  digest: string,
  findings: Findings,
  takenOut: readonly TakenOut[] = [],
): Original => ({
  digest,
  size: { width: findings.width, height: findings.height },
  depth: findings.bitDepth,
  kind: findings.kind,
  jpeg: findings.jpeg,
  blocks: earlierBlocks(findings),
  noise: findings.noise,
  history: findings.history,
  tones: findings.tones,
  tracedBack: findings.tracedBack,
  faces: findings.faces,
  grounds: findings.grounds,
  edgeWidth: findings.blur === null ? USUAL_EDGE : Math.max(LEAST_EDGE, findings.blur.width),
  blur: findings.blur,
  alpha: findings.alpha,
  vector: findings.vector !== null,
  pictures: takenOut.flatMap(({ picture, ...taken }) => {
    const { place, times } = findings.vector?.pictures[picture - 1] ?? { place: null, times: 1 };
    const original = originalOf(taken.digest, taken.findings);
    return place ? [{ picture, place, times, original }] : [];
  }),
});
