import type { Patch } from './change';

/**
 * How two changes of one work stand to each other: they touch different things, set the same thing, or one of them
 * names places in a list whose entries the other moved or removed.
 */
export type Clash = 'none' | 'value' | 'place';

/** What tells one entry of a list from another. */
const IDENTITY = ['id', 'kind'];

const isPlace = (segment: string): boolean => segment === '-' || /^\d+$/.test(segment);

/** Lists that a path leads through, by their own paths. */
const listsOn = (path: string): string[] => {
  const segments = path.split('/');
  return segments.flatMap((segment, i) =>
    isPlace(segment) ? [segments.slice(0, i).join('/')] : [],
  );
};

const isWithin = (path: string, of: string): boolean => path === of || path.startsWith(`${of}/`);

/**
 * Lists whose entries a change moved. Changes are found place by place, so that one that is put in or taken out shows as
 * others at all places after it.
 */
function movedLists(patch: Patch): string[] {
  const resized = patch.flatMap(({ op, path }) => {
    const at = path.lastIndexOf('/');
    return op !== 'replace' && isPlace(path.slice(at + 1)) ? [path.slice(0, at)] : [];
  });
  return patch.flatMap(({ op, path }) => {
    if (op !== 'replace') return [];
    const lists = listsOn(path);
    const innermost = lists.at(-1);
    const other =
      innermost !== undefined &&
      IDENTITY.some((name) => new RegExp(`^/[^/]+/${name}$`).test(path.slice(innermost.length)));
    return [...lists.filter((list) => resized.includes(list)), ...(other ? [innermost] : [])];
  });
}

/** How a change stands to one that somebody else made of the same work. */
export function clashOf(mine: Patch, theirs: Patch): Clash {
  const [own, others] = [mine, theirs].map((patch) => patch.map(({ path }) => path)) as [
    string[],
    string[],
  ];
  const into = (lists: readonly string[], paths: readonly string[]) =>
    lists.some((list) => paths.some((path) => path !== list && isWithin(path, list)));
  const removed = theirs.flatMap(({ op, path }) => (op === 'remove' ? [path] : []));
  if (into(movedLists(theirs), own) || into(movedLists(mine), others)) return 'place';
  if (removed.some((path) => isPlace(path.split('/').at(-1)!) && into([path], own))) return 'place';
  const same = own.some((path) => others.some((one) => isWithin(path, one) || isWithin(one, path)));
  return same ? 'value' : 'none';
}
