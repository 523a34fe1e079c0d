import { CB, LUMA, type Block } from './grain';
import { logarithm } from './square';

/** Noise is looked at in so many parts of the tones … */
const TONES = 4;
/** … in this share of the blocks of each, the plainest, of which there are so many at least. */
const PLAIN = 0.25;
const FEW = 3;

/**
 * Where in the tones noise is, from the darkest to the lightest: how many plain blocks there are, and how much is left in them
 * of luminance and of a colour difference, beyond what is left in plain blocks of all tones.
 * @param blocks the plainest first
 */
export function toneTraces(blocks: readonly Block[]): number[] {
  const all = plainest(blocks);
  return Array.from({ length: TONES }, (_, tone) => {
    const own = plainest(blocks.filter(({ mean }) => Math.floor((mean * TONES) / 256) === tone));
    if (own.length < FEW) return [0, 0, 0];
    const beyond = (plane: number) => leftIn(own, plane) - leftIn(all, plane);
    return [Math.min(1, (TONES * own.length) / all.length), beyond(LUMA), beyond(CB)];
  }).flat();
}

const plainest = (own: readonly Block[]): readonly Block[] =>
  own.slice(0, Math.ceil(PLAIN * own.length));

const leftIn = (own: readonly Block[], variance: number): number =>
  logarithm(own.reduce((sum, { products }) => sum + products[variance]!, 0) / own.length);
