/**
 * Pairs that the cleaners learn from, made with the core itself, so that a network is trained on
 * exactly what it will be given: a clean patch, what became of it, and the classical estimate.
 *
 *   npx tsx training/pairs.ts compression|noise COUNT SEED
 */
import sharp from 'sharp';
import { random } from '../src/core/testing';
import { compressed, noisy, Shard, type Pair } from './degrade';
import { squaresOf } from './photographs';

const PATCH = 96;
/** Pictures are degraded with a rim about the patch, which is then taken at any place of the grid. */
const MADE = PATCH + 16;

const [kind, count, seed] = process.argv.slice(2) as ['compression' | 'noise', string, string];
const next = random(Number(seed));
const between = (low: number, high: number) => low + (high - low) * next();
const below = (count: number) => Math.floor(next() * count);

const square = await squaresOf(next, {
  side: MADE,
  times: () => (next() < 0.25 ? 2 : 1),
  spread: 10,
  plain: 0.15,
});

/** Turned and mirrored at random. */
async function turned(bytes: Buffer): Promise<Buffer> {
  const part = sharp(bytes, { raw: { ...size, channels: 3 } }).rotate(90 * below(4));
  return (next() < 0.5 ? part.flop() : part).raw().toBuffer();
}

const size = { width: MADE, height: MADE };

const degrade = {
  compression: (clean: Uint8Array): Promise<Pair> =>
    compressed(
      clean,
      size,
      Math.round(next() < 0.6 ? between(6, 45) : between(30, 92)),
      next() < 0.75 ? '4:2:0' : '4:4:4',
    ),
  noise: async (clean: Uint8Array): Promise<Pair> => {
    const sigma = next() < 0.5 ? between(2, 12) : between(8, 32);
    // Grain of film and of sensors is alike in all channels to a part.
    const shared = next() < 0.3 ? next() * 0.8 : 0;
    return noisy(clean, size, next, { sigma, shared, taken: sigma * between(0.92, 1.1) });
  },
};

const shard = new Shard(`${kind}-${seed}`);
for (let n = 0; n < Number(count); n++) {
  const clean = await turned(await square());
  const pair = await degrade[kind](clean);
  const x = below(MADE - PATCH);
  const y = below(MADE - PATCH);
  shard.add(clean, pair, size, { x, y, width: PATCH, height: PATCH });
  if ((n + 1) % 500 === 0) console.log(`${n + 1} ${kind} pairs`);
}
shard.end();
