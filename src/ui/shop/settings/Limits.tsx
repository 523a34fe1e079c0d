import { z } from 'zod';
import { formatNumber } from '@/core/measure/format';
import { typedNumber } from '@/core/measure/typed';
import type { Limits as Kept, ShopSettings } from '@/core/shop/settings';
import { say } from '@/core/words/say';
import { Labelled, orNothing, typedText } from './fields';
import { SettingForm } from './SettingForm';

const FIELDS: { name: keyof Kept; label: string; unit: string }[] = [
  { name: 'uploadMb', label: say`Largest file`, unit: 'MB' },
  { name: 'pictureMp', label: say`Largest picture`, unit: 'MP' },
  { name: 'keepGb', label: say`Room`, unit: 'GB' },
];

const upTo = (most: number, unit: string) =>
  typedText(orNothing((text) => typedNumber(text, { least: 0.1, most, unit })));

const schemaIn = ({ uploadMb, pictureMp, keepGb }: ShopSettings['bounds']) =>
  z.object({
    limits: z.object({
      uploadMb: upTo(uploadMb, 'MB'),
      pictureMp: upTo(pictureMp, 'MP'),
      keepGb: upTo(keepGb, 'GB'),
    }),
  });

const shown = (limit: number | null): string => (limit === null ? '' : formatNumber(limit, 1));

/** How much is taken in, and kept of what can be made again. */
export function Limits({ shop }: { shop: ShopSettings }) {
  return (
    <SettingForm
      {...{ shop, schema: schemaIn(shop.bounds), names: ['limits'] }}
      fieldsOf={({ limits: { uploadMb, pictureMp, keepGb } }) => ({
        limits: {
          ...{ uploadMb: shown(uploadMb), pictureMp: shown(pictureMp) },
          keepGb: shown(keepGb),
        },
      })}
      words={say`Of what is taken in, and for what can be made again. The server’s configuration sets the most; a field that is empty is that.`}
    >
      {(form) => (
        <div className="setting-grid">
          {FIELDS.map(({ name, label, unit }) => (
            <Labelled
              key={name}
              label={say`${label}, ${unit}`}
              error={form.formState.errors.limits?.[name]}
            >
              {(about) => (
                <input
                  {...about}
                  className="form-control form-control-sm figure"
                  placeholder={formatNumber(shop.bounds[name], 1)}
                  autoComplete="off"
                  {...form.register(`limits.${name}`)}
                />
              )}
            </Labelled>
          ))}
        </div>
      )}
    </SettingForm>
  );
}
