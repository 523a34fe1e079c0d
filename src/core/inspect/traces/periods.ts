import { transformOf } from '../transform';
import { logarithm, type Square } from './square';

/** Columns and rows are looked at in runs of so many, filled up with nothing. */
const RUN = 256;
const transform = transformOf(RUN);
/** Frequencies of blocks of eight pixels. */
const BLOCKS = [1, 2, 3, 4].map((harmonic) => (harmonic * RUN) / 8);
/** Slower than this is the picture itself, and so near to a block's frequency is that. */
const [SLOWEST, NEAR] = [RUN / 16, 2];

/**
 * What comes back every few pixels in how columns and rows bend: blocks of compression at every eighth, a picture that
 * was resized at other places (Gallagher 2005).
 */
export function periodTraces(squares: readonly Square[]): number[] {
  const power = new Float64Array(RUN / 2 + 1);
  for (const square of squares) {
    addPower(power, bends(square, true));
    addPower(power, bends(square, false));
  }
  const others = [...power.keys()].filter(
    (f) => f >= SLOWEST && BLOCKS.every((block) => Math.abs(f - block) > NEAR),
  );
  const sorted = others.map((f) => power[f]!).sort((a, b) => a - b);
  const usual = (sorted[sorted.length >> 1] ?? 0) + 1e-9;
  const over = (value: number) => Math.log(value / usual + 1e-3);
  const peaks = others
    .filter((f) => power[f]! >= power[f - 1]! && power[f]! >= (power[f + 1] ?? 0))
    .sort((a, b) => power[b]! - power[a]!);
  return [
    ...BLOCKS.map((block) =>
      over(Math.max(power[block - 1]!, power[block]!, power[block + 1] ?? 0)),
    ),
    ...[0, 1].flatMap((i) => {
      const peak = peaks[i];
      return peak === undefined ? [0, 0] : [over(power[peak]!), peak / RUN];
    }),
    ...strangeGrid(over, power),
    logarithm(usual),
  ];
}

/** Blocks of a picture that was resized after it had been compressed: from so many pixels to so many, in steps of 1 %. */
const STRANGE = { least: 4.4, most: 22, step: 1.01 } as const;
const HARMONICS = 4;

/**
 * The grid of other than eight pixels whose frequencies stand out most: by how much on the mean, its pitch, and how
 * much it stands out from what such grids do by chance.
 */
function strangeGrid(over: (power: number) => number, power: Float64Array): number[] {
  const scores: number[] = [];
  let best = { score: -Infinity, pitch: 8 };
  for (let pitch = STRANGE.least; pitch <= STRANGE.most; pitch *= STRANGE.step) {
    let [sum, count] = [0, 0];
    for (let h = 1; h <= HARMONICS; h++) {
      const f = (h * RUN) / pitch;
      if (f < SLOWEST || f > RUN / 2 || BLOCKS.some((block) => Math.abs(f - block) <= NEAR)) {
        continue;
      }
      const low = Math.floor(f);
      const high = Math.min(low + 1, RUN / 2);
      sum += over(Math.max(power[low]!, power[high]!));
      count++;
    }
    if (count < 2) continue;
    const score = sum / Math.sqrt(count);
    scores.push(score);
    if (score > best.score) best = { score, pitch };
  }
  const mean = scores.reduce((sum, score) => sum + score, 0) / scores.length;
  const spread = Math.sqrt(
    scores.reduce((sum, score) => sum + (score - mean) ** 2, 0) / scores.length,
  );
  return [best.score, 8 / best.pitch, (best.score - mean) / (spread + 0.01)];
}

/** How much the columns (or rows) of a square bend, each on the mean of its logarithms, less what is usual about it. */
function bends({ luma, width, height }: Square, across: boolean): Float64Array {
  const [step, other] = across ? [1, width] : [width, 1];
  const [count, lines] = across ? [width, height] : [height, width];
  const length = Math.min(count, RUN);
  const all = new Float64Array(length);
  for (let i = 1; i < length - 1; i++) {
    let sum = 0;
    for (let line = 0; line < lines; line++) {
      const at = line * other + i * step;
      sum += Math.log(1 + Math.abs(2 * luma[at]! - luma[at - step]! - luma[at + step]!));
    }
    all[i] = sum / lines;
  }
  const result = new Float64Array(RUN);
  const ABOUT = 4;
  for (let i = 1 + ABOUT; i < length - 1 - ABOUT; i++) {
    let about = 0;
    for (let j = -ABOUT; j <= ABOUT; j++) about += all[i + j]! / (2 * ABOUT + 1);
    result[i] = all[i]! - about;
  }
  return result;
}

function addPower(power: Float64Array, values: Float64Array): void {
  const imaginary = new Float64Array(RUN);
  transform(values, imaginary);
  for (let f = 0; f < power.length; f++) power[f]! += values[f]! ** 2 + imaginary[f]! ** 2;
}
