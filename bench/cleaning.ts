// What the cleaners gain on photographs that no model has learnt from, and how quick they are.
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { psnr, ssim } from '../src/core/inspect/compare';
import { readJpegHeader } from '../src/core/inspect/jpeg';
import { ALL_MODELS } from '../src/core/learned/models';
import { luminance } from '../src/core/raster/colour';
import { cut, type Raster } from '../src/core/raster/raster';
import { whole, type Size } from '../src/core/raster/region';
import { fromSamples, toSamples } from '../src/core/raster/samples';
import { compression } from '../src/core/steps/compression/compression';
import { noise } from '../src/core/steps/noise/noise';
import { findSource, sourceInput } from '../src/core/steps/retouch/find-source';
import { retouch, type Spot } from '../src/core/steps/retouch/retouch';
import { rim, shapeRegion, shapeValues } from '../src/core/steps/retouch/shape';
import type { Beside } from '../src/core/steps/step';
import { OPEN_PAPER } from '../src/core/measure/paper';
import { random, testContext } from '../src/core/testing';
import { newStep } from '../src/core/recipe/order';
import { propose } from '../src/core/recipe/propose';
import { resolveRecipe } from '../src/core/recipe/resolve';
import { originalOf } from '../src/core/recipe/original';
import { networksFrom } from '../src/core/learned/networks';
import { decode } from '../src/server/codecs/decode';
import { decodeTask } from '../src/server/codecs/decoded';
import { modelBytes } from '../src/server/files/models';
import { endThreads } from '../src/server/render/threads';
import { renderFile } from '../src/server/render/render-file';
import { degradedPath, pictures as drawn, truthPath } from '../demo/pictures';
import { heldOut } from './photographs';
import { figure, finished, median } from './report';

const SIDE = 256;
const size = { width: SIDE, height: SIDE };

const network = networksFrom(modelBytes);
const beside: Beside = { network };

interface Picture {
  name: string;
  bytes: Buffer;
}

/** The middles of the photographs that are held out; of the demo's drawn ones where there are none. */
async function truths(): Promise<Picture[]> {
  const held = heldOut();
  const paths = held.length > 0 ? held : await Promise.all(drawn.slice(0, 1).map(truthPath));
  return Promise.all(
    paths.map(async (path) => {
      const { width, height } = await sharp(path).metadata();
      const bytes = await sharp(path)
        .extract({ left: (width - SIDE) >> 1, top: (height - SIDE) >> 1, ...size })
        .removeAlpha()
        .toColourspace('srgb')
        .raw()
        .toBuffer();
      return { name: path, bytes };
    }),
  );
}

const raster = (bytes: Uint8Array, of: Size = size): Raster =>
  fromSamples(bytes, of.width, of.height, 3, 8);
