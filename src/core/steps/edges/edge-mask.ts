import { blur, gaussianReach } from '../../raster/gaussian';
import { lengthOf, smoothStep } from '../../raster/portable-math';
import { cutPlane } from '../../raster/raster';
import { rangeAbout } from '../../raster/range';
import { grow, type Region, type Size } from '../../raster/region';

/** What counts as an edge. */
export interface EdgeRule {
  /** standard deviation of the blur at whose scale edges are looked for, in pixels */
  radius: number;
  /** how far an edge climbs, on the 0–1 scale */
  hard: number;
  /** how far it counts to every side, in pixels */
  band: number;
  /** how much what climbs slowly is left out, 0–1 */
  ramps: number;
}

const bandReach = ({ band }: EdgeRule): number => Math.max(1, Math.ceil(band));
const softening = ({ band }: EdgeRule): number => band / 2;
const softeningReach = (rule: EdgeRule): number =>
  softening(rule) < 0.3 ? 0 : gaussianReach(softening(rule));

/** Pixels about a pixel that its strength looks at. */
export const edgeReach = (rule: EdgeRule): number =>
  softeningReach(rule) + bandReach(rule) + 1 + gaussianReach(rule.radius);

/** A step that is blurred by s is steepest by its height over s times this: the root of 2 pi. */
const ROOT = 2.5066282746310002;
/** A hard edge is as steep as its whole climb says; an even ramp less than half of that. */
const RAMP = { none: 0.5, whole: 0.8 } as const;

/**
 * How much every pixel belongs to an edge, 0–1: by the slope of luminance at the scale of a Gaussian (Canny 1986,
 * "A computational approach to edge detection"), against what an ideal step of the wanted height would have.
 * @param luma over `covered`, which is at least `region` grown by `edgeReach` as far as the picture goes
 */
export function edgeMask(
  luma: Float32Array,
  covered: Region,
  region: Region,
  size: Size,
  rule: EdgeRule,
): Float32Array {
  const reach = gaussianReach(rule.radius);
  const soft = grow(region, softeningReach(rule), size);
  const wide = grow(soft, bandReach(rule), size);
  const sloped = grow(wide, 1, size);
  const blurred = blur(luma, covered, sloped, size, rule.radius);
  const looked = grow(wide, reach, size);
  const { least, most } = rangeAbout(cutPlane(luma, covered, looked), looked, wide, reach);
  const strength = new Float32Array(wide.width * wide.height);
  const { width, height } = sloped;
  for (let v = 0, i = 0; v < wide.height; v++) {
    const y = wide.y + v - sloped.y;
    for (let u = 0; u < wide.width; u++, i++) {
      const x = wide.x + u - sloped.x;
      const at = y * width + x;
      const across = blurred[at + (x + 1 < width ? 1 : 0)]! - blurred[at - (x > 0 ? 1 : 0)]!;
      const down = blurred[at + (y + 1 < height ? width : 0)]! - blurred[at - (y > 0 ? width : 0)]!;
      const climb = (lengthOf(across, down) / 2) * rule.radius * ROOT;
      let own = smoothStep(climb, rule.hard / 2, rule.hard);
      if (own > 0 && rule.ramps > 0) {
        const range = Math.max(most[i]! - least[i]!, 1e-6);
        own *= 1 - rule.ramps * (1 - smoothStep(climb / range, RAMP.none, RAMP.whole));
      }
      strength[i] = own;
    }
  }
  const banded = rangeAbout(strength, wide, soft, bandReach(rule)).most;
  return softeningReach(rule) === 0 ? banded : blur(banded, soft, region, size, softening(rule));
}
