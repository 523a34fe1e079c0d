/**
 * Pairs that the cleaners learn from, made with the core itself, so that a network is trained on
 * exactly what it will be given: a clean patch, what became of it, and the classical estimate.
 *
 *   npx tsx training/pairs.ts compression|noise COUNT SEED
 */
import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { random } from '../src/core/testing';
import { compressed, DATA, noisy, Shard, type Pair } from './degrade';

const PATCH = 96;
/** Pictures are degraded with a rim about the patch, which is then taken at any place of the grid. */
const MADE = PATCH + 16;

const [kind, count, seed] = process.argv.slice(2) as ['compression' | 'noise', string, string];
const next = random(Number(seed));
const between = (low: number, high: number) => low + (high - low) * next();
const below = (count: number) => Math.floor(next() * count);

const folder = join(DATA, 'photographs', 'train');
const pictures = await Promise.all(
  readdirSync(folder).map(async (name) => {
    const { data, info } = await sharp(join(folder, name))
      .removeAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    return { samples: data, width: info.width, height: info.height };
  }),
);
// Large pictures more often, but not in proportion.
const weights = pictures.map(({ width, height }) => Math.min(2e6, width * height));
const total = weights.reduce((sum, weight) => sum + weight, 0);

function pick() {
  let at = next() * total;
  const index = weights.findIndex((weight) => (at -= weight) < 0);
  return pictures[Math.max(0, index)]!;
}

/** R, G, B bytes of a square of a picture, mostly where something is to be seen. */
async function square(): Promise<Buffer> {
  for (let tries = 0; ; tries++) {
    const { samples, width, height } = pick();
    const side = MADE * (next() < 0.25 ? 2 : 1);
    if (width <= side || height <= side) continue;
    const place = { left: below(width - side), top: below(height - side) };
    const part = sharp(samples, { raw: { width, height, channels: 3 } })
      .extract({ ...place, width: side, height: side })
      .resize(MADE, MADE)
      .rotate(90 * below(4));
    const bytes = await (next() < 0.5 ? part.flop() : part).raw().toBuffer();
    const { channels } = await sharp(bytes, { raw: { ...size, channels: 3 } }).stats();
    const spread = Math.max(...channels.map((channel) => channel.stdev));
    if (spread > 10 || next() < 0.15 || tries > 20) return bytes;
  }
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
  const clean = await square();
  const pair = await degrade[kind](clean);
  const x = below(MADE - PATCH);
  const y = below(MADE - PATCH);
  shard.add(clean, pair, size, { x, y, width: PATCH, height: PATCH });
  if ((n + 1) % 500 === 0) console.log(`${n + 1} ${kind} pairs`);
}
shard.end();
