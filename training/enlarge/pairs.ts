/**
 * Pairs that the enlargers learn from: a large patch, and the small one that it became, cleaned by
 * the core itself where it was compressed.
 *
 *   npx tsx training/enlarge/pairs.ts photo|art COUNT SEED
 */
import { random } from '../../src/core/testing';
import { fromSamples } from '../../src/core/raster/samples';
import { squaresOf } from '../photographs';
import { drawing } from './drawings';
import { degrade, FACTOR, PairShard, type Reduction } from './degrade';

const SMALL = 64;
/** Pictures are degraded with a rim about the patch, which is then taken at any place of the grid. */
const MADE = SMALL + 16;
const LARGE = MADE * FACTOR;

const [kind, count, seed] = process.argv.slice(2) as ['photo' | 'art', string, string];
const next = random(Number(seed));
const between = (low: number, high: number) => low + (high - low) * next();
const below = (end: number) => Math.floor(next() * end);

const large =
  kind === 'photo'
    ? await squaresOf(next, {
        side: LARGE,
        times: () => (next() < 0.2 ? between(1, 2) : 1),
        spread: 12,
        plain: 0.1,
      })
    : () => drawing(next, LARGE);

function reduction(): Reduction {
  const at = next();
  return at < 0.72 ? 'bicubic' : at < 0.86 ? 'lanczos3' : 'bilinear';
}

const shard = new PairShard(`${kind}-${seed}`);
for (let n = 0; n < Number(count); n++) {
  const bytes = await large();
  const compressed = next() < (kind === 'photo' ? 0.55 : 0.45);
  const pair = await degrade(fromSamples(bytes, LARGE, LARGE, 3, 8), next, {
    reduction: reduction(),
    ...(compressed
      ? {
          jpeg: {
            quality: Math.round(next() < 0.5 ? between(12, 60) : between(50, 96)),
            chromaSubsampling: next() < 0.75 ? '4:2:0' : '4:4:4',
            learned: next() < 0.6,
          },
        }
      : { noise: next() < 0.12 ? between(0.5, 3) : 0 }),
  });
  const x = below(MADE - SMALL);
  const y = below(MADE - SMALL);
  shard.add(pair, { x, y, width: SMALL, height: SMALL });
  if ((n + 1) % 250 === 0) console.log(`${n + 1} ${kind} pairs`);
}
shard.end();
