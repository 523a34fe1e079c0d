import { join } from 'node:path';
import { openSync, type Font, type GlyphRun } from 'fontkit';
import { root } from '../root';

const fonts: Font[] = [];
/** The house's letters: the usual ones, and those of more languages. */
const PARTS = ['latin', 'latin-ext'] as const;

function lettersOf(part: number): Font {
  const file = `archivo-${PARTS[part]!}-400-normal.woff`;
  const path = join(root(), 'node_modules', '@fontsource', 'archivo', 'files', file);
  return (fonts[part] ??= openSync(path) as Font);
}

/** A letter of a line: its glyphs, where it begins, and how large one of their units is. */
export interface Letter {
  run: GlyphRun;
  x: number;
  scale: number;
}

/** Letters of a line one after the other from 0, so many units high; cut off where it would be longer than `length`. */
export function lettersIn(text: string, size: number, length: number): Letter[] {
  const letters: Letter[] = [];
  let x = 0;
  for (const letter of text) {
    const code = letter.codePointAt(0)!;
    const part = PARTS.findIndex((_, i) => lettersOf(i).hasGlyphForCodePoint(code));
    const font = lettersOf(Math.max(0, part));
    const run = font.layout(part < 0 ? '·' : letter);
    const scale = size / font.unitsPerEm;
    const advance = run.advanceWidth * scale;
    if (x + advance > length) break;
    letters.push({ run, x, scale });
    x += advance;
  }
  return letters;
}
