import { rename, rm, writeFile } from 'node:fs/promises';
import { basename, resolve } from 'node:path';
import type { ListedHouse } from '@/core/house/house-recipe';
import { houseFile, readHouseFile, type ReadHouse } from '@/core/house/recipe-file';
import { startSet } from '@/core/house/start-set';
import { gistOf } from '@/core/steps';
import { addHouse, changeHouse, houseNamed, listHouse } from '@/server/db/house';
import { Problem } from '@/server/problem';
import { isShop, withShop } from './shop';
import { readSmallFile } from './small-file';

interface ShopOptions {
  data?: string;
}

/** Says what house recipes a shop has. */
export const listRecipes = (options: ShopOptions & { json?: boolean }): Promise<void> =>
  withShop(options.data, async (db) => {
    const recipes = await listHouse(db);
    console.log(options.json ? JSON.stringify(recipes) : recipes.map(lineOf).join('\n'));
  });

/** Names are as wide as this. */
const NAME = 32;

function lineOf({ name, version, content, evidence }: ListedHouse): string {
  const { pictures, approved } = evidence;
  const on = content.treatment.filter((step) => step.on).map(gistOf);
  const used = pictures === 0 ? 'not used yet' : `on ${pictures}, approved ${approved}`;
  return `${name.padEnd(NAME)} ${`v${version}`.padEnd(4)} ${(content.kind ?? 'any kind').padEnd(14)} ${used.padEnd(22)} ${on.join(', ')}`;
}

/** Writes a house recipe as JSON: to a file, or to stdout. */
export const exportRecipe = (
  name: string,
  file: string | undefined,
  options: ShopOptions,
): Promise<void> =>
  withShop(options.data, async (db) => {
    const recipe = await houseNamed(db, name);
    if (!file) return void process.stdout.write(houseFile(recipe));
    const out = resolve(file);
    const part = `${out}.part`;
    try {
      await writeFile(part, houseFile(recipe));
      await rename(part, out);
    } catch (error) {
      await rm(part, { force: true }).catch(() => {});
      const { code } = error as NodeJS.ErrnoException;
      throw new Problem('work', `The recipe can't be written to ${out} (${code}).`);
    }
    console.log(`${basename(out)}: “${recipe.name}”, version ${recipe.version}`);
  });

/** Keeps a recipe from a file in a shop: as a new one, or as a new version of the one of its name. */
export const importRecipe = (file: string, options: ShopOptions): Promise<void> =>
  withShop(options.data, async (db) => {
    const { name, content } = await recipeFromFile(file);
    const known = (await listHouse(db)).find(
      (one) => one.name.toLowerCase() === name.toLowerCase(),
    );
    const kept = known
      ? await changeHouse(db, known.id, { version: known.version, name, content })
      : await addHouse(db, { name, content });
    console.log(
      kept.version === known?.version
        ? `“${kept.name}” is as in the file already (version ${kept.version}).`
        : `“${kept.name}” is kept, version ${kept.version}.`,
    );
  });

/** @throws Problem that says what is wrong with the file */
async function recipeFromFile(path: string): Promise<ReadHouse> {
  const read = readHouseFile(await readSmallFile(path, 'recipe'));
  if (!read.ok) throw new Problem('input', `${basename(path)} can't be used. ${read.reason}`);
  return read.recipe;
}

/** A recipe by the name of a file, or by its own: in the shop, or where there is none, among those that ship. */
export async function recipeBy(text: string, data?: string): Promise<ReadHouse> {
  if (/\.json$/i.test(text)) return recipeFromFile(text);
  if (isShop(data)) return withShop(data, (db) => houseNamed(db, text));
  const shipped = startSet();
  const found = shipped.find(({ name }) => name.toLowerCase() === text.toLowerCase());
  if (found) return found;
  const names = shipped.map(({ name }) => `“${name}”`).join(', ');
  throw new Problem('input', `There is no house recipe “${text}”. There are: ${names}.`);
}
