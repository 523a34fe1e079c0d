import type { Face } from '../faces/face';
import type { Blur, Findings } from '../inspect/findings';
import type { Kind } from '../inspect/kind';
import type { TracedBack } from '../inspect/findings';
import type { Ground } from '../inspect/grounds';
import type { History } from '../inspect/history';
import type { JpegFacts } from '../inspect/jpeg';
import type { Noise } from '../inspect/noise';
import type { TonePoints } from '../inspect/tones';
import type { Size } from '../raster/region';

/** What is known of an original besides its pixels; all that resolving may depend on. */
export interface Original {
  /** SHA-256 of the file, as hexadecimal digits */
  digest: string;
  /** of the page that is worked on; of shapes: its nominal grid */
  size: Size;
  /** what kind of picture it is */
  kind: Kind;
  jpeg: JpegFacts | null;
  /** where a block of earlier compression begins, 0–7, and its quality, in a file that no longer says so */
  blocks: { x: number; y: number; quality: number | null } | null;
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
}

/** Pixels that edges take to rise where none could be measured, and the fewest that they can. */
const USUAL_EDGE = 2;
const LEAST_EDGE = 1.3;

/** What resolving needs of what was found. */
export const originalOf = (digest: string, findings: Findings): Original => ({
  digest,
  size: { width: findings.width, height: findings.height },
  kind: findings.kind,
  jpeg: findings.jpeg,
  blocks: findings.jpeg
    ? null
    : {
        x: findings.blocking.offsetX,
        y: findings.blocking.offsetY,
        quality: findings.formerQuality,
      },
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
});
