import { frameSize, gridSize, pictureRect, type Framing } from '../frame/framing';
import type { Paper } from '../measure/paper';
import {
  factorOf,
  planPrint,
  Ppi,
  type Picture,
  type PlanResult,
  type PrintPlan,
} from '../measure/plan';
import type { Size } from '../raster/region';
import { ALL_MODELS, type Models } from '../learned/models';
import { severityOf } from '../learned/planes';
import { MAGNIFICATION } from '../learned/enlarger';
import { insetSteps, phasesOf, stageOf, steps, type SettledStep, type StepChoice } from '../steps';
import { carryOut, type Carried, type Choosing } from '../steps/enlarge/choose';
import { enlarge } from '../steps/enlarge/enlarge';
import type { MountNumbers } from '../steps/mount/mount';
import type { SettleContext, Step } from '../steps/step';
import type { Zone, ZoneMap } from '../zone/zone';
import {
  CORE_VERSION,
  RECIPE_VERSION,
  stepOf,
  type Output,
  type SettledRecipe,
  type Trial,
  type Work,
} from './recipe';
import type { Original } from './source';
import { levelSize } from './tiles';

/** A settled recipe with its plan, or in words why the print can't be made. */
export type Settled =
  { ok: true; recipe: SettledRecipe; plan: PrintPlan } | { ok: false; reason: string };

/** What of an original a work takes. Shapes have no pixels to be straightened or taken back. */
export const framingOf = (original: Original, { framing }: Pick<Work, 'framing'>): Framing =>
  original.vector ? { ...framing, grid: null, straighten: 0 } : framing;

/** What of an original the paper is planned for. */
export function plannedPicture(original: Original, work: Pick<Work, 'framing'>): Picture {
  const framing = framingOf(original, work);
  return {
    rect: pictureRect(original.size, framing),
    vector: original.vector,
    repeats: original.size.width / gridSize(original.size, framing).width,
  };
}

/** The print plan of an original under a work, at a resolution. */
export const planOf = (
  original: Original,
  work: Pick<Work, 'framing' | 'paper'>,
  ppi: number,
): PlanResult => planPrint(plannedPicture(original, work), work.paper, ppi);

/** Pixels are kept where only the size tag is set; shapes have none to keep. */
const keepsPixels = (original: Original, trial: Trial): boolean =>
  trial.pixels === 'kept' && !original.vector;

/** Cropping alone: at factor one every pixel is taken as it is. */
const UNTOUCHED: Trial['treatment'] = [
  {
    kind: 'enlarge',
    on: true,
    strength: 100,
    settings: { ...enlarge.defaults, method: 'nearest' },
  },
];

/** The plan of a trial: at its own resolution, or at the one that its pixels come to. */
function planFor(original: Original, work: Work, trial: Trial): PlanResult {
  const planned = planOf(original, work, trial.ppi);
  if (!planned.ok || !keepsPixels(original, trial)) return planned;
  const { straighten } = work.framing;
  if (straighten !== 0 || Math.abs(planned.plan.distortion) > 1e-3) {
    const what = straighten === 0 ? 'Stretching' : 'Straightening';
    return {
      ok: false,
      reason: `${what} needs new pixels: it can't be done by the size tag alone.`,
    };
  }
  const ppi = Math.min(planned.plan.ppiBefore.x, planned.plan.ppiBefore.y);
  return Ppi.safeParse(ppi).success
    ? onWholePixels(planOf(original, work, ppi))
    : {
        ok: false,
        reason: `On that paper its pixels come to ${ppi.toPrecision(2)} ppi, which no tag says.`,
      };
}

/** The same plan with a window of whole pixels, so that each is taken once. */
function onWholePixels(planned: PlanResult): PlanResult {
  if (!planned.ok) return planned;
  const { picture, source } = planned.plan;
  const whole = {
    x: Math.max(0, Math.round(source.x)),
    y: Math.max(0, Math.round(source.y)),
    width: picture.width,
    height: picture.height,
  };
  return { ok: true, plan: { ...planned.plan, source: whole } };
}

/**
 * Turns every automatic choice of a trial into numbers. After this no step looks at anything but
 * its region and its reach.
 * @param models those that can be used; a step whose model is missing computes classically
 */
