import { readFile, stat } from 'node:fs/promises';
import { basename } from 'node:path';
import { formatBytes } from '@/core/measure/format';
import { Problem } from '@/server/problem';

/** What is written for people to read may be some megabytes, with painted zones in it. */
const LIMIT = 64e6;

/**
 * The text of a file that is named on a command line.
 * @param what it should be, as "treatment"
 * @throws Problem where there is none, or it is too large to be one
 */
export async function readSmallFile(path: string, what: string): Promise<string> {
  const facts = await stat(path).catch(() => null);
  if (!facts?.isFile()) throw new Problem('input', `There is no ${what} file ${path}.`);
  if (facts.size > LIMIT) {
    throw new Problem(
      'input',
      `${basename(path)} has ${formatBytes(facts.size)}: that is no ${what}.`,
    );
  }
  return readFile(path, 'utf8');
}
