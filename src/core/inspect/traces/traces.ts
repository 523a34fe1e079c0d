import type { JpegFacts } from '../jpeg';
import { nearestQuality } from '../jpeg-quality';
import { bandTraces } from './bands';
import { toneTraces as noiseByTone } from './by-tone';
import { grainTraces, plainestFirst, type Block } from './grain';
import { periodTraces } from './periods';
import { profileTraces } from './profiles';
import { logarithm, type Square } from './square';

/** What a file says of its own compression. */
export type OwnCompression = Pick<JpegFacts, 'luma' | 'chroma' | 'samplingX'>;

/**
 * Figures in which damage leaves traces, of some squares of a picture: what a network is given that tells what happened
 * to it (training/customers/measure.py).
 * @param squares of a JPEG, each beginning where a block of it does
 * @param own how the file says that it was compressed; null where it says nothing
 * @param blocks of the squares, the plainest first
 * @returns numbers of no unit, always as many
 */
export function tracesOf(
  squares: readonly Square[],
  own: OwnCompression | null,
  blocks: readonly Block[] = plainestFirst(squares),
): Float32Array {
  return Float32Array.from([
    ...bandTraces(squares),
    ...grainTraces(blocks),
    ...profileTraces(squares),
    ...periodTraces(squares),
    ...toneTraces(squares),
    ...ownTraces(own),
  ]);
}

/** The same, and where in the tones noise is: what a network is given that tells of what kind it is. */
export const kindTraces = (traces: Float32Array, blocks: readonly Block[]): Float32Array =>
  Float32Array.from([...traces, ...noiseByTone(blocks)]);

/** How light it is, how much its tones differ, and how many are cut off. */
function toneTraces(squares: readonly Square[]): number[] {
  let [count, sum, squared, dark, light] = [0, 0, 0, 0, 0];
  for (const { luma } of squares) {
    for (const level of luma) {
      count++;
      sum += level;
      squared += level * level;
      if (level < 2) dark++;
      if (level > 253) light++;
    }
  }
  const mean = sum / Math.max(1, count);
  const variance = Math.max(0, squared / Math.max(1, count) - mean * mean);
  return [mean / 255, logarithm(variance), ...[dark, light].map((n) => n / Math.max(1, count))];
}

function ownTraces(own: OwnCompression | null): number[] {
  if (!own) return [0, 0, 0];
  const { quality } = nearestQuality(own.luma, own.chroma);
  return [1, (100 - quality) / 60, own.samplingX > 1 ? 1 : 0];
}
