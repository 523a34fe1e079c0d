import { z } from 'zod';
import { clean } from './clean/clean';
import { enlarge } from './enlarge/enlarge';
import { mount } from './mount/mount';
import { regrid } from './regrid/regrid';
import { sharpen } from './sharpen/sharpen';

/** Every step that a treatment may hold. A new one is added here and nowhere else in the core. */
export const steps = { clean, enlarge, sharpen } as const;

export type StepKind = keyof typeof steps;

/** Everything that a settled recipe may hold: the steps, and what follows from framing and paper. */
export const stages = { regrid, ...steps, mount } as const;

export type StageKind = keyof typeof stages;

const strength = z.number().min(0).max(100);

/** A step as a treatment holds it: switched on or off, weakened, with the technician's settings. */
export const StepChoice = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('clean'), on: z.boolean(), strength, settings: clean.settings }),
  z.object({
    kind: z.literal('enlarge'),
    on: z.literal(true),
    strength,
    settings: enlarge.settings,
  }),
  z.object({ kind: z.literal('sharpen'), on: z.boolean(), strength, settings: sharpen.settings }),
]);
export type StepChoice = z.infer<typeof StepChoice>;

/** A stage once nothing automatic remains. */
export const SettledStep = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('regrid'), strength, numbers: regrid.numbers }),
  z.object({ kind: z.literal('clean'), strength, numbers: clean.numbers }),
  z.object({ kind: z.literal('enlarge'), strength, numbers: enlarge.numbers }),
  z.object({ kind: z.literal('sharpen'), strength, numbers: sharpen.numbers }),
  z.object({ kind: z.literal('mount'), strength, numbers: mount.numbers }),
]);
export type SettledStep = z.infer<typeof SettledStep>;
