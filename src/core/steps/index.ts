import { z } from 'zod';
import { OvershootLimit } from '../guard/guards';
import { where, ZoneMap, type Where } from '../zone/zone';
import { banding } from './banding/banding';
import { contrast } from './contrast/contrast';
import { compression } from './compression/compression';
import { crisp } from './crisp/crisp';
import { enlarge } from './enlarge/enlarge';
import { resample } from './resample/resample';
import { deblur } from './deblur/deblur';
import { edges } from './edges/edges';
import { grain } from './grain/grain';
import { greys } from './greys/greys';
import { ground } from './ground/ground';
import { fringes } from './fringes/fringes';
import { highpass } from './highpass/highpass';
import { inset, type InsetNumbers } from './inset/inset';
import { mount } from './mount/mount';
import { noise } from './noise/noise';
import { regrid } from './regrid/regrid';
import { restore } from './restore/restore';
import { retouch } from './retouch/retouch';
import { smooth } from './smooth/smooth';
import { spread } from './spread/spread';
import { specks } from './specks/specks';
import { paper } from './paper/paper';
import type { Choosable, Numbered, Phase, ResolveContext, Stage } from './step';
import { texture } from './texture/texture';
import { tones } from './tones/tones';
import { unsharp } from './unsharp/unsharp';
import { upscale } from './upscale/upscale';

/** Every step that may stand in a list of the ticket. A new one is added here and nowhere else. */
const LISTED = [
  restore,
  compression,
  noise,
  ground,
  deblur,
  specks,
  fringes,
  retouch,
  smooth,
  banding,
  tones,
  texture,
  inset,
  crisp,
  contrast,
  highpass,
  edges,
  unsharp,
  grain,
  paper,
] as const;

/** Everything that a treatment may hold: the listed steps, and the one enlargement. */
const STEPS = [...LISTED, enlarge] as const;

/** Everything that a recipe may hold: the listed steps, and what framing, enlargement and paper come to. */
const STAGES = [regrid, ...LISTED, upscale, resample, greys, spread, mount] as const;

type ByKind<S extends { kind: string }> = { [K in S['kind']]: Extract<S, { kind: K }> };
const byKind = <S extends { kind: string }>(list: readonly S[]): ByKind<S> =>
  Object.fromEntries(list.map((one) => [one.kind, one])) as ByKind<S>;

export const steps = byKind<(typeof STEPS)[number]>(STEPS);
export const stages = byKind<(typeof STAGES)[number]>(STAGES);

export type StepKind = keyof typeof steps;
export type ListedKind = (typeof LISTED)[number]['kind'];
export type StageKind = keyof typeof stages;

const strength = z.number().min(0).max(100);

/** A step as a treatment holds it: switched on or off, weakened, limited to a zone, with its settings. */
type ChoiceOf<S> = S extends { kind: infer K; settings: z.ZodType<infer T> }
  ? { kind: K; on: boolean; strength: number; settings: T } & Where
  : never;
export type StepChoice = ChoiceOf<(typeof STEPS)[number]>;

const choiceOf = (step: Choosable<string, never>) =>
  z.object({
    kind: z.literal(step.kind),
    on: z.boolean(),
    strength,
    ...where,
    settings: step.settings,
  });

/** Schemas of a kind each, told apart by it; the types follow from the lists above. */
const anyOf = <T>(schemas: readonly z.ZodObject[]): z.ZodType<T> =>
  z.discriminatedUnion('kind', schemas as unknown as [z.ZodObject]) as unknown as z.ZodType<T>;

export const StepChoice = anyOf<StepChoice>(
  STEPS.map((step) => choiceOf(step as unknown as Choosable<string, never>)),
);

/** The step that a choice is of, whatever its settings are. */
export const stepOfKind = (kind: StepKind): Choosable<string, unknown> =>
  steps[kind] as unknown as Choosable<string, unknown>;

/** Whether something that names its kind, a step, a stage or a part, is of this one. */
export const isOfKind = <T extends { kind: string }, K extends T['kind']>(
  one: T,
  kind: K,
): one is Extract<T, { kind: K }> => one.kind === kind;

