import { logarithm, type Square } from './square';

const BLOCK = 8;
/** Shares of the blocks that are taken for plain. */
const QUIET = [0.08, 0.3];
/** How far apart the pixels are that are compared, across and down. */
const LAGS = [
  [1, 0],
  [0, 1],
  [1, 1],
  [2, 0],
  [0, 2],
] as const;

/** Where the variances of luminance and of a colour difference lie among a block's products. */
export const LUMA = 0;
export const CB = 1 + LAGS.length;

export interface Block {
  /** mean of luminance */
  mean: number;
  /** variance of luminance, by which quiet blocks are told */
  busy: number;
  /** of luminance and of both differences: variance, then the products at every lag */
  products: Float64Array;
  /** of luminance with both differences, and of these with each other */
  across: number;
}

/**
 * What is left in plain blocks once their own slope is taken out, and how alike neighbours are in it: noise is white,
 * grain is not, and compression leaves waves or nothing.
 */
export function grainTraces(blocks: readonly Block[]): number[] {
  const each = 1 + LAGS.length;
  return QUIET.flatMap((share) => {
    const own = blocks.slice(0, Math.ceil(share * blocks.length));
    const sums = new Float64Array(3 * each);
    let across = 0;
    for (const block of own) {
      block.products.forEach((value, i) => (sums[i]! += value / own.length));
      across += block.across / own.length;
    }
    const perPlane = [0, 1, 2].flatMap((plane) => {
      const variance = sums[plane * each]!;
      const lags = LAGS.map((_, i) => sums[plane * each + 1 + i]! / (variance + 0.02));
      return [logarithm(variance), ...lags];
    });
    return [...perPlane, across / (sums[0]! + 0.02)];
  });
}

/** The blocks of all squares, the plainest first. */
export const plainestFirst = (squares: readonly Square[]): Block[] =>
  squares.flatMap(blocksOf).sort((a, b) => a.busy - b.busy);

function blocksOf({ luma, cb, cr, width, height }: Square): Block[] {
  const planes = [luma, cb, cr];
  const residuals = planes.map(() => new Float64Array(BLOCK * BLOCK));
  const blocks: Block[] = [];
  const each = 1 + LAGS.length;
  for (let y = 0; y + BLOCK <= height; y += BLOCK) {
    for (let x = 0; x + BLOCK <= width; x += BLOCK) {
      const mean = planes.map((plane, p) => withoutSlope(plane, width, x, y, residuals[p]!))[0]!;
      if (mean < 5 || mean > 250) continue;
      const products = new Float64Array(3 * each);
      residuals.forEach((values, p) => {
        products[p * each] = product(values, values, 0, 0);
        LAGS.forEach(([u, v], i) => (products[p * each + 1 + i] = product(values, values, u, v)));
      });
      const across = product(residuals[0]!, residuals[1]!, 0, 0);
      blocks.push({ mean, busy: products[0]!, products, across: Math.abs(across) });
    }
  }
  return blocks;
}

/** A block less the plane that fits it best. @returns its mean */
function withoutSlope(
  plane: Float32Array,
  width: number,
  left: number,
  top: number,
  residual: Float64Array,
): number {
  let [mean, across, down] = [0, 0, 0];
  for (let i = 0; i < residual.length; i++) {
    const value = plane[(top + (i >> 3)) * width + left + (i % BLOCK)]!;
    residual[i] = value;
    mean += value;
    across += value * ((i % BLOCK) - 3.5);
    down += value * ((i >> 3) - 3.5);
  }
  // The squares of -3.5 to 3.5 add up to 42, eight times over.
  [mean, across, down] = [mean / 64, across / 336, down / 336];
  for (let i = 0; i < residual.length; i++) {
    residual[i]! -= mean + across * ((i % BLOCK) - 3.5) + down * ((i >> 3) - 3.5);
  }
  return mean;
}

/** The mean product of two blocks, one moved. */
function product(a: Float64Array, b: Float64Array, u: number, v: number): number {
  let sum = 0;
  for (let y = 0; y < BLOCK - v; y++) {
    for (let x = 0; x < BLOCK - u; x++) sum += a[y * BLOCK + x]! * b[(y + v) * BLOCK + x + u]!;
  }
  return sum / ((BLOCK - u) * (BLOCK - v));
}
