import { Plus, X } from 'lucide-react';
import {
  useFieldArray,
  type ArrayPath,
  type FieldArray,
  type FieldErrors,
  type FieldValues,
  type Path,
} from 'react-hook-form';
import { Button } from 'react-bootstrap';
import { LIST_MOST } from '@/core/shop/settings';
import { say } from '@/core/words/say';
import type { FormOf } from './SettingForm';

interface Column<E> {
  key: keyof E & string;
  label: string;
  figure?: boolean;
  placeholder?: string;
}

interface Props<F extends FieldValues, E> {
  form: FormOf<F>;
  name: ArrayPath<F>;
  columns: readonly Column<E>[];
  /** an entry with nothing typed into it yet */
  empty: E;
  /** what the button says that adds one */
  adding: string;
}

/** A list of the shop's, an entry to a row. */
export function ListTable<F extends FieldValues, E extends Record<string, string>>({
  form,
  name,
  columns,
  empty,
  adding,
}: Props<F, E>) {
  const { fields, append, remove } = useFieldArray<F, ArrayPath<F>>({
    control: form.control as never,
    name,
  });
  const errors = (form.formState.errors as FieldErrors)[name] as
    Record<number, Partial<Record<string, { message?: string }>>> | undefined;
  return (
    <>
      <table className="setting-list">
        <thead hidden={fields.length === 0}>
          <tr>
            {columns.map(({ key, label }) => (
              <th key={key} scope="col">
                {label}
              </th>
            ))}
            <td />
          </tr>
        </thead>
        <tbody>
          {fields.map((field, i) => {
            const wrong = columns.find(({ key }) => errors?.[i]?.[key]);
            return (
              <tr key={field.id}>
                {columns.map(({ key, label, figure, placeholder }) => (
                  <td key={key}>
                    <input
                      className={`form-control form-control-sm ${figure ? 'figure' : ''}`}
                      aria-label={say`${label}, row ${i + 1}`}
                      aria-invalid={errors?.[i]?.[key] !== undefined}
                      autoComplete="off"
                      placeholder={placeholder}
                      {...form.register(`${name}.${i}.${key}` as Path<F>)}
                    />
                    {wrong?.key === key && (
                      <p className="field-trouble" role="alert">
                        {errors?.[i]?.[key]?.message}
                      </p>
                    )}
                  </td>
                ))}
                <td>
                  <Button
                    variant="quiet"
                    size="sm"
                    aria-label={say`Take row ${i + 1} off the list`}
                    title={say`Take off the list`}
                    onClick={() => remove(i)}
                  >
                    <X size={14} aria-hidden />
                  </Button>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <Button
        variant="quiet"
        size="sm"
        disabled={fields.length >= LIST_MOST}
        onClick={() => append(empty as unknown as FieldArray<F, ArrayPath<F>>)}
      >
        <Plus size={14} aria-hidden /> {adding}
      </Button>
    </>
  );
}
