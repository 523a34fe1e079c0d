import { formatNumber } from '../measure/format';
import { formatOf } from '../output/formats';
import { say } from '../words/say';
import type { BegunBy, SettingName, Settings } from './settings';

/** What settings are called. */
export const SETTING_WORDS: Record<SettingName, string> = {
  fileNames: say`Names of results`,
  batchNames: say`Names in batches`,
  unit: say`Unit of lengths`,
  materials: say`Materials`,
  sheets: say`Sheets and rolls`,
  people: say`People`,
  begin: say`How work begins`,
  limits: say`Limits`,
};

/** How work is begun, in a word. @param recipeName a house recipe's name by its number */
export const begunWords = (
  begun: BegunBy,
  recipeName: (id: number) => string | undefined,
): string =>
  begun.by === 'house'
    ? (recipeName(begun.id) ?? say`a recipe that was deleted`)
    : begun.by === 'suiting'
      ? say`by the recipe that suits`
      : say`as proposed`;

/** What became of a setting, in a few words: what was added to a list, changed in it, taken off it; or what it is now. */
export function changeWords<N extends SettingName>(
  name: N,
  before: Settings[N] | null,
  after: Settings[N] | null,
  recipeName: (id: number) => string | undefined = () => undefined,
): string {
  if (after === null) return say`in a form that is not read any more`;
  if (Array.isArray(after)) return listWords(before as Entry[] | null, after as Entry[]);
  if (typeof after === 'string') return after;
  const partsOf = (value: Settings[N]): string[] =>
    name === 'begin'
      ? beginWords(value as Settings['begin'], recipeName)
      : limitWords(value as Settings['limits']);
  const parts = partsOf(after);
  const had = before && partsOf(before);
  const changed = parts.filter((part, i) => part !== had?.[i]);
  return (changed.length > 0 ? changed : parts).join(', ');
}

type Entry = Partial<Record<'name' | 'initials', string>>;
const wordOf = (entry: Entry): string => entry.initials ?? entry.name ?? '';

function listWords(before: readonly Entry[] | null, after: readonly Entry[]): string {
  const had = new Map(before?.map((entry) => [wordOf(entry), JSON.stringify(entry)]));
  const has = new Set(after.map(wordOf));
  const added = after.filter((entry) => !had.has(wordOf(entry))).map(wordOf);
  const changed = after
    .filter((entry) => had.has(wordOf(entry)) && had.get(wordOf(entry)) !== JSON.stringify(entry))
    .map(wordOf);
  const gone = [...had.keys()].filter((word) => !has.has(word));
  const parts = [
    added.length > 0 && say`added ${added.join('; ')}`,
    changed.length > 0 && say`changed ${changed.join('; ')}`,
    gone.length > 0 && say`taken off ${gone.join('; ')}`,
  ].filter((part) => part !== false);
  return parts.length > 0 ? parts.join(' · ') : say`in another order`;
}

const beginWords = (
  { job, batch, file, distance }: Settings['begin'],
  recipeName: (id: number) => string | undefined,
): string[] => [
  say`jobs ${begunWords(job, recipeName)}`,
  say`batches ${begunWords(batch, recipeName)}`,
  say`${formatOf(file.format).name}, quality ${file.quality}`,
  say`seen from ${formatNumber(distance)} m`,
];

const limitWords = ({ uploadMb, pictureMp, keepGb }: Settings['limits']): string[] => [
  say`files ${uploadMb === null ? say`as the server allows` : `${formatNumber(uploadMb)} MB`}`,
  say`pictures ${pictureMp === null ? say`as the server allows` : `${formatNumber(pictureMp)} MP`}`,
  say`room ${keepGb === null ? say`as the server allows` : `${formatNumber(keepGb)} GB`}`,
];
