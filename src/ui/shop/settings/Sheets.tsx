import { z } from 'zod';
import { formatNumber } from '@/core/measure/format';
import { typedLength, type Typed } from '@/core/measure/typed';
import { fromInches, MM_PER_INCH, toInches } from '@/core/measure/units';
import type { ShopUnit } from '@/core/shop/lists';
import { Settings, type ShopSettings } from '@/core/shop/settings';
import { say } from '@/core/words/say';
import { orNothing, typedText } from './fields';
import { ListTable } from './ListTable';
import { SettingForm } from './SettingForm';

/** Paper has no pixels of its own. */
const AXIS = { originalPixels: 1, ppi: 1 };

const mm = (text: string, unit: ShopUnit): Typed<number> => {
  const length = typedLength(text, unit);
  if (!length.ok) return length;
  if (length.value.unit === 'px' || length.value.unit === '%') {
    return { ok: false, why: say`A length on paper, as 60 cm.` };
  }
  // To a thousandth of a millimetre: inches come back as they were typed.
  return { ok: true, value: Math.round(toInches(length.value, AXIS) * MM_PER_INCH * 1e3) / 1e3 };
};

const shown = (value: number, unit: ShopUnit): string =>
  formatNumber(fromInches(value / MM_PER_INCH, unit, AXIS), 3);

const schemaIn = (unit: ShopUnit) =>
  z.object({
    sheets: z
      .array(
        z.object({
          name: z.string(),
          width: typedText((text) => mm(text, unit)),
          height: typedText(orNothing((text) => mm(text, unit))),
        }),
      )
      .pipe(Settings.shape.sheets),
  });

/** What a size can be chosen from by its name. */
export function Sheets({ shop }: { shop: ShopSettings }) {
  const { unit } = shop.settings;
  const columns = [
    { key: 'name', label: say`Sheet or roll` },
    { key: 'width', label: say`Width, ${unit}`, figure: true },
    { key: 'height', label: say`Height, ${unit}`, figure: true, placeholder: say`open` },
  ] as const;
  return (
    <SettingForm
      key={unit}
      {...{ shop, schema: schemaIn(unit), names: ['sheets'] }}
      fieldsOf={({ sheets }) => ({
        sheets: sheets.map(({ name, width, height }) => ({
          name,
          width: shown(width, unit),
          height: height === null ? '' : shown(height, unit),
        })),
      })}
      words={say`A roll has no height: its length is open.`}
    >
      {(form) => (
        <ListTable
          {...{ form, name: 'sheets', columns }}
          empty={{ name: '', width: '', height: '' }}
          adding={say`Add a sheet or roll`}
        />
      )}
    </SettingForm>
  );
}
