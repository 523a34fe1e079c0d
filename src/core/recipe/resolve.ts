import { gridSize } from '../frame/framing';
import { UPSCALING } from '../learned/enlarger';
import { ALL_MODELS, type Models } from '../learned/models';
import { severityOf } from '../learned/planes';
import { enlargedLimit, limitOf, type OvershootLimit } from '../guard/guards';
import { protectionOf } from '../guard/protection';
import { factorOf, type PrintPlan } from '../measure/plan';
import { canBePutIn } from '../placed/place';
import {
  firstOfKind,
  isOfKind,
  phasesOf,
  resolvedNumbers,
  stageOf,
  type RecipeStep,
  type StepChoice,
} from '../steps';
import { carryOut, type Carried } from '../steps/enlarge/choose';
import { enlarge, type EnlargeSettings } from '../steps/enlarge/enlarge';
import type { ResampleNumbers } from '../steps/resample/resample';
import type { Phase, ResolveContext } from '../steps/step';
import { elsewhere, mapOf, type Where, type ZoneMap } from '../zone/zone';
import type { Original } from './original';
import { keepsAlpha, type Output } from '../output/output';
import { choosingFor, framingOf, keepsPixels, mountOf, planFor } from './plan';
import { placedIn, placedWork } from './placed-work';
import { CORE_VERSION, type PlacedRecipe, type Recipe } from './recipe';
import { trialOf } from './trials';
import { RECIPE_VERSION } from './versions';
import { onLarger } from './views';
import { stepOf, type Trial, type Work } from './work';

/** A recipe with its plan, or in words why the print can't be made. */
export type Resolved =
  { ok: true; recipe: Recipe; plan: PrintPlan } | { ok: false; reason: string };

/** Cropping alone: at factor one every pixel is taken as it is. */
const UNTOUCHED: Trial['treatment'] = [
  {
    kind: 'enlarge',
    on: true,
    strength: 100,
    settings: { ...enlarge.defaults, method: 'nearest' },
  },
];

/**
 * Turns every automatic choice of a trial into numbers. After this no step looks at anything but
 * its region and its reach.
 * @param models those that can be used; a step whose model is missing computes classically
 */
export function resolveRecipe(
  original: Original,
  work: Work,
  trial: Trial,
  models: Models = ALL_MODELS,
): Resolved {
  const planned = planFor(original, work, trial);
  if (!planned.ok) return planned;
  const { plan } = planned;
  const { vector, digest } = original;
  const framing = framingOf(original, work);
  const source = vector
    ? { width: plan.picture.width, height: plan.picture.height }
    : gridSize(original.size, framing);
  const mount = mountOf(plan, work.paper);
  return {
    ok: true,
    plan,
    recipe: {
      version: RECIPE_VERSION,
      core: CORE_VERSION,
      original: {
        digest,
        page: framing.page,
        ...(vector ? source : original.size),
        drawn: vector
          ? {
              source: plan.source,
              turn: framing.turn,
              placed: placedRecipes({ original, work, plan, models }, trial),
            }
          : null,
      },
      alpha: alphaOf(original, trial.output),
      colour: work.paper.colour,
      target: { ...plan.pixels, ppi: plan.ppiAfter, bleed: plan.trim.x },
      steps: [
        ...stepsOf({ original, work, plan, models }, trial),
        ...(mount ? [{ kind: 'mount' as const, strength: 100, numbers: mount }] : []),
      ],
      tagOnly: isTagOnly(original, work, trial, mount !== null),
      output: { ...trial.output, dither: isDithered(original, trial.output) ? 'always' : 'never' },
    },
  };
}

/** What a trial makes of pictures placed on its page; one that it can't treat is drawn as it came. */
function placedRecipes({ original, work, plan, models }: Print, trial: Trial): PlacedRecipe[] {
  const { page, turn } = work.framing;
  const planned = { size: original.size, turn, plan };
  return original.pictures.flatMap((one) => {
    const { picture, place, times } = one;
    if (!placedIn(trial, { page, picture })?.on) return [];
    const inner = placedWork(work, trial, one, planned);
    const resolved = resolveRecipe(one.original, inner, trialOf(inner, trial.id), models);
    return resolved.ok && canBePutIn(times, resolved.recipe.target)
      ? [{ picture, place, recipe: resolved.recipe }]
      : [];
  });
}

/** What all trials of a print rest on. */
interface Print {
  original: Original;
  work: Work;
  plan: PrintPlan;
  models: Models;
}

/** The steps of a trial that lead from the original to its picture. */
function stepsOf(print: Print, trial: Trial, inset = false): RecipeStep[] {
  const { original, work, plan, models } = print;
  const { jpeg, blocks, noise, tones, grounds, blur, history } = original;
  const treatment = keepsPixels(original, trial) ? UNTOUCHED : trial.treatment;
  const framing = framingOf(original, work);
  const phases = phasesOf(treatment);
  const context = {
    ...{ original: gridSize(original.size, framing), jpeg, blocks, noise, tones, blur, models },
    ...{ grounds, history },
    ...{ framing, plan, distance: work.distance, material: work.material },
    trialSteps: (id: string) => {
      const other = work.trials.find((one) => one.id === id);
      // One that is laid over another has none laid over it.
      return !other || inset || id === trial.id ? null : stepsOf(print, other, true);
    },
  };
  const guarding = guardingOf(print, trial);
  const listed = (phase: 'original' | 'target'): RecipeStep[] =>
    treatment.flatMap((choice, i) =>
      phases[i] === phase ? resolveStep(choice, { ...context, phase }, print, guarding) : [],
    );
  // Shapes have no pixels of their own that could be cleaned or enlarged.
  if (plan.vector) return listed('target');
  const before: RecipeStep[] = [
    ...(framing.grid ? [{ kind: 'regrid' as const, strength: 100, numbers: framing.grid }] : []),
    ...listed('original'),
  ];
  const { settings } = stepOf(treatment, 'enlarge')!;
  const held = enlargedLimit(trial.guards);
  return [...before, ...enlarged(print, settings, before, held), ...listed('target')];
}

