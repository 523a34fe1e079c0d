import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { DATA } from './degrade';

/** A square of a photograph that may be learnt from: where it is taken, and how much larger. */
export interface Square {
  side: number;
  /** how many times as large it is taken, before it is reduced to `side` */
  times: () => number;
  /** spread of its strongest channel, in levels, from which on there is something to be seen … */
  spread: number;
  /** … and how often it is taken all the same */
  plain: number;
}

/**
 * Squares of the photographs, mostly where something is to be seen, as R, G, B bytes.
 * @param next random numbers, 0–1
 */
export async function squaresOf(
  next: () => number,
  { side, times, spread, plain }: Square,
): Promise<() => Promise<Buffer>> {
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
  const below = (end: number) => Math.floor(next() * end);
  return async () => {
    for (let tries = 0; ; tries++) {
      let at = next() * total;
      const index = weights.findIndex((weight) => (at -= weight) < 0);
      const { samples, width, height } = pictures[Math.max(0, index)]!;
      const taken = Math.round(side * times());
      if (width <= taken || height <= taken) continue;
      const place = { left: below(width - taken), top: below(height - taken) };
      const part = sharp(samples, { raw: { width, height, channels: 3 } })
        .extract({ ...place, width: taken, height: taken })
        .resize(side, side);
      const bytes = await part.raw().toBuffer();
      const { channels } = await sharp(bytes, {
        raw: { width: side, height: side, channels: 3 },
      }).stats();
      const strongest = Math.max(...channels.map((channel) => channel.stdev));
      if (strongest > spread || next() < plain || tries > 20) return bytes;
    }
  };
}
