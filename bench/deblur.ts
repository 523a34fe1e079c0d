// What deblurring gains on photographs that nothing was fitted to, with the blur as it measures it by itself.
import sharp from 'sharp';
import { USUAL_GUARDS, limitOf } from '../src/core/guard/guards';
import { luminanceOver, recoloured } from '../src/core/raster/colour';
import { held } from '../src/core/guard/hold';
import { measureBlur } from '../src/core/inspect/blur';
import type { Findings } from '../src/core/inspect/findings';
import { psnr } from '../src/core/inspect/compare';
import { meanPower, powersOf } from '../src/core/inspect/mean-power';
import { measureNoise } from '../src/core/inspect/noise';
import { samplePicture } from '../src/core/inspect/patches';
import type { Raster } from '../src/core/raster/raster';
import { whole } from '../src/core/raster/region';
import { fromSamples, toSamples } from '../src/core/raster/samples';
import { pointSpread } from '../src/core/steps/deblur/point-spread';
import { deblur } from '../src/core/steps/deblur/deblur';
import { memorySource, nothingBeside, random, testContext } from '../src/core/testing';
import { gaussianReference } from '../src/core/testing/references';
import { heldOut } from './photographs';
import { figure, finished } from './report';

const SIDE = 512;
const size = { width: SIDE, height: SIDE };
const paths = heldOut();

const rgb = ({ planes }: Raster) => Float32Array.from(planes.flatMap((plane) => [...plane]));
const raster = (bytes: Uint8Array): Raster => fromSamples(bytes, SIDE, SIDE, 3, 8);
const written = (found: Raster): Raster => raster(toSamples(found, 8) as Uint8Array);
const mean = (values: number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;

const truths = await Promise.all(
  paths.map(async (path) => {
    const { width, height } = await sharp(path).metadata();
    const side = Math.min(SIDE, width, height);
    const bytes = await sharp(path)
      .extract({ left: (width - side) >> 1, top: (height - side) >> 1, width: side, height: side })
      .extend({ right: SIDE - side, bottom: SIDE - side, extendWith: 'mirror' })
      .removeAlpha()
      .toColourspace('srgb')
      .raw()
      .toBuffer();
    return raster(bytes);
  }),
);

async function measured(given: Raster): Promise<Pick<Findings, 'noise' | 'blur'>> {
  const { patches } = await samplePicture(memorySource(given));
  const noise = measureNoise(patches);
  const power = meanPower(powersOf(patches));
  return { noise, blur: power && measureBlur(power, noise.luma) };
}

/** The picture as the step leaves it, with the overshoot limit that a trial begins with; null where it has nothing to do. */
async function deblurred(given: Raster): Promise<Raster | null> {
  const { noise, blur } = await measured(given);
  const numbers = deblur.resolve(deblur.defaults, testContext(size, { noise, blur }));
  if (!numbers) return null;
  const all = whole(size);
  const before = { region: all, raster: luminanceOver({ region: all, raster: given }, all) };
  const grids = { from: size, to: size };
  const done = await deblur.apply(before, numbers, all, grids, nothingBeside);
  const limit = limitOf(USUAL_GUARDS, deblur.neighbourhood!(numbers))!;
  const wanted = { share: 1, limits: undefined };
  const raster = held(before, { region: all, raster: done }, limit, wanted, all, size);
  return written(recoloured({ region: all, raster: given }, { region: all, raster }, all));
}

const ASKED = { 0.8: 2, 1.2: 1.8, 1.8: 1.2 } as const;
const all: number[] = [];
for (const sigma of [0.8, 1.2, 1.8] as const) {
  const next = random(5);
  const gauss = () => Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next());
  const gains: number[] = [];
  for (const truth of truths) {
    const planes = truth.planes.map((plane) =>
      Float32Array.from(gaussianReference(plane, size, sigma, 5), (value) => value + gauss() / 255),
    );
    const given = written({ ...truth, planes });
    const found = (await deblurred(given)) ?? given;
    gains.push(psnr(rgb(found), rgb(truth)) - psnr(rgb(given), rgb(truth)));
  }
  console.log(`        ${gains.map((gain) => gain.toFixed(2)).join(', ')}`);
  figure(
    `blur of ${sigma} px, noise of 1 level: deblurred over blurred`,
    mean(gains),
    'dB',
    ASKED[sigma],
    'least',
  );
  all.push(...gains);
}

// Out of focus, as every point becomes a disc, saved as JPEG; told or not.
for (const radius of [2.5, 3, 4]) {
  const { side, weights } = pointSpread({ form: 'disc', radius });
  const gains: number[] = [];
  for (const truth of truths) {
    const file = await sharp(toSamples(truth, 8), { raw: { ...size, channels: 3 } })
      .convolve({ width: side, height: side, kernel: [...weights], scale: 1 })
      .jpeg({ quality: 92 })
      .toBuffer();
    const given = raster(await sharp(file).raw().toBuffer());
    if (!(await measured(given)).blur?.disc) continue;
    gains.push(
      psnr(rgb((await deblurred(given)) ?? given), rgb(truth)) - psnr(rgb(given), rgb(truth)),
    );
  }
  console.log(`        ${gains.map((gain) => gain.toFixed(2)).join(', ')}`);
  const of = `out of focus by ${radius} px, told of ${gains.length} of ${truths.length}`;
  figure(`${of}: deblurred over blurred`, mean(gains), 'dB', 0.8, 'least');
}
let wrongly = 0;
for (const truth of truths) {
  for (const sigma of [0, 0.8, 1.5, 2.5]) {
    const image = sharp(toSamples(truth, 8), { raw: { ...size, channels: 3 } });
    const file = await (sigma > 0 ? image.blur(sigma) : image).jpeg({ quality: 85 }).toBuffer();
    const given = raster(await sharp(file).raw().toBuffer());
    const disc = (await measured(given)).blur?.disc;
    if (!disc) continue;
    wrongly++;
    const found = (await deblurred(given)) ?? given;
    const gain = psnr(rgb(found), rgb(truth)) - psnr(rgb(given), rgb(truth));
    console.log(`        a blur of ${sigma} px told as ${disc.radius} px: ${gain.toFixed(2)} dB`);
  }
}
figure(
  'of sharp ones and Gaussian blurs, told as out of focus',
  wrongly / (4 * truths.length),
  '',
  0.1,
);
figure('worst gain on any picture', Math.min(...all), 'dB', 0, 'least');
const kept = await Promise.all(
  truths.map(async (truth) => {
    const found = await deblurred(truth);
    return found ? psnr(rgb(found), rgb(truth)) : 99;
  }),
);
figure('a sharp picture against itself, the worst', Math.min(...kept), 'dB', 45, 'least');
finished();
