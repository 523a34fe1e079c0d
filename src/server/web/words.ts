import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { z } from 'zod';
import type { Words } from '@/core/words/say';
import { errorCode } from '../problem';

/** Where a shop keeps its own words, in its data folder. */
export const WORDS_FILE = 'words.json';
/** The longest that a list of words may be, in bytes. */
const MOST_BYTES = 2_000_000;

const Listed = z.record(z.string(), z.string().max(5000));

/** A shop's own words; none where it has no list, or one that can't be read, which is said on the console. */
export function readWords(data: string): Words {
  const file = join(data, WORDS_FILE);
  try {
    const bytes = readFileSync(file);
    if (bytes.length > MOST_BYTES) throw new Error(`larger than ${MOST_BYTES} bytes`);
    return Listed.parse(JSON.parse(bytes.toString('utf8')));
  } catch (error) {
    if (errorCode(error) !== 'ENOENT') {
      console.error(`${file} can't be read, and English is spoken: ${String(error)}`);
    }
    return {};
  }
}

/** A script that gives a page the words before anything is said in it. Nothing in them ends it. */
export const wordsScript = (words: Words): string =>
  `globalThis.lontanoWords=${JSON.stringify(words).replace(/</g, '\\u003c')}`;
