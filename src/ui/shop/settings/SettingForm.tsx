import { zodResolver } from '@hookform/resolvers/zod';
import { useEffect, useId, useState, type ReactNode } from 'react';
import { useForm, type DefaultValues, type FieldValues, type UseFormReturn } from 'react-hook-form';
import { Button } from 'react-bootstrap';
import type { z } from 'zod';
import { USUAL, type SettingName, type Settings, type ShopSettings } from '@/core/shop/settings';
import { SETTING_WORDS } from '@/core/shop/setting-words';
import { useChangeSettings } from '../../data/settings';
import { say } from '@/core/words/say';

export type FormOf<F extends FieldValues> = UseFormReturn<F, unknown, Partial<Settings>>;

interface Props<F extends FieldValues> {
  shop: ShopSettings;
  /** the settings that it keeps */
  names: readonly [SettingName, ...SettingName[]];
  title?: string;
  /** settings as they stand in its fields, and back */
  fieldsOf(settings: Settings): F;
  schema: z.ZodType<Partial<Settings>, F>;
  /** what it is for */
  words?: string;
  children(form: FormOf<F>): ReactNode;
}

/**
 * A part of the shop's settings: what is typed is kept when that is asked for, can be taken back, and is not written
 * over what somebody else changed meanwhile.
 */
export function SettingForm<F extends FieldValues>(props: Props<F>) {
  const { shop, names, fieldsOf, schema, words, children } = props;
  const title = props.title ?? SETTING_WORDS[names[0]];
  const change = useChangeSettings();
  const id = useId();
  /** the settings that its fields show, until somebody types */
  const [base, setBase] = useState(shop);
  const form: FormOf<F> = useForm<F, unknown, Partial<Settings>>({
    resolver: zodResolver(schema),
    mode: 'onTouched',
    defaultValues: fieldsOf(shop.settings) as DefaultValues<F>,
  });
  const { isDirty } = form.formState;
  const show = (now: ShopSettings) => {
    setBase(now);
    form.reset(fieldsOf(now.settings));
    change.reset();
  };
  // What others change shows at once, unless it would take away what is being typed.
  useEffect(() => {
    if (!isDirty && shop !== base) show(shop);
  });
  const put = (settings: Partial<Settings>) =>
    change.mutate(
      { settings, known: base.change, words: say`${title}: kept.` },
      { onSuccess: ({ now }) => show(now) },
    );
  const unusual = names.some(
    (name) => JSON.stringify(shop.settings[name]) !== JSON.stringify(USUAL[name]),
  );
  return (
    <section aria-labelledby={id} className="setting">
      <h2 id={id}>{title}</h2>
      <form onSubmit={(event) => void form.handleSubmit(put)(event)} noValidate>
        {children(form)}
        {words && <p className="soft">{words}</p>}
        {change.error && (
          <p className="field-trouble" role="alert">
            {change.error.message}{' '}
            <button type="button" className="text-button" onClick={() => show(shop)}>
              {say`Show it as it is`}
            </button>
          </p>
        )}
        <div className="setting-acts">
          <Button
            type="submit"
            size="sm"
            variant={isDirty ? 'primary' : 'outline-primary'}
            disabled={!isDirty || change.isPending}
          >
            {say`Keep`}
          </Button>
          {isDirty && (
            <Button variant="quiet" size="sm" onClick={() => show(shop)}>
              {say`Leave it as it was`}
            </Button>
          )}
          {!isDirty && unusual && (
            <Button
              variant="quiet"
              size="sm"
              disabled={change.isPending}
              onClick={() => put(Object.fromEntries(names.map((name) => [name, USUAL[name]])))}
            >
              {say`As usual`}
            </Button>
          )}
        </div>
      </form>
    </section>
  );
}
