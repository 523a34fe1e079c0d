import { forward8 } from '../../steps/transform/dct';
import { logarithm, type Square } from './square';

const BLOCK = 8;
/** Waves of a block by their frequency: the first band holds one wave a block, the last the finest. */
const BANDS = 8;
const COLOUR_BANDS = 4;
/** Parts of the blocks, from the plainest to the busiest. */
const PARTS = 4;
const COLOUR_PARTS = 2;
/** Blocks nearer to black or white tell nothing: there tones are cut off. */
const [DARK, LIGHT] = [5, 250];

/** Band of each of a block's 64 coefficients; -1 for the mean. */
const bandOf = (bands: number): Int8Array =>
  Int8Array.from({ length: BLOCK * BLOCK }, (_, i) => {
    const radius = Math.round(Math.hypot(i % BLOCK, i >> 3));
    return radius === 0 ? -1 : Math.min(bands, Math.ceil((radius * bands) / BLOCK)) - 1;
  });

/**
 * How much of every frequency there is in luminance, in plain and in busy blocks, and in the colour differences: blur
 * and compression take the fine away, noise fills plain blocks alike, sharpening lifts the fine of busy ones.
 * @returns logarithms of energies (levels squared)
 */
export function bandTraces(squares: readonly Square[]): number[] {
  const luma = energiesOf(squares, ({ luma: plane }) => [plane], BANDS);
  const colour = energiesOf(squares, ({ cb, cr }) => [cb, cr], COLOUR_BANDS);
  return [...parted(luma, PARTS, BANDS), ...parted(colour, COLOUR_PARTS, COLOUR_BANDS)];
}

/** Mean energies of a block's coefficients, band by band. */
function energiesOf(
  squares: readonly Square[],
  planesOf: (square: Square) => Float32Array[],
  bands: number,
): Float64Array[] {
  const band = bandOf(bands);
  const counts = new Float64Array(bands);
  band.forEach((b) => b >= 0 && counts[b]!++);
  const block = new Float64Array(BLOCK * BLOCK);
  const rows = new Float64Array(BLOCK * BLOCK);
  const blocks: Float64Array[] = [];
  for (const square of squares) {
    const { luma, width, height } = square;
    for (const plane of planesOf(square)) {
      for (let y = 0; y + BLOCK <= height; y += BLOCK) {
        for (let x = 0; x + BLOCK <= width; x += BLOCK) {
          let mean = 0;
          for (let i = 0; i < block.length; i++) {
            const at = (y + (i >> 3)) * width + x + (i % BLOCK);
            block[i] = plane[at]!;
            mean += luma[at]! / block.length;
          }
          if (mean < DARK || mean > LIGHT) continue;
          for (let i = 0; i < BLOCK; i++) forward8(block, i * BLOCK, 1, rows, i * BLOCK, 1);
          for (let i = 0; i < BLOCK; i++) forward8(rows, i, BLOCK, block, i, BLOCK);
          const energies = new Float64Array(bands);
          block.forEach((c, i) => {
            const b = band[i]!;
            if (b >= 0) energies[b]! += (c * c) / counts[b]!;
          });
          blocks.push(energies);
        }
      }
    }
  }
  return blocks;
}

/**
 * Blocks in parts by how much of the coarse they hold: of every part and band the mean of the logarithms and the
 * logarithm of the mean.
 */
function parted(blocks: Float64Array[], parts: number, bands: number): number[] {
  const sorted = blocks
    .map((energies) => ({ energies, busy: energies[0]! + energies[1]! }))
    .sort((a, b) => a.busy - b.busy);
  return Array.from({ length: parts }, (_, part) => {
    const begin = Math.floor((part * sorted.length) / parts);
    const own = sorted.slice(begin, Math.floor(((part + 1) * sorted.length) / parts));
    return Array.from({ length: bands }, (_, b) => {
      const mean = own.reduce((sum, { energies }) => sum + energies[b]!, 0) / (own.length || 1);
      const logs = own.reduce((sum, { energies }) => sum + logarithm(energies[b]!), 0);
      return [logs / (own.length || 1), logarithm(mean)];
    }).flat();
  }).flat();
}
