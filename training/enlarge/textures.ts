// How strong the finest octave of textures is in truth, to the one below as the network for photographs leaves it: the
// figure FINEST_SHARE of src/core/steps/crisp/gain.ts. Of every third photograph that networks learn from, the middle,
// reduced to a fourth and enlarged again: npx tsx training/enlarge/textures.ts
import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { networksFrom } from '../../src/core/learned/networks';
import { MODELS } from '../../src/core/learned/models';
import { luminance } from '../../src/core/raster/colour';
import { blur } from '../../src/core/raster/gaussian';
import { whole } from '../../src/core/raster/region';
import { fromSamples } from '../../src/core/raster/samples';
import { upscale } from '../../src/core/steps/upscale/upscale';
import { nothingBeside } from '../../src/core/testing';
import { modelBytes } from '../../src/server/files/models';

const folder = 'training/.data/photographs/train';
const SIDE = 384;
const SMALL = SIDE / 4;
/** Standard deviation of a place, and how far apart places are looked at. */
const PLACE = 6;
const APART = 12;
/** Levels by which the octave below changes where there is texture. */
const TEXTURED = 1;

const size = { width: SIDE, height: SIDE };
const from = { width: SMALL, height: SMALL };
const all = whole(size);
const network = networksFrom(modelBytes);
const soft = (plane: Float32Array, radius: number) => blur(plane, all, all, size, radius);
const energy = (a: Float32Array, b: Float32Array) =>
  soft(
    a.map((value, i) => (255 * (value - b[i]!)) ** 2),
    PLACE,
  );

let sum = 0;
let places = 0;
for (const name of readdirSync(folder).filter((_, i) => i % 3 === 0)) {
  const { width, height } = await sharp(join(folder, name)).metadata();
  if (width < SIDE || height < SIDE) continue;
  const truth = await sharp(join(folder, name))
    .extract({ left: (width - SIDE) >> 1, top: (height - SIDE) >> 1, ...size })
    .removeAlpha()
    .toColourspace('srgb')
    .raw()
    .toBuffer();
  const small = await sharp(truth, { raw: { ...size, channels: 3 } })
    .resize(SMALL, SMALL, { kernel: 'cubic' })
    .raw()
    .toBuffer();
  const input = { region: whole(from), raster: fromSamples(small, SMALL, SMALL, 3, 8) };
  const numbers = { model: MODELS.photo.digest, luma: 0, colour: 0 };
  const grids = { from, to: size };
  const made = await upscale.apply(input, numbers, all, grids, { ...nothingBeside, network });
  const enlarged = luminance(made);
  const original = luminance(fromSamples(truth, SIDE, SIDE, 3, 8));
  const near = soft(enlarged, 1);
  const octave = energy(near, soft(enlarged, 2.1));
  const finest = energy(original, soft(original, 1));
  for (let y = 24; y < SIDE - 24; y += APART) {
    for (let x = 24; x < SIDE - 24; x += APART) {
      const i = y * SIDE + x;
      if (octave[i]! < TEXTURED * TEXTURED) continue;
      sum += 0.5 * Math.log(Math.max(0.01, finest[i]!) / octave[i]!);
      places++;
    }
  }
}
console.log(`${Math.exp(sum / places).toFixed(2)} of ${places} places`);