/** As it would be written. */
const written = (found: Raster): Raster => raster(toSamples(found, 8) as Uint8Array);
const rgb = ({ planes }: Raster) => Float32Array.from(planes.flatMap((plane) => [...plane]));
const mean = (values: number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;
const window = (found: Raster) => ({ region: whole(size), raster: found });
const grids = { from: size, to: size };
const fixed = (value: number, digits = 2) => value.toFixed(digits).padStart(7);

const gains = (found: Raster, given: Raster, truth: Raster) => ({
  luma: psnr(luminance(found), luminance(truth)) - psnr(luminance(given), luminance(truth)),
  rgb: psnr(rgb(found), rgb(truth)) - psnr(rgb(given), rgb(truth)),
  ssim:
    ssim(luminance(found), luminance(truth), size) - ssim(luminance(given), luminance(truth), size),
});
type Gains = ReturnType<typeof gains>;
const of = (all: Gains[], key: keyof Gains) => all.map((one) => one[key]);

const all = await truths();

/** A JPEG of a picture, decoded, cleaned by both engines. */
async function compressed({ bytes }: Picture, quality: number, grey: boolean) {
  const pixels = sharp(bytes, { raw: { ...size, channels: 3 } });
  const truth = raster(
    grey
      ? await pixels.clone().grayscale().toColourspace('srgb').raw().toBuffer().then(spread)
      : bytes,
  );
  const jpeg = await (grey ? pixels.grayscale() : pixels)
    .jpeg({ quality, chromaSubsampling: '4:2:0' })
    .toBuffer();
  const given = raster(spread(await sharp(jpeg).toColourspace('srgb').raw().toBuffer()));
  const context = testContext(size, { jpeg: readJpegHeader(jpeg)!.facts, models: ALL_MODELS });
  const cleaned = async (engine: 'classical' | 'learned') => {
    const numbers = compression.resolve({ engine, luma: 100, colour: 100 }, context)!;
    return gains(
      written(await compression.apply(window(given), numbers, whole(size), grids, beside)),
      given,
      truth,
    );
  };
  return { classical: await cleaned('classical'), learned: await cleaned('learned') };
}

/** One grey sample a pixel, made three. */
const spread = (bytes: Buffer): Buffer =>
  bytes.length === SIDE * SIDE * 3
    ? bytes
    : Buffer.from(
        Uint8Array.from({ length: SIDE * SIDE * 3 }, (_, i) => bytes[Math.floor(i / 3)]!),
      );

const ASKED = {
  luma: { 10: 0.95, 30: 0.75, 60: 0.75 },
  rgb: { 10: 0.7, 30: 0.5, 60: 0.4 },
} as const;
const worst: number[] = [];
for (const quality of [10, 30, 60] as const) {
  for (const grey of [true, false]) {
    const results = await Promise.all(all.map((one) => compressed(one, quality, grey)));
    const classical = results.map((one) => one.classical);
    const learned = results.map((one) => one.learned);
    const key = grey ? 'luma' : 'rgb';
    const what = `JPEG ${quality} ${grey ? 'grey, luminance' : '4:2:0, RGB'}`;
    const base = mean(of(classical, key));
    figure(`${what}: classical over decoded`, base, 'dB', ASKED[key][quality], 'least');
    figure(
      `${what}: learned over classical`,
      mean(of(learned, key)) - base,
      'dB',
      grey ? 0.15 : 0,
      'least',
    );
    console.log(
      `        SSIM of luminance: classical ${fixed(mean(of(classical, 'ssim')), 4)}, learned ${fixed(mean(of(learned, 'ssim')), 4)}`,
    );
    worst.push(...of(classical, key), ...of(learned, key));
  }
}
figure('worst gain of either engine on any picture', Math.min(...worst), 'dB', 0, 'least');

const NOISE = { 5: 0.8, 15: 5, 25: 7 } as const;
for (const sigma of [5, 15, 25] as const) {
  const next = random(11);
  const gauss = () => Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next());
  const results: { classical: Gains; learned: Gains }[] = [];
  for (const { bytes } of all) {
    const truth = raster(bytes);
    const given = written({
      ...truth,
      planes: truth.planes.map((plane) => plane.map((value) => value + (gauss() * sigma) / 255)),
    });
    const cleaned = async (model: string | null) =>
      gains(
        written(
          await noise.apply(
            window(given),
            { grey: sigma, colour: sigma, model },
            whole(size),
            grids,
            beside,
          ),
        ),
        given,
        truth,
      );
    results.push({ classical: await cleaned(null), learned: await cleaned(ALL_MODELS.noise) });
  }
  const base = mean(results.map(({ classical }) => classical.rgb));
  const learned = mean(results.map((one) => one.learned.rgb));
  figure(`noise of sigma ${sigma}, RGB: classical over noisy`, base, 'dB', NOISE[sigma], 'least');
  figure(`noise of sigma ${sigma}, RGB: learned over classical`, learned - base, 'dB', 0, 'least');
}

