import slugify from '@sindresorhus/slugify';
import { z } from 'zod';
import { say } from '../words/say';

/** What a file's name can be made of. */
export const NAME_PARTS = [
  'job',
  'customer',
  'title',
  'file',
  'size',
  'ppi',
  'trial',
  'date',
] as const;
export type NamePart = (typeof NAME_PARTS)[number];
export type NameParts = Record<NamePart, string>;

/** The pattern of a shop that has not chosen one. */
export const USUAL_PATTERN = '{job}-{title}-{size}-{ppi}ppi';
/** The pattern of a batch, whose pictures share job and title. */
export const BATCH_PATTERN = '{file}-{size}';

/** What people write: anything. The others are figures, or were a file's name before, and stay as they are. */
const WORDS: ReadonlySet<NamePart> = new Set(['customer', 'title', 'trial']);

const PART = /\{([^{}]*)\}/g;
/** The longest part, and the longest name before its ending: file systems take no more than 255 bytes. */
const LONGEST_PART = 40;
const LONGEST_KEPT = 80;
const LONGEST = 120;

/** How results of a shop are named: words and parts in braces, as in {job}-{title}. */
export const NamePattern = z
  .string()
  .trim()
  .min(1, say`A name needs something to be made of.`)
  .max(120)
  .superRefine((pattern, context) => {
    const unknown = [...pattern.matchAll(PART)]
      .map((found) => found[1]!)
      .find((part) => !NAME_PARTS.some((one) => one === part));
    if (unknown !== undefined) {
      context.addIssue({
        code: 'custom',
        message: say`There is no part {${unknown}}. There are ${NAME_PARTS.map((part) => `{${part}}`).join(', ')}.`,
      });
    }
    if (/[{}]/.test(pattern.replace(PART, ''))) {
      context.addIssue({ code: 'custom', message: say`A brace is open: write parts as {job}.` });
    }
  });
export type NamePattern = z.infer<typeof NamePattern>;

/**
 * A result's name by a pattern, in letters that every file system takes; parts that are empty leave no gap.
 * @param ending of its format, without a point
 */
export function nameBy(pattern: NamePattern, parts: NameParts, ending: string): string {
  const filled = pattern.replace(PART, (_, part: NamePart) =>
    WORDS.has(part)
      ? slugify(parts[part], { decamelize: false }).slice(0, LONGEST_PART)
      : parts[part].slice(0, LONGEST_KEPT),
  );
  return `${tidy(filled) || 'result'}.${ending}`;
}

/** A name that was written by hand, with its ending; nothing of it reaches beyond a folder. */
export function nameByHand(name: string, endings: readonly [string, ...string[]]): string {
  const known = endings.find((one) => name.toLowerCase().endsWith(`.${one}`));
  const bare = known ? name.slice(0, -known.length - 1) : name;
  return `${tidy(bare) || 'result'}.${known ?? endings[0]}`;
}

/** A file's name without its ending. */
export const bareName = (name: string): string => name.replace(/\.\w{1,5}$/, '');

const tidy = (name: string): string =>
  name
    .normalize()
    // What file systems or shells take for something else.
    .replace(/[\p{C}\u2028\u2029/\\:*?"<>|]/gu, '-')
    .replace(/([-_ .])[-_ .]*/g, '$1')
    .replace(/^[-_ .]+|[-_ .]+$/g, '')
    .slice(0, LONGEST);

/** A name that none of those taken has: with a number where it has to. */
export function freeName(name: string, taken: ReadonlySet<string>): string {
  const point = name.lastIndexOf('.');
  let free = name;
  for (let n = 2; taken.has(free); n++) free = `${name.slice(0, point)}-${n}${name.slice(point)}`;
  return free;
}
