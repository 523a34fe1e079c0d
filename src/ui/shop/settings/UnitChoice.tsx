import { ShopUnit } from '@/core/shop/lists';
import type { ShopSettings } from '@/core/shop/settings';
import { SETTING_WORDS } from '@/core/shop/setting-words';
import { say } from '@/core/words/say';
import { useChangeSettings } from '../../data/settings';
import { Choices } from '../../parts/Choices';

/** In which unit lengths are typed where none is said. */
export function UnitChoice({ shop: { settings, change: known } }: { shop: ShopSettings }) {
  const change = useChangeSettings();
  return (
    <section aria-labelledby="setting-unit" className="setting">
      <h2 id="setting-unit">{SETTING_WORDS.unit}</h2>
      <Choices<ShopUnit>
        name="shop-unit"
        label={SETTING_WORDS.unit}
        value={settings.unit}
        options={ShopUnit.options.map((unit) => ({ value: unit, label: unit }))}
        onChange={(unit) =>
          change.mutate({ settings: { unit }, known, words: say`Unit of lengths: ${unit}.` })
        }
      />
      <p className="soft">
        {change.error?.message ??
          say`A number without a unit is so many of these. Sizes that were typed keep theirs.`}
      </p>
    </section>
  );
}