// Healing: spots on photographs, against a fill with the mean of their rim.
const spots: [number, number][] = [
  [70, 80],
  [128, 128],
  [190, 60],
  [60, 190],
];
const healed: number[] = [];
const filled: number[] = [];
const textures: { healed: number; filled: number }[] = [];
const times: number[] = [];
const variance = (values: number[]) => {
  const middle = mean(values);
  return mean(values.map((value) => (value - middle) ** 2));
};
for (const { bytes } of all) {
  const truth = raster(bytes);
  for (const [x, y] of spots) {
    const shape = { points: [[x, y]] as [number, number][], radius: 7, softness: 0.3 };
    const own = shapeRegion(shape, size);
    const inside = shapeValues(shape, own);
    const damaged = cut(window(truth), whole(size));
    const covered: number[] = [];
    inside.forEach((share, i) => {
      if (share === 0) return;
      const u = own.x + (i % own.width);
      const v = own.y + Math.floor(i / own.width);
      covered.push(v * SIDE + u);
      // The speck is a little smaller than what is healed.
      if (Math.hypot(u + 0.5 - x, v + 0.5 - y) > shape.radius - 2) return;
      for (const plane of damaged.planes) plane[v * SIDE + u] = 0.97;
    });
    const started = performance.now();
    const region = sourceInput(shape, size);
    const input = { region, raster: cut(window(damaged), region) };
    const offset = findSource(shape, input, size);
    if (!offset) continue;
    const spot: Spot = { id: 'a', how: 'heal', offset, ...shape };
    const result = retouch.apply(window(damaged), { spots: [spot] }, whole(size), grids);
    times.push(performance.now() - started);
    const border = rim(shape, own, size);
    const over = (found: Raster) =>
      psnr(
        found.planes.flatMap((plane) => covered.map((at) => plane[at]!)),
        truth.planes.flatMap((plane) => covered.map((at) => plane[at]!)),
      );
    const flat = cut(window(damaged), whole(size));
    flat.planes.forEach((plane) => {
      const tone = mean(border.map((place) => plane[place.y * SIDE + place.x]!));
      for (const at of covered) plane[at] = tone;
    });
    healed.push(over(result));
    filled.push(over(flat));
    const texture = (found: Raster) => variance(covered.map((at) => found.planes[1]![at]!));
    const whole_ = Math.max(texture(truth), 1e-6);
    textures.push({ healed: texture(result) / whole_, filled: texture(flat) / whole_ });
  }
}
figure('healed spots over a mean fill', mean(healed) - mean(filled), 'dB', 0, 'least');
console.log(
  `        texture kept (variance over the truth's, median): healed ${fixed(median(textures.map((t) => t.healed)))}, mean fill ${fixed(median(textures.map((t) => t.filled)))}`,
);
figure('healing a spot of 14 pixels', median(times), 'ms', 150);

// Speed: a megapixel through the run's own threads, learned against classical.
const folder = await mkdtemp(join(tmpdir(), 'lontano-bench-'));
const file = join(folder, 'megapixel.jpg');
await sharp(await readFile(degradedPath(drawn[0]!)))
  .resize(1024, 1024, { fit: 'fill' })
  .jpeg({ quality: 30 })
  .toFile(file);
const decoded = join(folder, 'megapixel.raw');
const { findings } = await decode(decodeTask(file, decoded));
const timed = async (engine: 'classical' | 'learned'): Promise<number> => {
  const paper = { ...OPEN_PAPER, width: { value: 100, unit: '%' as const } };
  const { work } = propose(findings, { paper, distance: 2 });
  work.trials[0]!.treatment = [newStep('compression', { engine }), newStep('enlarge')];
  const resolved = resolveRecipe(originalOf('bench', findings), work, work.trials[0]!);
  if (!resolved.ok) throw new Error(resolved.reason);
  const { seconds } = await renderFile({
    original: { file, name: 'megapixel.jpg', raw: () => Promise.resolve(decoded) },
    recipe: resolved.recipe,
    profile: null,
    out: join(folder, 'out.tif'),
  });
  return seconds;
};
// The first ones start threads and load the model.
await timed('classical');
await timed('learned');
const classical = [await timed('classical'), await timed('classical'), await timed('classical')];
const learnt = [await timed('learned'), await timed('learned'), await timed('learned')];
figure('learned cleaning of a megapixel in a run, file and all', median(learnt), 's', 6);
console.log(`        classical: ${fixed(median(classical))} s`);
await endThreads();
await rm(folder, { recursive: true, force: true });
finished();
