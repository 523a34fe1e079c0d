import { z } from 'zod';

const Step = z.looseObject({ kind: z.string() });
const Work = z.looseObject({
  version: z.literal(2),
  trials: z.array(z.looseObject({ treatment: z.array(Step) })),
});

/** Until version 2 there was one step of cleaning, against compression, and no zones. */
export function work(value: unknown): unknown {
  const old = Work.safeParse(value);
  if (!old.success) return value;
  const settings = { engine: 'classical', luma: 'auto', colour: 'auto' };
  return {
    ...old.data,
    version: 3,
    zones: [],
    trials: old.data.trials.map((trial) => ({
      ...trial,
      treatment: trial.treatment.map((step) =>
        step.kind === 'clean' ? { ...step, kind: 'compression', settings } : step,
      ),
    })),
  };
}

const Recipe = z.looseObject({ version: z.literal(2), steps: z.array(Step) });

export function recipe(value: unknown): unknown {
  const old = Recipe.safeParse(value);
  if (!old.success) return value;
  return {
    ...old.data,
    version: 3,
    steps: old.data.steps.map((step) =>
      step.kind === 'clean' ? { ...step, kind: 'compression' } : step,
    ),
  };
}
