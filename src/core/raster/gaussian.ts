import { grow, type Region, type Size } from './region';
import { expNegative } from './portable-math';
import { strideOf, scratchMemory, type ScratchMemory } from './rows';

/** Pixels around a pixel that a Gaussian of this radius looks at; beyond 3 radii it is below 1 %. */
export const gaussianReach = (radius: number): number => Math.ceil(3 * radius);

/** Weights at distances -reach to reach, not normalised. `radius` is the standard deviation in pixels. */
export function gaussianWeights(radius: number, reach = gaussianReach(radius)): Float64Array {
  return Float64Array.from({ length: 2 * reach + 1 }, (_, i) =>
    expNegative(-((i - reach) * (i - reach)) / (2 * radius * radius)),
  );
}

/**
 * Gaussian blur of one plane, separable; at the picture's borders the weights that remain are
 * renormalised: what lies outside counts as zero, and is left out of the sum of weights.
 * @param plane values over `covered`, which holds `region` and its reach as far as `size` allows
 * @returns the blurred plane over `region`
 */
export function blur(
  plane: Float32Array,
  covered: Region,
  region: Region,
  size: Size,
  radius: number,
): Float32Array {
  const weights = gaussianWeights(radius);
  const reach = (weights.length - 1) / 2;
  const half = weights.subarray(reach);
  const wide = grow(region, reach, size);

  // Rows of the scratchMemory, in floats: the plane, a row of zeros, and four to work in.
  const stride = strideOf(region.width + 2 * reach) + 4;
  const zeros = wide.height * stride;
  const [sums, line, across, totals] = [1, 2, 3, 4].map((k) => zeros + k * stride) as [
    number,
    number,
    number,
    number,
  ];
  const memory = scratchMemory((totals + stride) * 4);
  const { floats } = memory;
  floats.fill(0, 0, totals + stride);
  for (let y = 0; y < wide.height; y++) {
    const start = (wide.y + y - covered.y) * covered.width + wide.x - covered.x;
    floats.set(plane.subarray(start, start + wide.width), y * stride);
  }
  for (let x = 0; x < region.width; x++) {
    floats[totals + x] = totalWeight(weights, region.x + x, reach, size.width);
  }

  const result = new Float32Array(region.width * region.height);
  const inLine = (line + wide.x - (region.x - reach)) * 4;
  for (let y = 0; y < region.height; y++) {
    const middle = region.y + y;
    const row = (k: number): number => {
      const at = middle + k - wide.y;
      return (at < 0 || at >= wide.height ? zeros : at * stride) * 4;
    };
    convolve(memory, sums * 4, row, half, wide.width);
    memory.scaleRow(
      inLine,
      sums * 4,
      1 / totalWeight(weights, middle, reach, size.height),
      wide.width,
    );
    convolve(memory, across * 4, (k) => (line + reach + k) * 4, half, region.width);
    memory.divideRow(across * 4, across * 4, totals * 4, region.width);
    result.set(floats.subarray(across, across + region.width), y * region.width);
  }
  return result;
}

/** Sum of the weights that fall on the picture about one position of an axis. */
function totalWeight(weights: Float64Array, position: number, reach: number, size: number): number {
  let total = 0;
  for (let k = -reach; k <= reach; k++) {
    if (position + k >= 0 && position + k < size) total += weights[reach + k]!;
  }
  return total;
}

/** out = sum over k of half[|k|] x shifted(k), whole rows at a time, two pairs of the kernel a pass. */
function convolve(
  memory: ScratchMemory,
  out: number,
  shifted: (k: number) => number,
  half: Float64Array,
  n: number,
): void {
  memory.scaleRow(out, shifted(0), half[0]!, n);
  for (let k = 1; k < half.length; k += 2) {
    if (k + 1 === half.length) memory.add2(out, shifted(-k), shifted(k), half[k]!, half[k]!, n);
    else {
      memory.addPairs(
        out,
        shifted(-k),
        shifted(k),
        shifted(-k - 1),
        shifted(k + 1),
        half[k]!,
        half[k + 1]!,
        n,
      );
    }
  }
}
