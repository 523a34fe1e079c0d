import { z } from 'zod';
import { formatNumber } from '@/core/measure/format';
import { typedNumber } from '@/core/measure/typed';
import { Settings, type ShopSettings } from '@/core/shop/settings';
import { say } from '@/core/words/say';
import { typedText } from './fields';
import { ListTable } from './ListTable';
import { SettingForm } from './SettingForm';

const schema = z.object({
  materials: z
    .array(
      z.object({
        name: z.string(),
        distance: typedText((text) => typedNumber(text, { least: 0.1, most: 200, unit: 'm' })),
      }),
    )
    .pipe(Settings.shape.materials),
});

const COLUMNS = [
  { key: 'name', label: say`Material` },
  { key: 'distance', label: say`Seen from, m`, figure: true },
] as const;

/** What the shop prints on, and from how far that is usually seen. */
export function Materials({ shop }: { shop: ShopSettings }) {
  return (
    <SettingForm
      {...{ shop, schema, names: ['materials'] }}
      fieldsOf={({ materials }) => ({
        materials: materials.map(({ name, distance }) => ({
          name,
          distance: formatNumber(distance, 2),
        })),
      })}
      words={say`Sharpening and the verdict go by the distance, until a ticket says another one.`}
    >
      {(form) => (
        <ListTable
          {...{ form, name: 'materials', columns: COLUMNS }}
          empty={{ name: '', distance: '2' }}
          adding={say`Add a material`}
        />
      )}
    </SettingForm>
  );
}
