import { z } from 'zod';
import { ZoneId, ZoneMap } from '../zone/zone';
import { banding } from './banding/banding';
import { compression } from './compression/compression';
import { enlarge } from './enlarge/enlarge';
import { fringes } from './fringes/fringes';
import { inset, type InsetNumbers } from './inset/inset';
import { magnify } from './magnify/magnify';
import { mount } from './mount/mount';
import { noise } from './noise/noise';
import { regrid } from './regrid/regrid';
import { retouch } from './retouch/retouch';
import { sharpen } from './sharpen/sharpen';
import { smooth } from './smooth/smooth';
import { specks } from './specks/specks';
import type { Phase, Stage, Step } from './step';
import { texture } from './texture/texture';
import { tones } from './tones/tones';

/** Every step that a treatment may hold. A new one is added here and nowhere else in the core. */
export const steps = {
  compression,
  noise,
  specks,
  fringes,
  retouch,
  smooth,
  banding,
  tones,
  texture,
  enlarge,
  inset,
  sharpen,
} as const;

export type StepKind = keyof typeof steps;

/** Everything that a settled recipe may hold: the steps, and what follows from framing and paper. */
export const stages = { regrid, ...steps, magnify, mount } as const;

export type StageKind = keyof typeof stages;

const strength = z.number().min(0).max(100);

/**
 * A step as a treatment holds it: switched on or off, weakened, limited to a zone, with the
 * technician's settings.
 */
const choiceOf = <K extends string, S, N extends object>(step: Step<K, S, N>) =>
  z.object({
    kind: z.literal(step.kind),
    on: z.boolean(),
    strength,
    /** where it works; everywhere where there is none */
    zone: ZoneId.optional(),
    settings: step.settings,
  });

export const StepChoice = z.discriminatedUnion('kind', [
  choiceOf(compression),
  choiceOf(noise),
  choiceOf(specks),
  choiceOf(fringes),
  choiceOf(retouch),
  choiceOf(smooth),
  choiceOf(banding),
  choiceOf(tones),
  choiceOf(texture),
  choiceOf(enlarge)
    .omit({ zone: true })
    .extend({ on: z.literal(true) }),
  choiceOf(inset),
  choiceOf(sharpen),
]);
export type StepChoice = z.infer<typeof StepChoice>;

/** A step's one-line summary. */
export const summaryOf = ({ kind, settings, strength }: StepChoice): string =>
  (steps[kind] as unknown as Step<string, unknown, object>).summary(settings, strength);

/** A stage once nothing automatic remains. */
const settledOf = <K extends string, N extends object>(stage: Stage<K, N>) =>
  z.object({
    kind: z.literal(stage.kind),
    strength,
    zone: ZoneMap.optional(),
    numbers: stage.numbers,
  });

export const SettledStep = z.discriminatedUnion('kind', [
  settledOf(regrid),
  settledOf(compression),
  settledOf(noise),
  settledOf(specks),
  settledOf(fringes),
  settledOf(retouch),
  settledOf(smooth),
  settledOf(banding),
  settledOf(tones),
  settledOf(texture),
  settledOf(magnify),
  settledOf(enlarge),
  settledOf(inset),
  settledOf(sharpen),
  settledOf(mount),
]);
export type SettledStep = z.infer<typeof SettledStep>;

/** The steps of an inset, each checked as what it says it is. */
export const insetSteps = ({ steps: list }: InsetNumbers): SettledStep[] =>
  z.array(SettledStep).parse(list);

/** A stage as the settled step names it, whatever its numbers are. */
export const stageOf = (settled: Pick<SettledStep, 'kind'>): Stage<string, object> =>
  stages[settled.kind] as unknown as Stage<string, object>;

/**
 * Where each of an ordered list stands: before, at or after the enlargement, or laid on the sheet.
 * Pictures drawn from shapes have none and stand on the target's grid from the start.
 */
export function phasesOf(list: readonly { kind: StageKind }[], drawn = false): Phase[] {
  let phase: Phase = drawn ? 'target' : 'original';
  return list.map(({ kind }) => {
    if (kind === 'mount') return 'sheet';
    if (kind === 'enlarge') {
      phase = 'target';
      return 'enlarge';
    }
    return phase;
  });
}
