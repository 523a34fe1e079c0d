/**
 * What no enlarger learns from, degraded in fixed ways, for the figures that training prints as it
 * goes and for the bench: npx tsx training/enlarge/held-out.ts
 */
import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { whole } from '../../src/core/raster/region';
import { fromSamples } from '../../src/core/raster/samples';
import { random } from '../../src/core/testing';
import { DATA } from '../degrade';
import { degrade, FACTOR, PairShard } from './degrade';
import { drawing, FAMILIES } from './drawings';

const SMALL = 96;
const SIDE = SMALL * FACTOR;

async function photographs(): Promise<Buffer[]> {
  const folder = join(DATA, 'photographs', 'held-out');
  return Promise.all(
    readdirSync(folder).map(async (name) => {
      const { width, height } = await sharp(join(folder, name)).metadata();
      const place = { left: (width - SIDE) >> 1, top: (height - SIDE) >> 1 };
      return sharp(join(folder, name))
        .extract({ ...place, width: SIDE, height: SIDE })
        .removeAlpha()
        .raw()
        .toBuffer();
    }),
  );
}

async function drawings(): Promise<Buffer[]> {
  const next = random(20261125);
  const list: Buffer[] = [];
  while (list.length < 24) list.push(await drawing(next, SIDE, FAMILIES['held-out']));
  return list;
}

for (const [kind, pictures] of [
  ['photo', await photographs()],
  ['art', await drawings()],
] as const) {
  for (const quality of [null, 75, 30]) {
    const shard = new PairShard(`held-out-${kind}-${quality ?? 'clean'}`);
    for (const bytes of pictures) {
      const pair = await degrade(fromSamples(bytes, SIDE, SIDE, 3, 8), random(1), {
        reduction: 'bicubic',
        ...(quality && { jpeg: { quality, chromaSubsampling: '4:2:0', learned: true } }),
      });
      shard.add(pair, { ...whole({ width: SMALL, height: SMALL }) });
    }
    shard.end();
  }
}