/** The enlargement of a cleaned picture, with other methods in its zones. */
function enlarged(
  print: Print,
  { method, parts, light, limit, step }: EnlargeSettings,
  before: readonly RecipeStep[],
  held: OvershootLimit | undefined,
): RecipeStep[] {
  const { original, work, plan, models } = print;
  const by = choosingFor(original, work, plan, models);
  const kind = work.kind ?? original.kind;
  const { turn, straighten } = framingOf(original, work);
  const { width, height } = plan.picture;
  const numbers = (plain: Carried['plain']): ResampleNumbers => ({
    ...{ method: plain, light, limit: limit / 100, step },
    ...{ source: plan.source, turn, straighten, width, height },
  });
  const enlargedBy = (other: EnlargeSettings['method']): RecipeStep[] => {
    const carried = carryOut(other, by);
    // What a kernel swings beyond in a photograph has a limit of its own, which costs next to nothing.
    const swings = carried.plain !== 'traced' && (carried.model || kind !== 'photograph');
    const limit = swings ? held : undefined;
    return carriedOut(carried, numbers(carried.plain), before, original.jpeg, limit);
  };
  const others = parts.flatMap((part): RecipeStep[] => {
    const limited = zoneOf(part, print);
    if (!limited.zone) return [];
    const steps = [...before, ...enlargedBy(part.method)];
    return [{ kind: 'inset', strength: 100, ...limited, numbers: { steps } }];
  });
  return [...enlargedBy(method), ...others];
}

/** An enlargement as it is carried out: by a network first, where there is one. */
function carriedOut(
  { model, finest }: Carried,
  numbers: ResampleNumbers,
  before: readonly RecipeStep[],
  jpeg: Original['jpeg'],
  held: OvershootLimit | undefined,
): RecipeStep[] {
  const plainly = {
    kind: 'resample' as const,
    strength: 100,
    ...(held && { limit: held }),
    numbers,
  };
  if (!model) return [plainly];
  const cleaned = firstOfKind(before, 'compression');
  const tables = cleaned?.numbers ?? firstOfKind(before, 'restore')?.numbers.tables ?? jpeg;
  const upscaled = {
    model,
    ...(finest && { finest }),
    luma: tables ? severityOf(tables.luma) : 0,
    colour: tables?.chroma ? severityOf(tables.chroma) : 0,
  };
  return [
    { kind: 'upscale', strength: 100, numbers: upscaled },
    { ...plainly, numbers: onLarger(numbers, UPSCALING) },
  ];
}

/**
 * Whether a result is the original's own file with another tag: a JPEG that stays one, whole and as it stands.
 */
export const isTagOnly = (
  original: Original,
  { framing }: Work,
  trial: Trial,
  mounted: boolean,
): boolean =>
  keepsPixels(original, trial) &&
  original.jpeg !== null &&
  trial.output.format === 'jpeg' &&
  trial.output.colour === null &&
  framing.turn === 0 &&
  framing.crop === null &&
  framing.grid === null &&
  !mounted;

/** What is finer than 8 bits is dithered where it is wanted, or the original itself was finer. */
const isDithered = ({ depth }: Original, output: Output): boolean =>
  output.depth === 8 &&
  (output.dither === 'always' || (output.dither === 'auto' && depth > output.depth));

/** Transparency is kept where it is wanted and the format holds it. */
function alphaOf(original: Original, output: Output): Recipe['alpha'] {
  if (!original.alpha) return 'none';
  return keepsAlpha(output) ? 'kept' : 'laid';
}

function resolveStep(
  choice: StepChoice,
  context: ResolveContext,
  print: Print,
  guarding: Guarding,
): RecipeStep[] {
  if (!choice.on || choice.strength === 0 || isOfKind(choice, 'enlarge')) return [];
  const numbers = resolvedNumbers(choice, context);
  if (!numbers) return [];
  const { kind, strength } = choice;
  const step = { kind, strength, ...zoneOf(choice, print), numbers } as RecipeStep;
  return [{ ...step, ...guarding(step, context.phase) } as RecipeStep];
}

/** What guards come to for a step that stands in a phase. */
type Guarding = (step: RecipeStep, phase: Phase) => Pick<RecipeStep, 'limit' | 'spared'>;

/** What a trial's guards come to: for steps that sharpen, and for no others. */
function guardingOf({ original, plan }: Print, { guards }: Trial): Guarding {
  const spared = protectionOf(guards, {
    noise: original.noise.luma,
    edgeWidth: original.edgeWidth,
  });
  return (step, phase) => {
    if (isOfKind(step, 'inset')) return {};
    const near = stageOf(step).neighbourhood?.(step.numbers);
    if (near === undefined) return {};
    // What a pixel of the original covers is an edge's own width.
    const covered = phase === 'original' || plan.vector ? 1 : factorOf(plan);
    const limit = limitOf(guards, Math.max(near, covered));
    return { ...(limit && { limit }), ...(spared && !plan.vector && { spared }) };
  };
}

/** What a step is limited to; a zone that is gone limits nothing. */
function zoneOf(
  choice: Where,
  { original, work: { zones } }: Pick<Print, 'original' | 'work'>,
): { zone?: ZoneMap } {
  const zone = zones.find(({ id }) => id === choice.zone);
  if (!zone) return {};
  const map = mapOf(zone, zones, original);
  return { zone: choice.elsewhere ? elsewhere(map) : map };
}
