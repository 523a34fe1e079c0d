import { z } from 'zod';

/**
 * Version 4 names stages as the field does, and Finish became a list: its one sharpening is an unsharp
 * mask among others.
 */
const KINDS: Record<string, string> = {
  sharpen: 'unsharp',
  magnify: 'upscale',
  enlarge: 'resample',
};
const METHODS: Record<string, string> = { 'lanczos3-round': 'lanczos3-jinc' };
const EDGES: Record<string, string> = { rim: 'clamp' };

const renamed = (value: unknown, names: Record<string, string>): unknown =>
  typeof value === 'string' ? (names[value] ?? value) : value;

const Choice = z.looseObject({ kind: z.string(), settings: z.looseObject({}) });
type Choice = z.infer<typeof Choice>;
const Parts = z.array(z.looseObject({ method: z.unknown() })).catch([]);

function choice(step: Choice): Choice {
  if (step.kind === 'sharpen') return { ...step, kind: 'unsharp' };
  if (step.kind !== 'enlarge') return step;
  const { method, parts, ...settings } = step.settings;
  const own = Parts.parse(parts).map((part) => ({
    ...part,
    method: renamed(part.method, METHODS),
  }));
  return { ...step, settings: { ...settings, method: renamed(method, METHODS), parts: own } };
}

const Work = z.looseObject({
  version: z.literal(3),
  trials: z.array(z.looseObject({ id: z.unknown(), treatment: z.array(Choice) })),
});

/** Letters were given anew after a trial was deleted; those that stand are not. */
const begunBy = (ids: readonly unknown[]): number =>
  Math.max(1, ...ids.map((id) => (/^[a-z]$/.test(String(id)) ? String(id).charCodeAt(0) - 96 : 1)));

export function work(value: unknown): unknown {
  const old = Work.safeParse(value);
  if (!old.success) return value;
  const { trials, ...rest } = old.data;
  return {
    ...rest,
    version: 4,
    begun: begunBy(trials.map(({ id }) => id)),
    trials: trials.map((trial) => ({ ...trial, treatment: trial.treatment.map(choice) })),
  };
}

const File = z.looseObject({ version: z.literal(3), treatment: z.array(Choice) });

export function treatmentFile(value: unknown): unknown {
  const old = File.safeParse(value);
  if (!old.success) return value;
  return { ...old.data, version: 4, treatment: old.data.treatment.map(choice) };
}

const Step = z.looseObject({ kind: z.string(), numbers: z.looseObject({}) });
type Step = z.infer<typeof Step>;
const Steps = z.array(Step);

function step({ kind, numbers, ...rest }: Step): Step {
  const named = Object.fromEntries(
    Object.entries(numbers).map(([key, value]) => [
      key,
      key === 'method'
        ? renamed(value, METHODS)
        : kind === 'mount'
          ? renamed(value, EDGES)
          : kind === 'inset' && key === 'steps'
            ? Steps.parse(value).map(step)
            : value,
    ]),
  );
  return { ...rest, kind: KINDS[kind] ?? kind, numbers: named };
}

const Recipe = z.looseObject({ version: z.literal(3), steps: Steps });

export function recipe(value: unknown): unknown {
  const old = Recipe.safeParse(value);
  if (!old.success) return value;
  return { ...old.data, version: 4, steps: old.data.steps.map(step) };
}
