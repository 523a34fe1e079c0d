import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import opentype from 'opentype.js';

/** How lettering is set. */
export interface Set {
  x: number;
  /** of the baseline */
  y: number;
  size: number;
  weight?: 400 | 600 | 800;
  align?: 'left' | 'middle' | 'right';
}

/** One command of an outline: M, L, Q, C with their points, or Z. */
export type Outline = opentype.PathCommand[];

const fonts = new Map<number, opentype.Font>();

function fontOf(weight: number): opentype.Font {
  let font = fonts.get(weight);
  if (!font) {
    const path = createRequire(import.meta.url).resolve(
      `@fontsource/archivo/files/archivo-latin-${weight}-normal.woff`,
    );
    const bytes = readFileSync(path);
    font = opentype.parse(
      bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length) as ArrayBuffer,
    );
    fonts.set(weight, font);
  }
  return font;
}

/** Lettering as outlines, so that it looks alike on machines with other fonts. */
export function outline(text: string, { x, y, size, weight = 400, align = 'left' }: Set): Outline {
  // Glyph by glyph: all that is asked of the font is its shapes and their spacing.
  const font = fontOf(weight);
  const glyphs = [...text].map((letter) => font.charToGlyph(letter));
  const scale = size / font.unitsPerEm;
  const offsets: number[] = [];
  let width = 0;
  glyphs.forEach((glyph, i) => {
    if (i > 0) width += font.getKerningValue(glyphs[i - 1]!, glyph) * scale;
    offsets.push(width);
    width += (glyph.advanceWidth ?? 0) * scale;
  });
  const start = align === 'left' ? x : align === 'middle' ? x - width / 2 : x - width;
  return glyphs.flatMap((glyph, i) => glyph.getPath(start + offsets[i]!, y, size).commands);
}

/** An outline as the d attribute of an SVG path. */
export const toSvgPath = (commands: Outline): string =>
  commands
    .map((command) => {
      const n = (value: number) => value.toFixed(2);
      if (command.type === 'Z') return 'Z';
      if (command.type === 'C')
        return `C${n(command.x1)} ${n(command.y1)} ${n(command.x2)} ${n(command.y2)} ${n(command.x)} ${n(command.y)}`;
      if (command.type === 'Q')
        return `Q${n(command.x1)} ${n(command.y1)} ${n(command.x)} ${n(command.y)}`;
      return `${command.type}${n(command.x)} ${n(command.y)}`;
    })
    .join('');

/** Lettering as an SVG path. */
export const lettered = (text: string, set: Set, fill = '#1d2321'): string =>
  `<path fill="${fill}" d="${toSvgPath(outline(text, set))}"/>`;
