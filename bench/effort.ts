// How well a run's time is known before it: what recipes are said to cost against what they take, by the
// throughput of one finished run. The costs that steps say are set by what this prints.
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Plain } from '../src/core/steps/enlarge/methods';
import { costOf, secondsFor } from '../src/core/render/cost';
import { listedIn, newStep } from '../src/core/recipe/order';
import type { Recipe } from '../src/core/recipe/recipe';
import type { Treatment } from '../src/core/recipe/work';
import { domeIn, recipeFor, rendered } from './rendered';
import { figure, finished, median } from './report';

const TIMES = 3;
/** Seconds below which a run's starting and ending are all that it takes. */
const SHORT = 1;

const folder = await mkdtemp(join(tmpdir(), 'lontano-bench-'));
const dome = await domeIn(folder);
const plainly = newStep('enlarge', { method: 'lanczos3' });
const recipe = (
  treatment: Treatment,
  width = 4320,
  more?: Parameters<typeof recipeFor>[4],
): Recipe => recipeFor(dome, width, Math.round((width * 2) / 3), treatment, more);

const recipes: Record<string, Recipe> = {
  'the first run': recipe([plainly], 7560),
  ...Object.fromEntries(
    Plain.options.map((method) => [method, recipe([newStep('enlarge', { method })])]),
  ),
  'ringing limited': recipe([newStep('enlarge', { method: 'lanczos3', limit: 50 })]),
  'in light': recipe([newStep('enlarge', { method: 'lanczos3', light: 'linear' })]),
  straightened: recipe([plainly], 4320, ({ framing }) => (framing.straighten = 1)),
  'learned-photo x4': recipe([newStep('enlarge', { method: 'learned-photo' })], 2880),
  'learned-photo x10': recipe([newStep('enlarge', { method: 'learned-photo' })], 7200),
  'learned-art x4': recipe([newStep('enlarge', { method: 'learned-art' })], 2880),
  ...Object.fromEntries(
    listedIn('original').map((kind) => [`${kind} before`, recipe([newStep(kind), plainly])]),
  ),
  'compression, classical': recipe([newStep('compression', { engine: 'classical' }), plainly]),
  'unsharp after': recipe([plainly, newStep('unsharp')]),
  'smooth after': recipe([plainly, newStep('smooth')]),
  'texture after': recipe([plainly, newStep('texture')]),
  png: recipe([plainly], 4320, (_, { output }) => (output.format = 'png')),
  jpeg: recipe([plainly], 4320, (_, { output }) => (output.format = 'jpeg')),
  '16 bit': recipe([plainly], 4320, (_, { output }) => (output.depth = 16)),
  'a large one': recipe([plainly], 13_000),
};

const names = Object.keys(recipes);
const first = recipes[names[0]!]!;
// Each stands beside a run of the first, so that a machine whose speed changes slows or hurries both.
const { seconds } = rendered(
  folder,
  dome,
  names.flatMap((name) => [first, recipes[name]!]),
  TIMES,
);
let farthest = 1;
names.forEach((name, i) => {
  const { beginning, result, encoding } = costOf(recipes[name]!);
  const took = median(seconds[2 * i + 1]!);
  const ratio = median(
    seconds[2 * i + 1]!.map(
      (own, round) =>
        secondsFor(recipes[name]!, secondsFor(first, 1) / seconds[2 * i]![round]!) / own,
    ),
  );
  if (took > SHORT) farthest = Math.max(farthest, ratio, 1 / ratio);
  const parts = [beginning, result, encoding].map((part) => part.toFixed(2)).join(' + ');
  console.log(
    `${name.padEnd(24)} took ${took.toFixed(2).padStart(6)} s, said ${(took * ratio).toFixed(2).padStart(6)} s  ${ratio.toFixed(2)} x   (${parts})`,
  );
});
figure(
  'time said before a run, against what it took, by the throughput of the first',
  farthest,
  'x',
  1.5,
);
await rm(folder, { recursive: true, force: true });
finished();
