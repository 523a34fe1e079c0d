import { z } from 'zod';
import { say } from '../words/say';

/** How colours that the other profile doesn't hold are brought into it (ICC.1, 6.2). */
export const Intent = z.enum(['relative', 'perceptual', 'saturation', 'absolute']);
export type Intent = z.infer<typeof Intent>;

/** A conversion of a result's colours to another profile. */
export const Conversion = z.object({
  /** SHA-256 of the profile's bytes, in hexadecimal digits */
  profile: z.string().regex(/^[0-9a-f]{64}$/),
  /** what its colours are */
  space: z.enum(['rgb', 'grey', 'cmyk']),
  intent: Intent,
  /** whether the darkest of one becomes the darkest of the other */
  blackPoint: z.boolean(),
});
export type Conversion = z.infer<typeof Conversion>;

/** What the intents are called, and what each is for. */
export const INTENT_WORDS: Record<Intent, { label: string; blurb: string }> = {
  relative: {
    label: say`Relative`,
    blurb: say`Colours that the device has stay as they are; others become the nearest that it has.`,
  },
  perceptual: {
    label: say`Perceptual`,
    blurb: say`All colours move a little, so that steps between saturated ones stay.`,
  },
  saturation: {
    label: say`Saturation`,
    blurb: say`As strong as can be: for charts, not for pictures.`,
  },
  absolute: {
    label: say`Absolute`,
    blurb: say`Also the original’s white, as a tint on the paper: for proofs of another paper.`,
  },
};
