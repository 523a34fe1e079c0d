import { z } from 'zod';
import { say } from '../words/say';

/** Who signs: a few letters. */
export const Initials = z
  .string()
  .trim()
  .min(1, say`Who signs? Give your initials.`)
  .max(8, say`Initials are a few letters.`)
  .transform((letters) => letters.toUpperCase());
