import { z } from 'zod';
import { steps } from '../steps';
import { RECIPE_VERSION } from './versions';

/** What was read, or in sentences what is wrong with it. */
export type ReadForm<T> = { ok: true; value: T } | { ok: false; reason: string };

const Kinds = z.looseObject({ treatment: z.array(z.looseObject({ kind: z.string() })) });

export function isJson(text: string): boolean {
  try {
    JSON.parse(text);
    return true;
  } catch {
    return false;
  }
}

/** A text's JSON with the form and version that it says it has; null where it says none. */
export function openForm(text: string): { form: string; version: number; value: unknown } | null {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    return null;
  }
  const opening = z.object({ form: z.string(), version: z.int() }).safeParse(value);
  return opening.success ? { ...opening.data, value } : null;
}

/**
 * Reads a form that holds a treatment.
 * @param forward brings earlier versions forward
 */
export function readForm<T>(
  { version, value }: { version: number; value: unknown },
  schema: z.ZodType<T>,
  forward: (value: unknown) => unknown = (value_) => value_,
): ReadForm<T> {
  if (version > RECIPE_VERSION) {
    return {
      ok: false,
      reason: `It was written by a later Lontano (form ${version}, this one reads ${RECIPE_VERSION}). Update this one.`,
    };
  }
  const present = forward(value);
  const unknown = Kinds.safeParse(present).data?.treatment.find(
    ({ kind }) => !Object.hasOwn(steps, kind),
  );
  if (unknown)
    return { ok: false, reason: `It has a step “${unknown.kind}”, which is not known here.` };
  const parsed = schema.safeParse(present);
  if (parsed.success) return { ok: true, value: parsed.data };
  const [issue] = parsed.error.issues;
  const where = issue!.path.join('.');
  return { ok: false, reason: `${where ? `${where}: ` : ''}${issue!.message}.`.replace('..', '.') };
}
