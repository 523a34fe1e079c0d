import { join } from 'node:path';
import type PDFDocument from 'pdfkit';
import { root } from '../root';

type Document = InstanceType<typeof PDFDocument>;

/** Weights of the house's letters that sheets are set in. */
type Weight = 400 | 600;

/** The files of a weight: the usual letters, and those of more languages. */
const fileOf = (weight: Weight, part: 'latin' | 'latin-ext'): string =>
  join(root(), 'node_modules/@fontsource/archivo/files', `archivo-${part}-${weight}-normal.woff`);

const WEIGHTS: readonly Weight[] = [400, 600];

/** A font that a document begins with, so that none of its own is looked for. */
export const firstFont = (): string => fileOf(400, 'latin');

export function registerFonts(document: Document): void {
  for (const weight of WEIGHTS) {
    document.registerFont(`latin ${weight}`, fileOf(weight, 'latin'));
    document.registerFont(`latin-ext ${weight}`, fileOf(weight, 'latin-ext'));
  }
}

/** Letters of Latin scripts that aren't among the usual ones. */
const EXTENDED = /[\u0100-\u024f\u1e00-\u1eff]/;
/** What neither file holds. */
const UNKNOWN = /[^\u0020-\u024f\u1e00-\u1eff\u2010-\u2026\u2030\u2032\u2033\u20ac\u2122\u2212]/gu;

interface TextOptions {
  weight?: Weight;
  /** in points */
  size?: number;
  colour?: string;
  /** cut off to so many points */
  width?: number;
  align?: 'left' | 'right';
}

/** Sets one line, its baseline's box at a place, in points. @returns how wide it is */
export function setLine(
  document: Document,
  text: string,
  x: number,
  y: number,
  { weight = 400, size = 8, colour = '#1d2321', width, align = 'left' }: TextOptions = {},
): number {
  document.fillColor(colour).fontSize(size);
  let runs = runsOf(text.replace(/\s+/g, ' ').replace(UNKNOWN, '·'));
  const measured = (all: readonly Run[]) =>
    all.reduce(
      (sum, run) => sum + document.font(`${run.part} ${weight}`).widthOfString(run.text),
      0,
    );
  if (width !== undefined) while (runs.length > 0 && measured(runs) > width) runs = shorter(runs);
  const all = measured(runs);
  let at = align === 'right' && width !== undefined ? x + width - all : x;
  for (const { part, text: words } of runs) {
    document.font(`${part} ${weight}`).text(words, at, y, { lineBreak: false });
    at += document.widthOfString(words);
  }
  return all;
}

interface Run {
  part: 'latin' | 'latin-ext';
  text: string;
}

function runsOf(text: string): Run[] {
  const runs: Run[] = [];
  for (const letter of text) {
    const part = EXTENDED.test(letter) ? 'latin-ext' : 'latin';
    const last = runs.at(-1);
    if (last?.part === part) last.text += letter;
    else runs.push({ part, text: letter });
  }
  return runs;
}

/** The same with one letter less, and dots to say so. */
function shorter(runs: readonly Run[]): Run[] {
  const whole = runs.map(({ text }) => text).join('');
  const cut = [...whole.replace(/…$/, '')].slice(0, -1).join('').trimEnd();
  return cut === '' ? [] : runsOf(`${cut}…`);
}
