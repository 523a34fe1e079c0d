import { z } from 'zod';
import { NO_GUARDS } from '../../guard/guards';

// Until version 4 nothing kept sharpening from being overdone: what was decided then stays as it is.

const Work = z.looseObject({ version: z.literal(4), trials: z.array(z.looseObject({})) });

export function work(value: unknown): unknown {
  const old = Work.safeParse(value);
  if (!old.success) return value;
  const trials = old.data.trials.map((trial) => ({ ...trial, guards: NO_GUARDS }));
  return { ...old.data, version: 5, trials };
}

const Recipe = z.looseObject({ version: z.literal(4) });

export function recipe(value: unknown): unknown {
  const old = Recipe.safeParse(value);
  return old.success ? { ...old.data, version: 5 } : value;
}

export function treatmentFile(value: unknown): unknown {
  const old = Recipe.safeParse(value);
  return old.success ? { ...old.data, version: 5, guards: NO_GUARDS } : value;
}