export function settle(
  original: Original,
  work: Work,
  trial: Trial,
  models: Models = ALL_MODELS,
): Settled {
  const planned = planFor(original, work, trial);
  if (!planned.ok) return planned;
  const { plan } = planned;
  const { vector, digest } = original;
  const framing = framingOf(original, work);
  const source = vector
    ? { width: plan.picture.width, height: plan.picture.height }
    : gridSize(original.size, framing);
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
        drawn: vector ? { source: plan.source, turn: framing.turn } : null,
      },
      alpha: alphaOf(original, trial.output),
      colour: work.paper.colour,
      target: { ...plan.pixels, ppi: plan.ppiAfter },
      steps: [...treated({ original, work, plan, models }, trial), ...mounted(plan, work.paper)],
      output: trial.output,
    },
  };
}

/** What all trials of a print rest on. */
interface Print {
  original: Original;
  work: Work;
  plan: PrintPlan;
  models: Models;
}

/** The steps of a trial that lead from the original to its picture. */
function treated(print: Print, trial: Trial, inset = false): SettledStep[] {
  const { original, work, plan, models } = print;
  const { jpeg, blocks, noise, tones } = original;
  const treatment = keepsPixels(original, trial) ? UNTOUCHED : trial.treatment;
  const framing = framingOf(original, work);
  const phases = phasesOf(treatment);
  const { method, parts } = stepOf(treatment, 'enlarge')!.settings;
  const by = choosingFor(original, work, plan, models);
  const context = {
    ...{ original: gridSize(original.size, framing), jpeg, blocks, noise, tones, models },
    ...{ framing, plan, enlargement: carryOut(method, by).plain },
    settledTrial: (id: string) => {
      const other = work.trials.find((one) => one.id === id);
      // One that is laid over another has none laid over it.
      return !other || inset || id === trial.id ? null : treated(print, other, true);
    },
  };
  const list = treatment.flatMap((choice, i) =>
    settleStep(choice, { ...context, phase: phases[i]! }, work.zones),
  );
  const at = list.findIndex(({ kind }) => kind === 'enlarge');
  if (at < 0) return list;
  const before: SettledStep[] = [
    ...(framing.grid ? [{ kind: 'regrid' as const, strength: 100, numbers: framing.grid }] : []),
    ...list.slice(0, at),
  ];
  const enlarged = list[at] as SettledEnlarge;
  const others = parts.flatMap(({ zone, method: other }): SettledStep[] => {
    const limit = zoneOf({ zone }, work.zones);
    if (!limit.zone) return [];
    const steps = [...before, ...carried(carryOut(other, by), enlarged, before, jpeg)];
    return [{ kind: 'inset', strength: 100, ...limit, numbers: { steps } }];
  });
  return [
    ...before,
    ...carried(carryOut(method, by), enlarged, before, jpeg),
    ...others,
    ...list.slice(at + 1),
  ];
}

/** Below this quality compression leaves more behind than a ringing kernel may be given. */
const HARSH = 60;

/** What the automatic choice of a method goes by. */
export const choosingFor = (
  original: Original,
  work: Pick<Work, 'kind'>,
  plan: PrintPlan,
  models: Models,
): Choosing => ({
  kind: work.kind ?? original.kind,
  factor: factorOf(plan),
  harsh: (original.jpeg?.quality ?? 100) < HARSH,
  noise: original.noise.luma,
  models,
});

/** An enlargement as it is carried out: by a network first, where there is one. */
function carried(
  { model, plain }: Carried,
  step: SettledEnlarge,
  before: readonly SettledStep[],
  jpeg: Original['jpeg'],
): SettledStep[] {
  const plainly = { ...step, numbers: { ...step.numbers, method: plain } };
  if (!model) return [plainly];
  const cleaned = before.find(({ kind }) => kind === 'compression') as
    Extract<SettledStep, { kind: 'compression' }> | undefined;
  const tables = cleaned?.numbers ?? jpeg;
  const numbers = {
    model,
    luma: tables ? severityOf(tables.luma) : 0,
    colour: tables?.chroma ? severityOf(tables.chroma) : 0,
  };
  return [{ kind: 'magnify', strength: 100, numbers }, onLarger(plainly, MAGNIFICATION)];
}

type SettledEnlarge = Extract<SettledStep, { kind: 'enlarge' }>;

/** The same resampling of a picture that is so many times as large. */
export function onLarger(step: SettledEnlarge, across: number, down = across): SettledEnlarge {
  const { x, y, width, height } = step.numbers.source;
  const source = {
    x: x * across,
    y: y * down,
    width: width * across,
    height: height * down,
  };
  return { ...step, numbers: { ...step.numbers, source } };
}

