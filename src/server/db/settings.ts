import type { Knex } from 'knex';
import {
  PastChange,
  SETTING_NAMES,
  Settings,
  USUAL,
  type SettingName,
  type SettingsChange,
} from '@/core/shop/settings';
import { Author } from '@/core/shop/author';
import { Problem } from '../problem';

/** What the shop decided; where it did not, or what it kept can't be read, as is usual. */
export async function readSettings(db: Knex): Promise<Settings> {
  const rows = await db('settings').select<{ name: string; value: string }[]>('name', 'value');
  const kept = new Map(rows.map(({ name, value }) => [name, value]));
  const entries = SETTING_NAMES.map((name) => {
    const read = Settings.shape[name].safeParse(parsed(kept.get(name) ?? null));
    return [name, read.success ? read.data : USUAL[name]];
  });
  return Object.fromEntries(entries) as Settings;
}

/** The number of the last change of any setting; 0 where nothing was changed. */
export async function lastSettingChange(db: Knex): Promise<number> {
  const [row] = await db('setting_changes').max({ last: 'id' });
  return Number(row?.last ?? 0);
}

/**
 * Changes some settings, and keeps what they were.
 * @throws Problem where somebody else changed one of them meanwhile; nothing is changed then
 */
export async function changeSettings(
  db: Knex,
  { settings, known, author }: SettingsChange,
): Promise<void> {
  const names = SETTING_NAMES.filter((name) => settings[name] !== undefined);
  await db.transaction(async (trx) => {
    for (const name of names) {
      const after = JSON.stringify(settings[name]);
      // Written first: a transaction that reads first may find its writing refused.
      const [{ id }] = await trx('setting_changes')
        .insert({
          ...{ name, after, at: Date.now(), author: author && JSON.stringify(author) },
          before: trx('settings').where({ name }).select('value'),
        })
        .returning('id');
      const others = await trx('setting_changes')
        .where({ name })
        .whereBetween('id', [known + 1, id - 1])
        .first('id');
      if (others) {
        throw new Problem(
          'conflict',
          'Somebody else changed this meanwhile, and nothing of yours was kept. Look at it as it is now and change it again.',
        );
      }
      await trx('settings').insert({ name, value: after }).onConflict('name').merge();
    }
  });
}

/** The most changes that are listed. */
const LISTED = 200;

/** The last changes of settings, newest first. */
export async function settingChanges(db: Knex): Promise<PastChange[]> {
  const rows = await db('setting_changes')
    .whereIn('name', SETTING_NAMES)
    .orderBy('id', 'desc')
    .limit(LISTED);
  return rows.map((row) => {
    const author = Author.safeParse(parsed(row.author));
    return {
      ...{ id: row.id, name: row.name, at: row.at, author: author.success ? author.data : null },
      before: readable(row.name, row.before),
      after: readable(row.name, row.after),
    };
  });
}

/** A value as this version understands it; null where it does not. */
function readable(name: SettingName, text: string | null): unknown {
  if (text === null) return USUAL[name];
  const read = Settings.shape[name].safeParse(parsed(text));
  return read.success ? read.data : null;
}

function parsed(text: string | null): unknown {
  try {
    return text === null ? undefined : JSON.parse(text);
  } catch {
    return undefined;
  }
}
