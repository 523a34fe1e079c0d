import { z } from 'zod';
import { Settings, type ShopSettings } from '@/core/shop/settings';
import { say } from '@/core/words/say';
import { ListTable } from './ListTable';
import { SettingForm } from './SettingForm';

const schema = z.object({
  people: z.array(z.object({ initials: z.string(), name: z.string() })).pipe(Settings.shape.people),
});

const COLUMNS = [
  { key: 'initials', label: say`Initials`, figure: true },
  { key: 'name', label: say`Name` },
] as const;

/** Who signs in this shop. */
export function People({ shop }: { shop: ShopSettings }) {
  return (
    <SettingForm
      {...{ shop, schema, names: ['people'] }}
      fieldsOf={({ people }) => ({ people })}
      words={say`They are offered wherever somebody signs. Others can sign as well.`}
    >
      {(form) => (
        <ListTable
          {...{ form, name: 'people', columns: COLUMNS }}
          empty={{ initials: '', name: '' }}
          adding={say`Add somebody`}
        />
      )}
    </SettingForm>
  );
}
