// What cleaning and each method gain on the demo dome, against its truth.
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp, { type Sharp } from 'sharp';
import { psnr } from '../src/core/inspect/compare';
import { luminance } from '../src/core/raster/colour';
import type { Raster } from '../src/core/raster/raster';
import { whole } from '../src/core/raster/region';
import { fromSamples } from '../src/core/raster/samples';
import { Plain } from '../src/core/steps/enlarge/methods';
import { newStep } from '../src/core/recipe/order';
import { propose } from '../src/core/recipe/propose';
import { render } from '../src/core/render/render';
import { beforeEnlarging } from '../src/core/recipe/views';
import { resolveRecipe } from '../src/core/recipe/resolve';
import { OPEN_PAPER } from '../src/core/measure/paper';
import { originalOf } from '../src/core/recipe/original';
import { decode } from '../src/server/codecs/decode';
import { decodeTask } from '../src/server/codecs/decoded';
import { openRaw } from '../src/server/codecs/raw';
import { degradedPath, pictures, truthPath } from '../demo/pictures';
import { figure, finished } from './report';

const dome = pictures[0]!;
const { width, height } = dome.truthSize;
const folder = await mkdtemp(join(tmpdir(), 'lontano-bench-'));
const raw = join(folder, 'dome.raw');
const { findings } = await decode(decodeTask(degradedPath(dome), raw));
const size = { width: findings.width, height: findings.height };
const source = await openRaw(raw);
const read = async (image: Sharp, of: { width: number; height: number }) =>
  fromSamples(await image.raw().toBuffer(), of.width, of.height, 3, 8);
const truth = await read(sharp(await truthPath(dome)), dome.truthSize);
const small = await read(sharp(await truthPath(dome)).resize(size.width, size.height), size);

const gain = (a: Raster, b: Raster, t: Raster) =>
  psnr(luminance(a), luminance(t)) - psnr(luminance(b), luminance(t));

for (const strength of [0, 100]) {
  for (const method of Plain.options) {
    const paper = {
      ...OPEN_PAPER,
      width: { value: width, unit: 'px' as const },
      height: { value: height, unit: 'px' as const },
    };
    const { work } = propose(findings, { paper, distance: dome.distance });
    work.trials[0]!.treatment = [
      { ...newStep('compression', { engine: 'classical' }), on: strength > 0, strength },
      newStep('enlarge', { method }),
    ];
    const resolved = resolveRecipe(originalOf('bench', findings), work, work.trials[0]!);
    if (!resolved.ok) throw new Error(resolved.reason);
    const result = await render(source, resolved.recipe).read(whole({ width, height }));
    console.log(
      `x${width / size.width} ${method.padEnd(9)} clean ${String(strength).padStart(3)}: luminance ${psnr(luminance(result), luminance(truth)).toFixed(2)} dB`,
    );
    if (strength === 100 && method === 'nearest') {
      const cleaned = await render(source, beforeEnlarging(resolved.recipe)).read(whole(size));
      const gained = gain(cleaned, await source.read(whole(size)), small);
      figure('cleaning alone gains, luminance of the demo dome', gained, 'dB', 0.3, 'least');
    }
  }
}
await source.close();
await rm(folder, { recursive: true, force: true });
finished();
