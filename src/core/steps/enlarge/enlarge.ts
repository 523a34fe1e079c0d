import { z } from 'zod';
import { where, ZoneId } from '../../zone/zone';
import { Light, StepPercent } from '../resample/resample';
import type { Choosable } from '../step';
import { Method, methodNotes } from './methods';
import { say } from '../../words/say';

/** A zone with a method of its own. */
export const MethodPart = z.object({ ...where, zone: ZoneId, method: Method });
export type MethodPart = z.infer<typeof MethodPart>;

export const EnlargeSettings = z.object({
  method: Method,
  light: Light.default('gamma'),
  /** overshoot limit: how much of what a ringing kernel swings beyond its neighbours is taken back, in % */
  limit: z.number().min(0).max(100).default(0),
  step: StepPercent.default(10),
  /** zones that another method enlarges */
  parts: z.array(MethodPart).max(4).default([]),
});
export type EnlargeSettings = z.infer<typeof EnlargeSettings>;

/**
 * The one enlargement of a treatment. It comes to a resampling, after an upscaling by a network where the
 * method asks one; other methods in zones come to insets.
 */
export const enlarge = {
  kind: 'enlarge',
  title: say`Enlarge`,
  blurb: say`New pixels, as many as the print needs.`,
  rank: 0,
  phases: ['enlarge'],
  settings: EnlargeSettings,
  defaults: { method: 'auto', light: 'gamma', limit: 0, step: 10, parts: [] },
  // Which of them a method has is more than data can say: the section draws them itself.
  controls: [],
  summary: ({ method }) => methodNotes[method].title.toLowerCase(),
} satisfies Choosable<'enlarge', EnlargeSettings>;
