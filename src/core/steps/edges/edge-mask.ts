import { blur, gaussianReach } from '../../raster/gaussian';
import { copyRun } from '../../raster/raster';
import { mostAbout, rangeRows } from '../../raster/range';
import { grow, type Region, type Size } from '../../raster/region';
import { scratchLayout, SPARE, strideOf } from '../../raster/rows';

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
/** What is found about edges at the pixels of a region. */
interface Edges {
  /** how much every pixel belongs to one, 0–1 */
  mask: Float32Array;
  /** luminance blurred by the radius, and what it lies over: a little more than the region */
  soft: Float32Array;
  softOver: Region;
}

/**
 * How much every pixel belongs to an edge: by the slope of luminance at the scale of a Gaussian (Canny 1986, "A
 * computational approach to edge detection"), against what an ideal step of the wanted height would have; less where
 * it is little of the range about it, since an even ramp is less than half as steep as a step of its height.
 * @param luma over `covered`, which holds `region` grown by `edgeReach` as far as the picture goes
 */
export function findEdges(
  luma: Float32Array,
  covered: Region,
  region: Region,
  size: Size,
  rule: EdgeRule,
): Edges {
  const banded = grow(region, softeningReach(rule), size);
  const wide = grow(banded, bandReach(rule), size);
  const softOver = grow(wide, 1, size);
  const soft = blur(luma, covered, softOver, size, rule.radius);
  const strength = strengths(luma, covered, soft, softOver, wide, size, rule);
  const band = mostAbout(strength, wide, banded, size, bandReach(rule));
  const mask =
    softeningReach(rule) === 0 ? band : blur(band, banded, region, size, softening(rule));
  return { mask, soft, softOver };
}

/** The same pixel by pixel, before it is given its band. */
function strengths(
  luma: Float32Array,
  covered: Region,
  soft: Float32Array,
  softOver: Region,
  region: Region,
  size: Size,
  { radius, hard, ramps }: EdgeRule,
): Float32Array {
  const { width, height } = region;
  const strength = new Float32Array(width * height);
  // Beyond the picture its rim is repeated.
  const line = strideOf(width + 2) + SPARE;
  const allocate = scratchLayout();
  const lines = [allocate(line), allocate(line), allocate(line), allocate(line)] as const;
  const reach = gaussianReach(radius);
  rangeRows(luma, covered, region, size, reach, allocate(0), (memory, { least, most, own }, y) => {
    const { floats } = memory;
    const row = (off: number, k: number): number => {
      const at = Math.min(Math.max(region.y + y + off, 0), size.height - 1);
      const start = (at - softOver.y) * softOver.width;
      const to = own / 4 + lines[k]!;
      const left = softOver.x - (region.x - 1);
      copyRun(soft, start, floats, to + left, softOver.width);
      if (left > 0) floats[to] = floats[to + 1]!;
      if (left + softOver.width < width + 2) floats[to + width + 1] = floats[to + width]!;
      return (to + 1) * 4;
    };
    const out = own + 4 * lines[3];
    const [above, middle, below] = [row(-1, 0), row(0, 1), row(1, 2)];
    memory.edgeRow(out, above, middle, below, least, most, radius * ROOT, hard, ramps, width);
    copyRun(floats, out / 4, strength, y * width, width);
  });
  return strength;
}
