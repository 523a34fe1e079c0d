import { readFile } from 'node:fs/promises';
import { dirname, resolve } from 'node:path';
import { z } from 'zod';
import { FileForm, StepsChoice } from '@/core/batch/batch';
import { readRule } from '@/core/batch/typed-rule';
import { Fit } from '@/core/measure/paper';
import { Ppi } from '@/core/measure/plan';
import { BATCH_PATTERN, NamePattern } from '@/core/output/names';
import { Distance } from '@/core/recipe/work';
import type { Sheet } from '@/core/shop/lists';
import type { SizeRule } from '@/core/batch/size-rule';
import { config } from '../config';
import { Problem } from '../problem';

const Name = z.string().trim().min(1).max(60);
const Folder = z.strictObject({
  name: Name,
  /** against the file that names it */
  path: z.string().min(1),
});

/** A rule for sizes as a person writes it: what it goes by, and a figure. */
const WrittenRule = z.strictObject({
  by: z.enum(['longest', 'width', 'height', 'exact', 'sheet', 'factor', 'pixels']),
  text: z.string().max(80),
  fit: Fit.default('crop'),
});

/** A watched folder: what becomes of files that are put there. */
const Drop = Folder.extend({
  size: WrittenRule,
  /** how pictures are treated: as suits each, as is proposed for each, or by the house recipe of this name */
  recipe: z.string().min(1).max(60).default('suiting'),
  ppi: Ppi.nullable().default(null),
  file: FileForm.nullable().default(null),
  names: NamePattern.default(BATCH_PATTERN),
  /** the folder of results that they are put into, by its name */
  results: Name.nullable().default(null),
  /** whether they are made at once, or wait until somebody has looked at them */
  make: z.boolean().default(true),
  customer: z.string().max(120).default(''),
  device: z.string().max(60).nullable().default(null),
  material: z.string().max(60).nullable().default(null),
  distance: Distance.default(2),
});
export type Drop = z.infer<typeof Drop>;

/** The file that names folders which the server reads or writes: they are never typed in a browser. */
const Folders = z
  .strictObject({
    /** where results of batches are put */
    results: z.array(Folder).default([]),
    /** folders that are watched */
    drops: z.array(Drop).default([]),
    /** where archives of the whole shop are written */
    backups: z.array(Folder).default([]),
  })
  .superRefine(({ results, drops, backups }, { addIssue }) => {
    for (const list of [results, drops, backups]) {
      const names = list.map(({ name }) => name.toLowerCase());
      if (new Set(names).size < names.length) addIssue('Two folders have one name.');
    }
    for (const { name, results: into } of drops) {
      if (into && !results.some((one) => one.name === into)) {
        addIssue(`“${name}” puts results into “${into}”, which is no folder of results.`);
      }
    }
  });
export type Folders = z.infer<typeof Folders>;

/**
 * The folders that the server's configuration names, with their paths whole; none where there is no such file.
 * @throws Problem that says what is wrong with the file
 */
export async function readFolders(): Promise<Folders> {
  const { folders: file } = config();
  const text = await readFile(file, 'utf8').catch((error: NodeJS.ErrnoException) => {
    if (error.code === 'ENOENT') return '{}';
    throw new Problem('work', `${file}, which names folders, can't be read: ${error.message}`);
  });
  const read = Folders.safeParse(parsed(text));
  if (!read.success) {
    const [issue] = read.error.issues;
    const where = issue!.path.join('.');
    throw new Problem(
      'work',
      `${file}, which names folders, is not as it should be${where && ` at ${where}`}: ${issue!.message}`,
    );
  }
  const whole = <T extends z.infer<typeof Folder>>(folder: T): T => ({
    ...folder,
    path: resolve(dirname(file), folder.path),
  });
  const { results, drops, backups } = read.data;
  return { results: results.map(whole), drops: drops.map(whole), backups: backups.map(whole) };
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return 'no JSON';
  }
}

/** The rule that a watched folder's size comes to. @throws Problem that says what is wrong with it */
export function ruleOf({ name, size }: Drop, sheets: Sheet[]): SizeRule {
  // What a file says is the same whatever unit the shop changes to.
  const rule = readRule(size, { sheets, unit: 'cm' });
  if (rule.ok) return rule.value;
  throw new Problem('usage', `The size of the watched folder “${name}” can't be used. ${rule.why}`);
}

/** How a watched folder's pictures are treated. @param named the house recipe of a name */
export const stepsOf = async (
  { recipe }: Drop,
  named: (name: string) => Promise<{ id: number }>,
): Promise<StepsChoice> =>
  recipe === 'suiting' || recipe === 'proposed'
    ? { by: recipe }
    : { by: 'house', id: (await named(recipe)).id };
