import { useId, type ReactNode } from 'react';
import type { FieldError } from 'react-hook-form';
import { z } from 'zod';
import type { Typed } from '@/core/measure/typed';

/** A text that is read as it is typed; what is wrong with it is said at its field. */
export const typedText = <T,>(read: (text: string) => Typed<T>) =>
  z.string().transform((text, context): T => {
    const typed = read(text);
    if (typed.ok) return typed.value;
    context.addIssue({ code: 'custom', message: typed.why });
    return z.NEVER;
  });

/** Reads nothing where nothing is typed. */
export const orNothing =
  <T,>(read: (text: string) => Typed<T>) =>
  (text: string): Typed<T | null> =>
    text.trim() === '' ? { ok: true, value: null } : read(text);

/** A field by its name, with what is wrong with it. */
export function Labelled({
  label,
  error,
  children,
}: {
  label: string;
  error?: Pick<FieldError, 'message'> | undefined;
  children(about: { id: string; 'aria-invalid': boolean; 'aria-describedby': string }): ReactNode;
}) {
  const id = useId();
  return (
    <div className="setting-field">
      <label className="form-label" htmlFor={id}>
        {label}
      </label>
      {children({ id, 'aria-invalid': error !== undefined, 'aria-describedby': `${id}-trouble` })}
      <p id={`${id}-trouble`} className="field-trouble" role={error && 'alert'}>
        {error?.message}
      </p>
    </div>
  );
}
