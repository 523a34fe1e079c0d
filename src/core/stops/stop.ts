import { z } from 'zod';
import { say } from '../words/say';

/** What makes a place worth a look. */
export const StopKind = z.enum([
  'face',
  'blocks',
  'lettering',
  'edges',
  'texture',
  'gradient',
  'shadow',
]);
export type StopKind = z.infer<typeof StopKind>;

/** A place of an original that is worth a look. */
export const Stop = z.object({
  kind: StopKind,
  /** pixel of the original */
  x: z.number(),
  y: z.number(),
  /** what was measured there, in the kind's unit */
  figure: z.number(),
});
export type Stop = z.infer<typeof Stop>;

/** What a kind of stop is called, and what its figure says. */
export const STOP_WORDS: Record<StopKind, { title: string; figure(value: number): string }> = {
  face: { title: say`face`, figure: (value) => say`${value.toFixed(0)} px of the original high` },
  blocks: {
    title: say`blocking`,
    figure: (value) => say`steps of ${value.toFixed(1)} levels at an 8 px grid`,
  },
  lettering: {
    title: say`lettering`,
    figure: (value) => say`two tones, ${value.toFixed(0)} levels apart`,
  },
  edges: {
    title: say`edges`,
    figure: (value) => say`${value.toFixed(0)} levels from pixel to pixel`,
  },
  texture: {
    title: say`texture`,
    figure: (value) => say`fine detail of ${value.toFixed(1)} levels`,
  },
  gradient: {
    title: say`gradient`,
    figure: (value) => say`climbs ${value.toFixed(1)} levels over 64 px`,
  },
  shadow: { title: say`shadow`, figure: (value) => say`${value.toFixed(0)} levels of 255` },
};
