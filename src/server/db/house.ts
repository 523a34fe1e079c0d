import type { Knex } from 'knex';
import type { NamedContent } from '@/core/house/apply';
import {
  HouseChange,
  HouseContent,
  HouseDraft,
  type HouseRecipe,
  type ListedHouse,
  type PastHouse,
} from '@/core/house/house-recipe';
import { startSet } from '@/core/house/start-set';
import { canonicalJson } from '@/core/recipe/canonical';
import { Author } from '@/core/shop/author';
import { Problem } from '../problem';
import { houseEvidence, NO_EVIDENCE } from './house-evidence';

interface Row {
  id: number;
  ships: string | null;
  version: number;
  name: string;
  content: string;
  at: number;
  author: string | null;
}

const newest = (db: Knex) =>
  db('house_recipes')
    .join('house_versions', (on) =>
      on
        .on('house_versions.recipe_id', 'house_recipes.id')
        .andOn('house_versions.version', 'house_recipes.version'),
    )
    .whereNull('deleted_at')
    .orderByRaw('house_recipes.name collate nocase')
    .select<Row[]>('house_recipes.*', 'content', 'at', 'author');

/** Puts recipes that ship into a shop that never had them. */
export async function addStartSet(db: Knex): Promise<void> {
  const known: { ships: string }[] = await db('house_recipes')
    .whereNotNull('ships')
    .select('ships');
  const had = new Set(known.map(({ ships }) => ships));
  for (const { key, name, content } of startSet()) {
    if (had.has(key)) continue;
    await db.transaction(async (trx) => {
      // Another process may do the same at this moment, and a shop may have a recipe of that name.
      const [row] = await trx('house_recipes')
        .insert({ ships: key, name, version: 1 })
        .onConflict()
        .ignore()
        .returning('id');
      if (row) await addVersion(trx, row.id, 1, { name, content, author: null });
    });
  }
}

const addVersion = (
  trx: Knex,
  id: number,
  version: number,
  { name, content, author }: ReturnType<typeof HouseDraft.parse>,
) =>
  trx('house_versions').insert({
    ...{ recipe_id: id, version, name, at: Date.now() },
    content: JSON.stringify(content),
    author: author && JSON.stringify(author),
  });

/** All house recipes by name, with what became of pictures that were treated by them. */
export async function listHouse(db: Knex): Promise<ListedHouse[]> {
  const evidence = await houseEvidence(db);
  return (await newest(db)).map((row) => ({
    ...recipeOf(row),
    evidence: evidence.get(row.id) ?? NO_EVIDENCE,
  }));
}

function recipeOf(row: Row): HouseRecipe {
  const { id, version, name, ships } = row;
  return {
    ...{ id, version, name, content: contentOf(row), asShipped: ships !== null && version === 1 },
    ...{ at: Number(row.at), author: authorOf(row.author) },
  };
}

const contentOf = ({ name, content }: Pick<Row, 'name' | 'content'>): HouseContent => {
  const read = HouseContent.safeParse(JSON.parse(content));
  if (read.success) return read.data;
  throw new Problem('work', `The house recipe “${name}” can't be read. Bring back a backup.`);
};

const authorOf = (text: string | null): Author | null =>
  Author.nullable()
    .catch(null)
    .parse(JSON.parse(text ?? 'null'));

/** @throws Problem where it is gone */
export async function readHouse(db: Knex, id: number): Promise<HouseRecipe> {
  const row = (await newest(db).where('house_recipes.id', id))[0];
  if (!row) throw new Problem('missing', 'This house recipe was deleted.');
  return recipeOf(row);
}

/** The recipe of a name, in any letters. @throws Problem that lists those there are */
export async function houseNamed(db: Knex, name: string): Promise<HouseRecipe> {
  const row = (await newest(db).whereRaw('house_recipes.name = ? collate nocase', [name]))[0];
  if (row) return recipeOf(row);
  const names = (await newest(db)).map((one) => `“${one.name}”`).join(', ');
  throw new Problem(
    'missing',
    `There is no house recipe “${name}”. There are: ${names || 'none'}.`,
  );
}

/** All versions of a recipe, the newest first; also of one that was deleted. */
export async function versionsOfHouse(db: Knex, id: number): Promise<PastHouse[]> {
  const rows = await db('house_versions')
    .where({ recipe_id: id })
    .orderBy('version', 'desc')
    .select<Row[]>('version', 'name', 'content', 'at', 'author');
  if (rows.length === 0) throw new Problem('missing', 'There is no such house recipe.');
  return rows.map((row) => ({
    ...{ id, version: row.version, name: row.name, content: contentOf(row) },
    ...{ at: Number(row.at), author: authorOf(row.author) },
  }));
}

/** A version as a trial names it. */
export async function houseVersion(
  db: Knex,
  { id, version }: { id: number; version?: number },
): Promise<NamedContent> {
  if (version === undefined) return readHouse(db, id);
  const found = (await versionsOfHouse(db, id)).find((one) => one.version === version);
  if (!found) throw new Problem('missing', 'The house recipe has no such version.');
  return found;
}

/** Keeps a new recipe. @throws Problem where another one has its name */
export async function addHouse(db: Knex, draft: HouseDraft): Promise<HouseRecipe> {
  const made = HouseDraft.parse(draft);
  const id = await named(made.name, () =>
    db.transaction(async (trx) => {
      const [row] = await trx('house_recipes')
        .insert({ name: made.name, version: 1 })
        .returning('id');
      await addVersion(trx, row.id, 1, made);
      return row.id as number;
    }),
  );
  return readHouse(db, id);
}

/**
 * Makes a new version of a recipe. One that says what the newest says already makes none.
 * @throws Problem 'conflict' where somebody else made one meanwhile; where another one has its name
 */
export async function changeHouse(db: Knex, id: number, change: HouseChange): Promise<HouseRecipe> {
  const { version, ...made } = HouseChange.parse(change);
  const now = await readHouse(db, id);
  const same = made.name === now.name && canonicalJson(made.content) === canonicalJson(now.content);
  if (same && version === now.version) return now;
  const touched = await named(made.name, () =>
    db.transaction(async (trx) => {
      const rows = await trx('house_recipes')
        .where({ id, version, deleted_at: null })
        .update({ name: made.name, version: version + 1 });
      if (rows > 0) await addVersion(trx, id, version + 1, made);
      return rows;
    }),
  );
  if (touched === 0) {
    throw new Problem(
      'conflict',
      'This house recipe was changed meanwhile. Look at its newest version first.',
      await readHouse(db, id),
    );
  }
  return readHouse(db, id);
}

async function named<T>(name: string, write: () => Promise<T>): Promise<T> {
  try {
    return await write();
  } catch (error) {
    if ((error as { code?: string }).code !== 'SQLITE_CONSTRAINT_UNIQUE') throw error;
    throw new Problem(
      'conflict',
      `There is a house recipe “${name}” already. Give this one another name.`,
    );
  }
}

/** Takes a recipe off the list. Its versions stay: trials name them. */
export async function deleteHouse(db: Knex, id: number): Promise<void> {
  await db('house_recipes').where({ id, deleted_at: null }).update({ deleted_at: Date.now() });
}

/** Brings a deleted recipe back. @throws Problem where another one has its name by now */
export async function restoreHouse(db: Knex, id: number): Promise<HouseRecipe> {
  const row = await db('house_recipes').where({ id }).first('name');
  if (!row) throw new Problem('missing', 'There is no such house recipe.');
  await named(row.name, () => db('house_recipes').where({ id }).update({ deleted_at: null }));
  return readHouse(db, id);
}
