// What each method makes of pictures that no model has learnt from, reduced and enlarged back: over
// bicubic, at several factors, clean and compressed. See docs/figures.md.
import { usualOutput } from '@/core/output/output';
import { existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { drawing, FAMILIES } from '../training/enlarge/drawings';
import { psnr, ssim } from '../src/core/inspect/compare';
import { readJpegHeader } from '../src/core/inspect/jpeg';
import { UPSCALING } from '../src/core/learned/enlarger';
import { ALL_MODELS, MODELS } from '../src/core/learned/models';
import { severityOf } from '../src/core/learned/planes';
import { luminance } from '../src/core/raster/colour';
import { blur } from '../src/core/raster/gaussian';
import { cut, type Raster } from '../src/core/raster/raster';
import { cells, whole, type Region, type Size } from '../src/core/raster/region';
import { fromSamples, toSamples } from '../src/core/raster/samples';
import type { RecipeStep } from '../src/core/steps';
import { compression } from '../src/core/steps/compression/compression';
import { MODEL_OF } from '../src/core/steps/enlarge/choose';
import { isLearned, Learned, Plain, type Method } from '../src/core/steps/enlarge/methods';
import { random, testContext } from '../src/core/testing';
import type { Recipe } from '../src/core/recipe/recipe';
import { RECIPE_VERSION } from '../src/core/recipe/versions';
import { render } from '../src/core/render/render';
import { expectedOff, INVENTED_CELL, rmsIn, signsIn } from '../src/core/evidence/invented';
import { onLarger } from '../src/core/recipe/views';
import { networksFrom } from '../src/core/learned/networks';
import { modelBytes } from '../src/server/files/models';
import { pictures as drawn, truthPath } from '../demo/pictures';
import { CALIBRATIONS, type Calibrated } from '../src/core/evidence/calibrations';
import { calibrated, type Cell } from './calibrate';
import { figure, finished, median, missing } from './report';

const SIDE = 384;
const held = 'training/.data/photographs/held-out';
const network = networksFrom(modelBytes);

const mean = (values: number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;
const asRaster = (bytes: Uint8Array, { width, height }: Size): Raster =>
  fromSamples(bytes, width, height, 3, 8);
function rgb({ planes }: Raster): Float32Array {
  const all = new Float32Array(planes.length * planes[0]!.length);
  planes.forEach((plane, c) => all.set(plane, c * plane.length));
  return all;
}
/** Mean distance of two rasters, in levels. */
function distance(a: Raster, b: Raster): number {
  let sum = 0;
  a.planes.forEach((plane, c) => {
    const other = b.planes[c]!;
    for (let i = 0; i < plane.length; i++) sum += Math.abs(plane[i]! - other[i]!);
  });
  return (255 * sum) / (a.planes.length * a.planes[0]!.length);
}
const written = (raster: Raster): Raster => asRaster(toSamples(raster, 8) as Uint8Array, raster);

/** A square middle of a picture file. */
async function middle(path: string): Promise<Raster> {
  const { width, height } = await sharp(path).metadata();
  return square(path, (width - SIDE) >> 1, (height - SIDE) >> 1);
}

/** All the squares that a picture file holds, beside each other. */
async function squares(path: string): Promise<Raster[]> {
  const { width, height } = await sharp(path).metadata();
  const starts = (side: number) =>
    Array.from({ length: Math.floor(side / SIDE) }, (_, i) => i * SIDE);
  return Promise.all(
    starts(height).flatMap((top) => starts(width).map((left) => square(path, left, top))),
  );
}

async function square(path: string, left: number, top: number): Promise<Raster> {
  const bytes = await sharp(path)
    .extract({ left, top, width: SIDE, height: SIDE })
    .removeAlpha()
    .toColourspace('srgb')
    .raw()
    .toBuffer();
  return asRaster(bytes, { width: SIDE, height: SIDE });
}

async function photographs(): Promise<Raster[]> {
  if (existsSync(held))
    return Promise.all(readdirSync(held).map((name) => middle(join(held, name))));
  missing('no photographs are here: python3 training/photographs.py fetches them');
  return [await middle(await truthPath(drawn[0]!))];
}

async function drawings(): Promise<Raster[]> {
  const next = random(20261125);
  const list: Raster[] = [];
  while (list.length < 24) {
    const bytes = await drawing(next, SIDE, FAMILIES['held-out']);
    list.push(asRaster(bytes, { width: SIDE, height: SIDE }));
  }
  return list;
}

const base = {
  ...{ version: RECIPE_VERSION, core: 'bench', alpha: 'none', colour: '#ffffff', steps: [] },
  original: { digest: 'bench', page: 1, width: 1, height: 1, drawn: null },
  target: { width: 1, height: 1, ppi: 100, bleed: 0 },
  tagOnly: false,
  output: usualOutput('tiff', 8),
} satisfies Recipe;

async function through(raster: Raster, steps: RecipeStep[]): Promise<Raster> {
  const size = { width: raster.width, height: raster.height };
  const source = {
    size,
    read: async (region: Region) => cut({ region: whole(size), raster }, region),
  };
  const rendering = render(
    source,
    { ...base, original: { ...base.original, ...size }, steps },
    { network },
  );
  return rendering.read(whole(rendering.size));
}

const resampled = (
  method: Plain | 'traced',
  from: Size,
  to: Size,
): Extract<RecipeStep, { kind: 'resample' }> => ({
  kind: 'resample',
  strength: 100,
  numbers: {
    ...{ method, light: 'gamma', limit: 0, step: 10, turn: 0, straighten: 0 },
    source: whole(from),
    width: to.width,
    height: to.height,
  },
});

interface Case {
  small: Raster;
  /** before it was cleaned */
  raw: Raster;
  truth: Raster;
  severity: { luma: number; colour: number };
}

async function caseOf(all: Raster, factor: number, quality: number | null): Promise<Case> {
  const size = { width: Math.floor(SIDE / factor), height: Math.floor(SIDE / factor) };
  const large = {
    width: Math.round(size.width * factor),
    height: Math.round(size.height * factor),
  };
  const truth = cut({ region: whole(all), raster: all }, whole(large));
  const small = written(await through(truth, [resampled('bicubic', large, size)]));
  if (quality === null) return { small, raw: small, truth, severity: { luma: 0, colour: 0 } };
  const jpeg = await sharp(toSamples(small, 8), { raw: { ...size, channels: 3 } })
    .jpeg({ quality, chromaSubsampling: '4:2:0' })
    .toBuffer();
  const raw = asRaster(await sharp(jpeg).raw().toBuffer(), size);
  const facts = readJpegHeader(jpeg)!.facts!;
  const context = testContext(size, { jpeg: facts, models: ALL_MODELS });
  const numbers = compression.resolve(compression.defaults, context)!;
  const cleaned = await through(raw, [{ kind: 'compression', strength: 100, numbers }]);
  return {
    ...{ small: cleaned, raw, truth },
    severity: { luma: severityOf(facts.luma), colour: severityOf(facts.chroma!) },
  };
}

type Way = Exclude<Method, 'auto'> | `${Learned} ${string}`;

/** The steps of a way to enlarge; a learned one may name the kernel that carries it on, or `twice`. */
function stepsOf(way: Way, { small, truth, severity }: Case): RecipeStep[] {
  const [method, carriedBy] = way.split(' ') as [Exclude<Method, 'auto'>, string | undefined];
  if (!isLearned(method)) return [resampled(method, small, truth)];
  const upscale: RecipeStep = {
    kind: 'upscale',
    strength: 100,
    numbers: {
      model: MODELS[MODEL_OF[method]].digest,
      ...(method === 'learned-photo-finest' && { finest: true }),
      ...severity,
    },
  };
  const times = carriedBy === 'twice' ? 2 : 1;
  const kernel = Plain.safeParse(carriedBy).data ?? 'lanczos3';
  const plain = resampled(kernel, small, truth);
  const last = { ...plain, numbers: onLarger(plain.numbers, UPSCALING ** times) };
  return [...Array.from({ length: times }, () => upscale), last];
}

const gainOf = (found: Raster, before: Raster, truth: Raster) => ({
  psnr: psnr(rgb(found), rgb(truth)) - psnr(rgb(before), rgb(truth)),
  ssim:
    ssim(luminance(found), luminance(truth), truth) -
    ssim(luminance(before), luminance(truth), truth),
});

/** Mean gains over bicubic of the raw small picture. */
async function measure(
  all: Raster[],
  ways: readonly Way[],
  factor: number,
  quality: number | null,
) {
  const cases = await Promise.all(all.map((one) => caseOf(one, factor, quality)));
  const gains = new Map<Way, { psnr: number; ssim: number; shift: number }>();
  const before = await Promise.all(
    cases.map(async ({ raw, truth }) =>
      written(await through(raw, [resampled('bicubic', raw, truth)])),
    ),
  );
  for (const way of ways) {
    const each: { psnr: number; ssim: number; shift: number }[] = [];
    for (const [i, one] of cases.entries()) {
      const found = await through(one.small, stepsOf(way, one));
      const back = await through(found, [resampled('bicubic', found, one.small)]);
      each.push({
        ...gainOf(written(found), before[i]!, one.truth),
        shift: distance(back, one.small),
      });
    }
    const of = (key: 'psnr' | 'ssim' | 'shift') => mean(each.map((gain) => gain[key]));
    gains.set(way, { psnr: of('psnr'), ssim: of('ssim'), shift: of('shift') });
  }
  return gains;
}

const signed = (value: number, digits = 2) => `${value < 0 ? '' : '+'}${value.toFixed(digits)}`;
const ways = [...Learned.options, ...Plain.options];

async function table(name: string, all: Raster[]) {
  console.log(
    `\n${name}: ${all.length} pictures of ${SIDE} x ${SIDE}; dB over R, G, B and SSIM over bicubic of the file as it came; levels that the result, reduced, is off its source`,
  );
  for (const quality of [null, 75, 30]) {
    const gains = await measure(all, ways, 4, quality);
    console.log(`x4, ${quality === null ? 'clean' : `JPEG ${quality}, cleaned first`}`);
    for (const [way, { psnr: db, ssim: like, shift }] of gains) {
      console.log(
        `  ${way.padEnd(16)} ${signed(db).padStart(6)} dB  ${signed(like, 4)}  ${shift.toFixed(2)}`,
      );
    }
    const own = gains.get(name === 'drawings' ? 'learned-art' : 'learned-photo')!;
    if (name === 'photographs' && quality === null) {
      const finest = gains.get('learned-photo-finest')!.psnr;
      figure('photographs x4 clean, finest over bicubic', finest, 'dB', 2, 'least');
    }
    const asked = name === 'drawings' ? { null: 3 } : { null: 1.7, 75: 0.7, 30: 0.45 };
    const least = asked[String(quality) as keyof typeof asked];
    if (least !== undefined)
      figure(
        `${name} x4 ${quality ?? 'clean'}, learned over bicubic`,
        own.psnr,
        'dB',
        least,
        'least',
      );
    figure(
      `${name} x4 ${quality ?? 'clean'}, reduced result off its source`,
      own.shift,
      'levels',
      1,
    );
  }
}

async function factors(name: string, all: Raster[], method: Learned) {
  const carried: Way[] = [
    ...([method, `${method} bicubic`, `${method} mitchell`, `${method} twice`] as const),
    ...(['lanczos3', 'lanczos3-jinc', 'stepped', 'nearest'] as const),
  ];
  console.log(`\n${name} at other factors, dB over bicubic, clean`);
  console.log(`      ${carried.map((way) => way.replace('learned-', '').padStart(16)).join('')}`);
  for (const factor of [2, 3, 6, 8]) {
    const gains = await measure(all, carried, factor, null);
    console.log(
      `  x${factor}  ${[...gains.values()].map(({ psnr: db }) => signed(db).padStart(16)).join('')}`,
    );
  }
}

/** What is told of each cell of a picture, and how far off it is. */
async function cellsOf(one: Case, method: Learned): Promise<Cell[]> {
  const magnifyBy = (model: string | null): RecipeStep[] => [
    {
      kind: 'upscale',
      strength: 100,
      numbers: {
        model,
        ...(model && method === 'learned-photo-finest' && { finest: true as const }),
        ...one.severity,
      },
    },
  ];
  const [found, plain] = await Promise.all(
    [MODELS[MODEL_OF[method]].digest, null].map(async (model) =>
      luminance(await through(one.small, magnifyBy(model))),
    ),
  );
  const truth = luminance(one.truth);
  const all = whole(one.truth);
  return cells(all, INVENTED_CELL * UPSCALING, one.truth).map((cell) => ({
    signs: signsIn(cell, all, plain!, found!, one.severity.luma),
    off: rmsIn(cell, all, truth, found!),
  }));
}

/** Places in the order of size, as shares. */
function ranks(values: number[]): number[] {
  const result = new Array<number>(values.length);
  [...values.keys()]
    .sort((a, b) => values[a]! - values[b]!)
    .forEach((at, rank) => (result[at] = rank / values.length));
  return result;
}

/** Spearman's rank correlation. */
function correlation(a: number[], b: number[]): number {
  const [x, y] = [ranks(a), ranks(b)];
  const [mx, my] = [mean(x), mean(y)];
  const covariance = mean(x.map((value, i) => (value - mx) * (y[i]! - my)));
  return (
    covariance / Math.sqrt(mean(x.map((v) => (v - mx) ** 2)) * mean(y.map((v) => (v - my) ** 2)))
  );
}

/** The squares of each photograph that is held out. */
const heldOutSquares = async (): Promise<Raster[][]> =>
  Promise.all((existsSync(held) ? readdirSync(held) : []).map((name) => squares(join(held, name))));

const CALIBRATED: Record<Learned, Calibrated> = {
  'learned-photo': 'photo',
  'learned-photo-finest': 'finest',
  'learned-art': 'art',
};

/**
 * Whether what is said of a network's result tells how far off it is, cell by cell: each picture by a
 * calibration on all others. Prints the calibration on all of them, which ships.
 * @param pictures the squares of each
 */
async function invented(method: Learned, pictures: readonly Raster[][]) {
  const told: Cell[][] = [];
  for (const all of pictures) {
    const own: Cell[] = [];
    for (const one of all) {
      for (const quality of [null, 75, 30]) {
        own.push(...(await cellsOf(await caseOf(one, 4, quality), method)));
      }
    }
    told.push(own);
  }
  if (told.length < 3) return missing('invented detail: too few pictures to leave one out');
  const pairs = told.flatMap((own, i) => {
    const by = calibrated(told.filter((_, other) => other !== i));
    return own.map(({ signs, off }) => ({ said: expectedOff(signs, by), off }));
  });
  pairs.sort((a, b) => a.said - b.said);
  console.log(
    `\ninvented detail, ${method}: levels off as it is said of a picture by all others, and off (medians)`,
  );
  let farthest = 1;
  const PARTS = 10;
  for (let i = 0; i < PARTS; i++) {
    const part = pairs.slice((i * pairs.length) / PARTS, ((i + 1) * pairs.length) / PARTS);
    const said = median(part.map((pair) => pair.said));
    const off = median(part.map((pair) => pair.off));
    farthest = Math.max(farthest, said / off, off / said);
    console.log(`  ${said.toFixed(2).padStart(6)} ${off.toFixed(2).padStart(6)}`);
  }
  figure(
    'levels off as they are said, and levels off: rank correlation',
    correlation(
      pairs.map(({ said }) => said),
      pairs.map(({ off }) => off),
    ),
    '',
    0.7,
    'least',
  );
  figure('levels off as they are said, against a tenth of the cells each', farthest, 'x', 1.4);
  const within = median(
    pairs.map(({ said, off }) => Math.exp(Math.abs(Math.log(Math.max(0.05, off) / said)))),
  );
  figure(
    'half of all cells are off as is said within, as the ticket says',
    within,
    'x',
    CALIBRATIONS[CALIBRATED[method]].usuallyWithin,
  );
  const { weights, offByScore } = calibrated(told);
  const digits = (value: number) => Number(value.toFixed(2));
  console.log(
    'on all of them:',
    JSON.stringify({
      weights: weights.map(digits),
      offByScore: offByScore.map((pair) => pair.map(digits)),
    }),
  );
}

/** Side of the squares in which textures are looked for, and levels from which on one is textured. */
const TEXTURED = { side: 32, levels: 2 } as const;

/** Mean square of what is finer than a Gaussian, in a square. */
function finestIn({ planes: [luma] }: Raster, fine: Float32Array, at: Region, width: number) {
  let sum = 0;
  for (let y = at.y; y < at.y + at.height; y++)
    for (let x = at.x; x < at.x + at.width; x++)
      sum += (luma![y * width + x]! - fine[y * width + x]!) ** 2;
  return (255 * 255 * sum) / (at.width * at.height);
}

/** How far the finest octave of textures lies below the truth's, with and without making them crisper. */
async function textures(all: Raster[]) {
  console.log(
    '\ntextures: dB that their finest octave is weaker than the truth, middle square of each picture',
  );
  for (const method of ['learned-photo', 'learned-photo-finest'] as const) {
    for (const factor of [3, 4, 6]) {
      const ratios: number[] = [];
      const costs: number[] = [];
      const words: string[] = [];
      for (const one of await Promise.all(all.map((picture) => caseOf(picture, factor, null)))) {
        const plain = await through(one.small, stepsOf(method, one));
        const crisper: RecipeStep = {
          kind: 'crisp',
          strength: 100,
          numbers: { finer: factor / 4 },
        };
        const made = await through(one.small, [...stepsOf(method, one), crisper]);
        const size = { width: plain.width, height: plain.height };
        const lightness = (raster: Raster): Raster => ({ ...raster, planes: [luminance(raster)] });
        const softly = ({ planes: [luma] }: Raster) =>
          blur(luma!, whole(size), whole(size), size, factor / 4);
        const three = [one.truth, plain, made].map(lightness);
        const soft = three.map(softly);
        const looked = cells(whole(size), TEXTURED.side, size).filter(
          ({ width, height }) => width === TEXTURED.side && height === TEXTURED.side,
        );
        const energies = looked
          .map((at) => three.map((raster, i) => finestIn(raster, soft[i]!, at, size.width)))
          .filter(([truth]) => Math.sqrt(truth!) > TEXTURED.levels);
        const gap = (i: number) =>
          median(
            energies.map((energy) => 10 * Math.log10(energy[0]! / Math.max(1e-6, energy[i]!))),
          );
        if (energies.length < 8) continue;
        ratios.push(gap(2) / gap(1));
        costs.push(
          psnr(rgb(written(plain)), rgb(one.truth)) - psnr(rgb(written(made)), rgb(one.truth)),
        );
        words.push(`${gap(1).toFixed(1)} → ${gap(2).toFixed(1)}`);
      }
      console.log(`  ${method}, x${factor}: ${words.join(', ')}`);
      const told = `${method} x${factor}`;
      console.log(
        `  left of the gap ${mean(ratios).toFixed(2)} x for ${mean(costs).toFixed(2)} dB, at most ${Math.max(...costs).toFixed(2)} dB`,
      );
      if (factor !== UPSCALING) continue;
      figure(`${told}, what is left of the gap`, mean(ratios), 'x', 0.5);
      figure(`${told}, PSNR that it costs`, mean(costs), 'dB', 0.5);
    }
  }
}

const [photos, art] = [await photographs(), await drawings()];
const parts: Record<string, () => Promise<void>> = {
  photographs: () => table('photographs', photos),
  'invented-photo': async () => invented('learned-photo', await heldOutSquares()),
  'invented-finest': async () => invented('learned-photo-finest', await heldOutSquares()),
  'invented-art': async () =>
    invented(
      'learned-art',
      art.map((one) => [one]),
    ),
  textures: () => textures(photos),
  drawings: () => table('drawings', art),
  factors: async () => {
    await factors('photographs', photos, 'learned-photo');
    await factors('drawings', art.slice(0, 6), 'learned-art');
  },
};
// All of them unless some are named: node --import tsx bench/enlarging.ts invented-photo
const wanted = process.argv.slice(2);
for (const [name, run] of Object.entries(parts)) {
  if (wanted.length === 0 || wanted.includes(name)) await run();
}
finished();