/** How many times larger a recipe's networks make the picture before it is resampled. */
export const magnification = (list: readonly SettledStep[]): number =>
  MAGNIFICATION ** list.filter(({ kind }) => kind === 'magnify').length;

/** A change of a recipe that insets follow as well. */
const withInsets =
  (change: (recipe: SettledRecipe) => SettledRecipe) =>
  (recipe: SettledRecipe): SettledRecipe => {
    const changed = change(recipe);
    const steps = changed.steps.map((step): SettledStep => {
      if (step.kind !== 'inset') return step;
      const inside = change({ ...recipe, steps: insetSteps(step.numbers) });
      return { ...step, numbers: { steps: inside.steps } };
    });
    return { ...changed, steps };
  };

/** The same without networks before the resampling. */
export const unmagnified = withInsets((recipe) => {
  const times = magnification(recipe.steps);
  if (times === 1) return recipe;
  return {
    ...recipe,
    steps: recipe.steps.flatMap((step): SettledStep[] =>
      step.kind === 'magnify' ? [] : [step.kind === 'enlarge' ? onLarger(step, 1 / times) : step],
    ),
  };
});

/** Transparency is kept where it is wanted and the format holds it. */
function alphaOf(original: Original, output: Output): SettledRecipe['alpha'] {
  if (!original.alpha) return 'none';
  return output.alpha === 'keep' && output.format !== 'jpeg' ? 'kept' : 'laid';
}

/** Lays the picture on its sheet, where it doesn't fill all of it. */
function mounted({ pixels, picture, trim }: PrintPlan, paper: Paper): SettledStep[] {
  const right = picture.x + picture.width;
  const bottom = picture.y + picture.height;
  const fills = right - picture.x === pixels.width && bottom - picture.y === pixels.height;
  if (fills) return [];
  const { fill } = paper.bleed;
  // Where the picture ended before the paper did, its mirror image goes on.
  const bleed = fill === 'picture' ? 'mirror' : fill;
  const beyond = (margin: boolean): MountNumbers['left'] => (margin ? 'colour' : bleed);
  return [
    {
      kind: 'mount',
      strength: 100,
      numbers: {
        ...pixels,
        x: picture.x,
        y: picture.y,
        left: beyond(picture.x > trim.x),
        top: beyond(picture.y > trim.y),
        right: beyond(right < trim.x + trim.width),
        bottom: beyond(bottom < trim.y + trim.height),
        colour: paper.colour,
      },
    },
  ];
}

function settleStep(
  choice: StepChoice,
  context: SettleContext,
  zones: readonly Zone[],
): SettledStep[] {
  if (!choice.on || choice.strength === 0) return [];
  // Shapes have no pixels of their own that could be cleaned.
  if (context.plan.vector && context.phase === 'original') return [];
  const step = steps[choice.kind] as unknown as Step<string, unknown, object>;
  const numbers = step.settle(choice.settings, context);
  if (!numbers) return [];
  const { kind, strength } = choice;
  return [{ kind, strength, ...zoneOf(choice, zones), numbers } as SettledStep];
}

/** What a step is limited to; a zone that is gone limits nothing. */
function zoneOf(choice: object, zones: readonly Zone[]): { zone?: ZoneMap } {
  const zone = 'zone' in choice && zones.find(({ id }) => id === choice.zone);
  if (!zone) return {};
  const { parts, painted, feather, inverted } = zone;
  return { zone: { parts, painted, feather, inverted } };
}

const scaledSide = (side: number, scale: number): number => Math.max(1, Math.round(side * scale));

/**
 * The same recipe for a result `scale` times as large, 0 to 1: what a preview shows when it is
 * zoomed out. Close to the reduced result, but not its exact pixels; whoever shows it says so.
 */
export const atScale = (recipe: SettledRecipe, scale: number): SettledRecipe =>
  scale === 1 ? recipe : withInsets((one) => scaledRecipe(one, scale))(recipe);

function scaledRecipe(recipe: SettledRecipe, scale: number): SettledRecipe {
  const phases = phasesOf(recipe.steps, recipe.original.drawn !== null);
  const scaled = recipe.steps.map((settled, i) => {
    // What is done at the original's size is the same for a result of any size.
    if (phases[i] === 'original') return settled;
    const numbers = stageOf(settled).scaled(settled.numbers, scale);
    return { ...settled, numbers } as SettledStep;
  });
  // What is drawn from shapes is drawn small.
  const original = recipe.original.drawn
    ? {
        ...recipe.original,
        width: scaledSide(recipe.original.width, scale),
        height: scaledSide(recipe.original.height, scale),
      }
    : recipe.original;
  return withTarget({ ...recipe, original, steps: scaled });
}

