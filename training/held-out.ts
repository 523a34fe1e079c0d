/**
 * The middles of the photographs that are held out, degraded in fixed ways, for the figures that
 * training prints as it goes: npx tsx training/held-out.ts
 */
import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { whole } from '../src/core/raster/region';
import { random } from '../src/core/testing';
import { compressed, DATA, noisy, Shard } from './degrade';

const SIDE = 256;
const size = { width: SIDE, height: SIDE };
const folder = join(DATA, 'photographs', 'held-out');
const middles = await Promise.all(
  readdirSync(folder).map(async (name) => {
    const { width, height } = await sharp(join(folder, name)).metadata();
    const place = { left: (width - SIDE) >> 1, top: (height - SIDE) >> 1 };
    return sharp(join(folder, name))
      .extract({ ...place, ...size })
      .removeAlpha()
      .raw()
      .toBuffer();
  }),
);
for (const quality of [10, 30, 60]) {
  const shard = new Shard(`held-out-compression-${quality}`);
  for (const clean of middles)
    shard.add(clean, await compressed(clean, size, quality, '4:2:0'), size, whole(size));
  shard.end();
}
for (const sigma of [5, 15, 25]) {
  const shard = new Shard(`held-out-noise-${sigma}`);
  for (const clean of middles)
    shard.add(clean, noisy(clean, size, random(3), { sigma }), size, whole(size));
  shard.end();
}
