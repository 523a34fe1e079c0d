import { z } from 'zod';
import { forOtherPictures, readTreatmentFile, unfiled } from '../recipe/treatment-file';
import { isJson, openForm, readForm } from '../recipe/read-form';
import { RECIPE_VERSION } from '../recipe/versions';
import { HouseContent, type HouseRecipe } from './house-recipe';
import { HouseName } from './house-version';

/** What a file of a house recipe begins with; its version is the recipe's. */
const FORM = 'house recipe';

const HouseFile = HouseContent.extend({ form: z.literal(FORM), name: HouseName });

/** A house recipe that was read from a file. */
export interface ReadHouse {
  name: string;
  content: HouseContent;
}

/** A recipe as a file: all that it holds, and nothing of the shop. */
export const houseFile = ({ name, content }: Pick<HouseRecipe, 'name' | 'content'>): string =>
  `${JSON.stringify({ form: FORM, name, ...content }, null, 2)}\n`;

/**
 * Reads the text of a recipe's file, or of a treatment's, of this version or an earlier one. What belongs to one picture
 * alone is left out.
 * @returns the recipe, or in sentences what is wrong with it
 */
export function readHouseFile(
  text: string,
): { ok: true; recipe: ReadHouse } | { ok: false; reason: string } {
  const opened = openForm(text);
  if (opened?.form === 'treatment') return fromTreatment(text);
  if (opened?.form !== FORM) {
    return refused(
      opened || isJson(text) ? 'It is neither a house recipe nor a treatment.' : 'It is not JSON.',
    );
  }
  const read = readForm(opened, HouseFile);
  if (!read.ok) return read;
  const { form: _, name, ...content } = read.value;
  return { ok: true, recipe: { name, content } };
}

const refused = (reason: string) => ({ ok: false as const, reason });

function fromTreatment(text: string): ReturnType<typeof readHouseFile> {
  const read = readTreatmentFile(text);
  if (!read.ok) return read;
  const { name, treatment, guards, zones } = forOtherPictures(
    read.file,
    read.file.zones.map(unfiled),
  );
  const about = { kind: null, material: null, note: '' };
  return {
    ok: true,
    recipe: {
      name,
      content: {
        version: RECIPE_VERSION,
        ...about,
        ...{ treatment, guards, ppi: null, output: null },
        zones: zones.map((zone) => ({ ...zone, painted: null })),
      },
    },
  };
}
