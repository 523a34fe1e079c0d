import { z } from 'zod';
import { NAME_PARTS, nameBy, NamePattern, type NameParts } from '@/core/output/names';
import { Settings, type ShopSettings } from '@/core/shop/settings';
import { say } from '@/core/words/say';
import { Labelled } from './fields';
import { SettingForm } from './SettingForm';

/** An order to show a pattern by. */
const EXAMPLE: NameParts = {
  ...{ job: '2026-014', customer: say`Colle Vespra Observatory`, title: say`Dome at dusk` },
  file: 'dome',
  ...{ size: '120x80cm', ppi: '160', trial: 'Trial A', date: '2026-11-29' },
};

const schema = z.object({
  fileNames: Settings.shape.fileNames,
  batchNames: Settings.shape.batchNames,
});

const FIELDS = [
  { name: 'fileNames', label: say`Of a job`, pattern: say`Pattern of file names` },
  { name: 'batchNames', label: say`In a batch`, pattern: say`Pattern of file names in a batch` },
] as const;

/** How results are named, and what that comes to. */
export function Names({ shop }: { shop: ShopSettings }) {
  return (
    <SettingForm
      {...{ shop, schema, names: ['fileNames', 'batchNames'], title: say`Names of files` }}
      fieldsOf={({ fileNames, batchNames }) => ({ fileNames, batchNames })}
      words={say`Parts: ${NAME_PARTS.map((part) => `{${part}}`).join(' ')}. A name can be written by hand on the ticket; one that another result of the job has gets a number.`}
    >
      {(form) =>
        FIELDS.map(({ name, label, pattern }) => {
          const typed = NamePattern.safeParse(form.watch(name));
          return (
            <Labelled key={name} label={label} error={form.formState.errors[name]}>
              {(about) => (
                <>
                  <input
                    {...about}
                    className="form-control form-control-sm figure"
                    aria-label={pattern}
                    maxLength={120}
                    spellCheck={false}
                    autoComplete="off"
                    {...form.register(name)}
                  />
                  {typed.success && (
                    <p className="figure example">{nameBy(typed.data, EXAMPLE, 'tif')}</p>
                  )}
                </>
              )}
            </Labelled>
          );
        })
      }
    </SettingForm>
  );
}
