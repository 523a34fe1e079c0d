import { z } from 'zod';
import type { ModelName } from '../learned/models';
import { say } from '../words/say';

/** A setting that is found by the application, or a number of the technician's. */
export const automatic = (least: number, most: number) =>
  z.union([z.literal('auto'), z.number().min(least).max(most)]);

export type Automatic = 'auto' | number;

/** How a cleaner computes. */
export const Engine = z.enum(['classical', 'learned']);
export type Engine = z.infer<typeof Engine>;

/** SHA-256 of a model's file, or null for the classical engine. */
export const ModelDigest = z
  .string()
  .regex(/^[0-9a-f]{64}$/)
  .nullable();

/** What a cleaner that asks a network costs on top of its classical estimate, in microseconds a pixel. */
export const LEARNED_CLEANER = 1.8;

/** How a cleaner's engine is chosen. */
export const engineControl = (model: ModelName) => ({
  form: 'choice' as const,
  setting: 'engine' as const,
  label: say`How it is computed`,
  options: [
    { value: 'learned', label: say`Learned` },
    { value: 'classical', label: say`Classical` },
  ],
  needs: { option: 'learned', model },
});
