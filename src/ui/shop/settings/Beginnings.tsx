import { z } from 'zod';
import { formatNumber } from '@/core/measure/format';
import { typedNumber } from '@/core/measure/typed';
import { Format, formatOf } from '@/core/output/formats';
import { BegunBy, Settings, type ShopSettings } from '@/core/shop/settings';
import { say } from '@/core/words/say';
import { hasQuality, stepsName, stepsNamed } from '../../batch/draft';
import { useHouse } from '../../data/house';
import { Labelled, typedText } from './fields';
import { SettingForm } from './SettingForm';

const begunBy = z.string().transform((name, context) => {
  const read = BegunBy.safeParse(stepsNamed(name));
  if (read.success) return read.data;
  context.addIssue({ code: 'custom', message: say`Choose one of the list.` });
  return z.NEVER;
});

const schema = z
  .object({
    job: begunBy,
    batch: begunBy,
    format: Format,
    quality: typedText((text) => typedNumber(text, { least: 1, most: 100, whole: true })),
    distance: typedText((text) => typedNumber(text, { least: 0.1, most: 200, unit: 'm' })),
  })
  .transform(({ job, batch, format, quality, distance }) => ({
    begin: Settings.shape.begin.parse({ job, batch, file: { format, quality }, distance }),
  }));

/** What new work is begun with, before anything is decided about a picture. */
export function Beginnings({ shop }: { shop: ShopSettings }) {
  const { data: recipes = [] } = useHouse();
  return (
    <SettingForm
      {...{ shop, schema, names: ['begin'] }}
      fieldsOf={({ begin: { job, batch, file, distance } }) => ({
        ...{ job: stepsName(job), batch: stepsName(batch) },
        ...{ format: file.format, quality: String(file.quality) },
        distance: formatNumber(distance, 2),
      })}
      words={say`It holds for what is taken in from now on; what is on the board stays as it is.`}
    >
      {(form) => {
        const { errors } = form.formState;
        const begun = (name: 'job' | 'batch', label: string) => {
          const chosen = form.watch(name);
          const known = ['proposed', 'suiting', ...recipes.map(({ id }) => `house ${id}`)];
          return (
            <Labelled label={label} error={errors[name]}>
              {(about) => (
                <select
                  {...about}
                  className="form-select form-select-sm"
                  {...form.register(name)}
                  value={chosen}
                >
                  <option value="proposed">{say`As proposed`}</option>
                  <option value="suiting">{say`The recipe that suits`}</option>
                  {recipes.map(({ id, name: recipe }) => (
                    <option key={id} value={`house ${id}`}>
                      {recipe}
                    </option>
                  ))}
                  {!known.includes(chosen) && (
                    <option value={chosen}>{say`A recipe that was deleted`}</option>
                  )}
                </select>
              )}
            </Labelled>
          );
        };
        return (
          <div className="setting-grid">
            {begun('job', say`Pictures of a job`)}
            {begun('batch', say`Pictures of a batch`)}
            <Labelled label={say`Results are written as`} error={errors.format}>
              {(about) => (
                <select
                  {...about}
                  className="form-select form-select-sm"
                  {...form.register('format')}
                >
                  {Format.options.map((format) => (
                    <option key={format} value={format}>
                      {formatOf(format).name}
                    </option>
                  ))}
                </select>
              )}
            </Labelled>
            {hasQuality(form.watch('format')) && (
              <Labelled label={say`Quality`} error={errors.quality}>
                {(about) => (
                  <input
                    {...about}
                    className="form-control form-control-sm figure"
                    autoComplete="off"
                    {...form.register('quality')}
                  />
                )}
              </Labelled>
            )}
            <Labelled label={say`Seen from, m`} error={errors.distance}>
              {(about) => (
                <input
                  {...about}
                  className="form-control form-control-sm figure"
                  autoComplete="off"
                  {...form.register('distance')}
                />
              )}
            </Labelled>
          </div>
        );
      }}
    </SettingForm>
  );
}
