import { readFile } from 'node:fs/promises';
import { dirname, resolve } from 'node:path';
import { z } from 'zod';
import { config } from '../config';
import { Problem } from '../problem';

const Name = z.string().trim().min(1).max(60);
const Folder = z.strictObject({
  name: Name,
  /** against the file that names it */
  path: z.string().min(1),
});

/** The file that names folders which the server reads or writes: they are never typed in a browser. */
const Folders = z
  .strictObject({
    /** where results of batches are put */
    results: z.array(Folder).default([]),
  })
  .superRefine(({ results }, { addIssue }) => {
    const names = results.map(({ name }) => name.toLowerCase());
    if (new Set(names).size < names.length) addIssue('Two folders have one name.');
  });
export type Folders = z.infer<typeof Folders>;
export type Folder = z.infer<typeof Folder>;

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
  const whole = <T extends Folder>(folder: T): T => ({
    ...folder,
    path: resolve(dirname(file), folder.path),
  });
  return { results: read.data.results.map(whole) };
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return 'no JSON';
  }
}
