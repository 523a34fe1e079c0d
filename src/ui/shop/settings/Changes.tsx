import { format } from 'date-fns';
import { authorWords } from '@/core/shop/author';
import { changeWords, SETTING_WORDS } from '@/core/shop/setting-words';
import type { PastChange, Settings, ShopSettings } from '@/core/shop/settings';
import { say } from '@/core/words/say';
import { author } from '../../data/author';
import { useHouse } from '../../data/house';
import { useChangeSettings, useSettingChanges } from '../../data/settings';

/** How the settings came to be what they are; each can be put back to what it was before. */
export function Changes({ shop: { settings, change: known } }: { shop: ShopSettings }) {
  const { data: changes = [] } = useSettingChanges();
  const { data: recipes = [] } = useHouse();
  const change = useChangeSettings();
  const named = (id: number) => recipes.find((one) => one.id === id)?.name;
  const own = author().browser;
  const who = ({ author: by }: PastChange) =>
    by?.initials ?? (by?.browser === own ? say`you` : authorWords(by));
  return (
    <section aria-labelledby="setting-changes" className="setting wide">
      <h2 id="setting-changes">{say`Changes`}</h2>
      {changes.length === 0 && <p>{say`Nothing was changed yet: all is as usual.`}</p>}
      {change.error && <p className="field-trouble">{change.error.message}</p>}
      <ol className="setting-changes">
        {changes.map((one) => {
          const { id, name, before, after, at } = one;
          const words = changeWords(
            name,
            before as Settings[typeof name] | null,
            after as Settings[typeof name] | null,
            named,
          );
          const there = JSON.stringify(settings[name]) === JSON.stringify(before);
          return (
            <li key={id}>
              <span className="figure">{format(at, 'd MMM yyyy, HH:mm')}</span>
              <b>{SETTING_WORDS[name]}</b>
              <span className="words">{words}</span>
              <span className="soft">{who(one)}</span>
              <button
                type="button"
                className="text-button"
                disabled={before === null || there || change.isPending}
                title={there ? say`It is so now.` : undefined}
                aria-label={say`${SETTING_WORDS[name]}: as before ${format(at, 'd MMM, HH:mm')}`}
                onClick={() =>
                  change.mutate({
                    ...{ settings: { [name]: before }, known },
                    words: say`${SETTING_WORDS[name]}: as it was before.`,
                  })
                }
              >
                {say`as before`}
              </button>
            </li>
          );
        })}
      </ol>
    </section>
  );
}