/** The first of a kind in a list. */
export const firstOfKind = <T extends { kind: string }, K extends T['kind']>(
  list: readonly T[],
  kind: K,
): Extract<T, { kind: K }> | undefined => list.find((one) => isOfKind(one, kind)) as never;

/** A list without those of a kind. */
export const withoutKind = <T extends { kind: string }>(list: readonly T[], kind: T['kind']): T[] =>
  list.filter((one) => !isOfKind(one, kind));

/** A title within a sentence: abbreviations keep their capitals. */
export const lowered = (title: string): string =>
  /^[A-Z]{2}/.test(title) ? title : title[0]!.toLowerCase() + title.slice(1);

/** A step among others: its name, and how much of it there is. */
export function gistOf({ kind, settings, strength }: StepChoice): string {
  const { title, share } = stepOfKind(kind);
  const of = share ? share(settings, strength) : strength < 100 ? strength : null;
  return of === null ? lowered(title) : `${lowered(title)} ${of} %`;
}

/** A step's settings in one line. */
export const summaryOf = ({ kind, settings, strength: share }: StepChoice): string =>
  stepOfKind(kind).summary(settings, share);

/** A stage once nothing automatic remains. */
type RecipeStepOf<S> = S extends { kind: infer K; numbers: z.ZodType<infer N> }
  ? {
      kind: K;
      strength: number;
      zone?: ZoneMap | undefined;
      /** where guards let it work, besides its zone */
      spared?: ZoneMap | undefined;
      /** how far a pixel may leave the range of its neighbourhood */
      limit?: OvershootLimit | undefined;
      numbers: N;
    }
  : never;
export type RecipeStep = RecipeStepOf<(typeof STAGES)[number]>;

const recipeStepOf = (stage: Numbered<string, never>) =>
  z.object({
    kind: z.literal(stage.kind),
    strength,
    zone: ZoneMap.optional(),
    spared: ZoneMap.optional(),
    limit: OvershootLimit.optional(),
    numbers: stage.numbers,
  });

export const RecipeStep = anyOf<RecipeStep>(
  STAGES.map((stage) => recipeStepOf(stage as unknown as Numbered<string, never>)),
);

/** The steps of an inset, each checked as what it says it is. */
export const insetSteps = ({ steps: list }: InsetNumbers): RecipeStep[] =>
  z.array(RecipeStep).parse(list);

/** What a recipe's step is, whatever its numbers are. */
export const numberedOf = ({ kind }: Pick<RecipeStep, 'kind'>): Numbered<string, object> =>
  stages[kind] as unknown as Numbered<string, object>;

/** The stage that a recipe's step names; all but insets, which are ways of their own, are stages. */
export const stageOf = ({ kind }: { kind: Exclude<StageKind, 'inset'> }): Stage<string, object> =>
  stages[kind] as unknown as Stage<string, object>;

/** Numbers of a listed step for a picture and a print, or null where it has nothing to do. */
export const resolvedNumbers = (
  { kind, settings }: Extract<StepChoice, { kind: ListedKind }>,
  context: ResolveContext,
): object | null =>
  (
    steps[kind] as unknown as {
      resolve(settings: unknown, context: ResolveContext): object | null;
    }
  ).resolve(settings, context);

/** What stands where: before, at or after the enlargement, or laid on the sheet. */
const PHASE_AFTER: Partial<Record<StepKind | StageKind, { itself: Phase; after: Phase }>> = {
  enlarge: { itself: 'enlarge', after: 'target' },
  resample: { itself: 'enlarge', after: 'target' },
  mount: { itself: 'sheet', after: 'sheet' },
};

/**
 * Where each of an ordered list stands. Pictures drawn from shapes have no enlargement and stand on the
 * target's grid from the start.
 */
export function phasesOf(list: readonly { kind: StepKind | StageKind }[], drawn = false): Phase[] {
  let phase: Phase = drawn ? 'target' : 'original';
  return list.map(({ kind }) => {
    const turn = PHASE_AFTER[kind];
    const here = turn?.itself ?? phase;
    phase = turn?.after ?? phase;
    return here;
  });
}