/** The recipe with the target that its steps lead to. */
function withTarget(recipe: SettledRecipe): SettledRecipe {
  const { width, height } = recipe.steps.reduce<Size>(
    (size, settled) => stageOf(settled).size(settled.numbers, size),
    recipe.original,
  );
  return { ...recipe, target: { ...recipe.target, width, height } };
}

/**
 * The same small rendering from an original that was halved `level` times. Steps at the original's
 * size of which nothing is seen from so far away are left out.
 */
export const fromHalved = (recipe: SettledRecipe, level: number): SettledRecipe =>
  level === 0 || recipe.original.drawn
    ? recipe
    : withInsets((one) => halvedRecipe(one, level))(unmagnified(recipe));

function halvedRecipe(recipe: SettledRecipe, level: number): SettledRecipe {
  const size = levelSize(recipe.original, level);
  const grid = gridOf(recipe);
  const x = size.width / grid.width;
  const y = size.height / grid.height;
  const phases = phasesOf(recipe.steps);
  const small = <S extends SettledStep>(step: S): S =>
    step.zone
      ? { ...step, zone: { ...step.zone, feather: step.zone.feather * Math.min(x, y) } }
      : step;
  return {
    ...recipe,
    original: { ...recipe.original, ...size },
    steps: recipe.steps.flatMap((step, i): SettledStep[] => {
      if (phases[i] === 'original') {
        const numbers = stageOf(step).afar?.(step.numbers, Math.min(x, y));
        return numbers ? [small({ ...step, numbers } as SettledStep)] : [];
      }
      if (step.kind !== 'enlarge') return [small(step)];
      const [across, down] = step.numbers.turn % 180 === 0 ? [x, y] : [y, x];
      return [onLarger(step, across, down)];
    }),
  };
}

/** Size of the grid that is enlarged: the original's, or the true one of repeated pixels. */
function gridOf(recipe: SettledRecipe): Size {
  const { width, height } =
    recipe.steps.find((step) => step.kind === 'regrid')?.numbers ?? recipe.original;
  return { width, height };
}

/** The same with classical estimates in place of learned ones. */
export const classically = (recipe: SettledRecipe): SettledRecipe =>
  withInsets((one) => ({
    ...one,
    steps: one.steps.map((step) =>
      'model' in step.numbers
        ? ({ ...step, numbers: { ...step.numbers, model: null } } as SettledStep)
        : step,
    ),
  }))(unmagnified(recipe));

/** The original as the printer would print it if nothing were done: its pixels repeated. */
export function untreated(recipe: SettledRecipe): SettledRecipe {
  return {
    ...recipe,
    steps: unmagnified(recipe).steps.flatMap((step): SettledStep[] => {
      if (step.kind === 'enlarge') {
        return [{ ...step, numbers: { ...step.numbers, method: 'nearest', light: 'gamma' } }];
      }
      return step.kind === 'regrid' || step.kind === 'mount' ? [step] : [];
    }),
  };
}

/**
 * The recipe without its enlargement and what follows: the cleaned original on its own grid, as it
 * is turned and straightened.
 * @param cleaned false leaves it as it came
 */
export function beforeEnlarging(recipe: SettledRecipe, cleaned = true): SettledRecipe {
  const phases = phasesOf(recipe.steps, recipe.original.drawn !== null);
  const kept = recipe.steps.filter(
    (step, i) =>
      step.kind === 'regrid' || (cleaned && phases[i] === 'original' && step.kind !== 'magnify'),
  );
  const enlarged = recipe.steps.find((step) => step.kind === 'enlarge');
  const { turn = 0, straighten = 0 } = enlarged?.numbers ?? {};
  const frame = frameSize(gridOf(recipe), { ...NO_GRID, turn });
  // Interpolated rather than repeated, so that a straightened picture shows no stairs.
  const framed: SettledStep[] =
    turn === 0 && straighten === 0
      ? []
      : [
          {
            kind: 'enlarge',
            strength: 100,
            numbers: {
              ...{ light: 'gamma', limit: 0, step: 10 },
              method: straighten === 0 ? 'nearest' : 'bicubic',
              source: { x: 0, y: 0, ...frame },
              turn,
              straighten,
              ...frame,
            },
          },
        ];
  return withTarget({ ...recipe, steps: [...kept, ...framed] });
}

const NO_GRID = { page: 1, grid: null, straighten: 0, crop: null } as const;
