// npm run words: writes the list of all that the application says, for a shop to translate.
import { writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { wordsIn } from './words-in.mjs';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
writeFileSync(join(root, 'words', 'en.json'), `${JSON.stringify(wordsIn(root), null, 2)}\n`);
