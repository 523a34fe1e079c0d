// What the proposed finishing does to the evidence: on the demo pictures, and on photographs as customers' programs leave them.
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import sharp, { type Sharp } from 'sharp';
import { measureFinishing, tooMuch } from '../src/core/evidence/finishing';
import { REACH_MOST } from '../src/core/guard/guards';
import { networksFrom } from '../src/core/learned/networks';
import { OPEN_PAPER, type Paper } from '../src/core/measure/paper';
import { factorOf } from '../src/core/measure/plan';
import { withoutFinish } from '../src/core/recipe/finish';
import { originalOf } from '../src/core/recipe/original';
import { propose } from '../src/core/recipe/propose';
import { resolveRecipe } from '../src/core/recipe/resolve';
import { render } from '../src/core/render/render';
import { Kept } from '../src/core/render/kept';
import { decode } from '../src/server/codecs/decode';
import { decodeTask } from '../src/server/codecs/decoded';
import { openRaw } from '../src/server/codecs/raw';
import { modelBytes } from '../src/server/files/models';
import { degradedPath, pictures } from '../demo/pictures';
import { heldOut } from './photographs';
import { figure, finished } from './report';

const folder = await mkdtemp(join(tmpdir(), 'lontano-bench-'));
const network = networksFrom(modelBytes);

interface Asked {
  name: string;
  path: string;
  paper: Paper;
  distance: number;
}

/** As programs save them: soft, sharpened, twice compressed, noisy. */
const ways: Record<string, (image: Sharp) => Promise<Buffer>> = {
  good: (image) => image.jpeg({ quality: 92 }).toBuffer(),
  soft: (image) => image.blur(1).jpeg({ quality: 85 }).toBuffer(),
  sharpened: (image) =>
    image.sharpen({ sigma: 1, m1: 1.2, m2: 1.2, x1: 2 }).jpeg({ quality: 75 }).toBuffer(),
  twice: async (image) =>
    sharp(await image.jpeg({ quality: 60 }).toBuffer())
      .resize(560, null)
      .jpeg({ quality: 80 })
      .toBuffer(),
};

const asked: Asked[] = pictures.map((picture) => ({
  name: picture.title,
  path: degradedPath(picture),
  paper: picture.paper,
  distance: picture.distance,
}));
for (const photograph of heldOut()) {
  const file = basename(photograph);
  for (const [way, make] of Object.entries(ways)) {
    const image = sharp(photograph).resize(640, 640, { fit: 'inside' }).removeAlpha();
    const path = join(folder, `${way}-${file}.jpg`);
    await sharp(await make(sharp(await image.png().toBuffer()))).toFile(path);
    const paper = { ...OPEN_PAPER, width: { value: 60, unit: 'cm' as const } };
    asked.push({ name: `${file}, ${way}`, path, paper, distance: 1 });
  }
}

let worse = 0;
let less = 0;
for (const { name, path, paper, distance } of asked) {
  const raw = join(folder, `${asked.findIndex((one) => one.name === name)}.raw`);
  const { findings } = await decode(decodeTask(path, raw));
  const { work, reasons } = propose(findings, { paper, distance });
  const trial = work.trials[0]!;
  const of = (treatment: typeof trial.treatment) => {
    const resolved = resolveRecipe(originalOf('bench', findings), work, { ...trial, treatment });
    if (!resolved.ok) throw new Error(resolved.reason);
    return resolved;
  };
  const after = of(trial.treatment);
  const before = of(withoutFinish(trial.treatment));
  const source = await openRaw(raw);
  const store = new Kept(1 << 28);
  const picture = (recipe: typeof after.recipe) => render(source, recipe, { network, store });
  const reach = Math.min(REACH_MOST, Math.max(1, Math.ceil(factorOf(after.plan))));
  const found = await measureFinishing(picture(before.recipe), picture(after.recipe), reach);
  const seen = tooMuch(found, { ppi: after.recipe.target.ppi, distance });
  const why = reasons.find(({ step }) => step === 'unsharp')!.sentence;
  if (seen.overshoot || seen.noise) worse++;
  if (/sharpened before/.test(why)) less++;
  console.log(
    `${name.padEnd(34)} rims +${found.overshoot.light.toFixed(1)} -${found.overshoot.dark.toFixed(1)}  noise ${found.noise.before.toFixed(2)} -> ${found.noise.after.toFixed(2)}  ${seen.overshoot ?? ''} ${seen.noise ?? ''} ${/before/.test(why) ? 'told: sharpened before' : ''}`,
  );
  await source.close?.();
  await rm(raw, { force: true });
}
console.log(`told that they were sharpened before: ${less}`);
figure('proposals that make rims or noise seen', worse, 'of them', 0);
await rm(folder, { recursive: true, force: true });
finished();
