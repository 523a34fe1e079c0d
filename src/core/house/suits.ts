import type { Findings } from '../inspect/findings';
import type { Kind } from '../inspect/kind';
import { proposeCleaning } from '../recipe/proposals/cleaning';
import type { StepKind } from '../steps';
import { say } from '../words/say';
import type { HouseContent, ListedHouse } from './house-recipe';

/** What pictures suffer from, as sentences name it. */
const SUFFERED = ['compression', 'noise', 'blur', 'fading', 'fringes', 'banding'] as const;
type Suffered = (typeof SUFFERED)[number];

const WORDS: Record<Suffered, string> = {
  compression: say`compression`,
  noise: say`noise`,
  blur: say`blur`,
  fading: say`fading`,
  fringes: say`fringes`,
  banding: say`banding`,
};

/** What a step takes back. */
const TAKES: Partial<Record<StepKind, readonly Suffered[]>> = {
  compression: ['compression'],
  restore: ['compression', 'noise', 'blur'],
  noise: ['noise'],
  deblur: ['blur'],
  tones: ['fading'],
  fringes: ['fringes'],
  banding: ['banding'],
  ground: ['compression'],
};

/** Steps that change a picture which has no need of them; the others find little to do then. */
const SEEN_ANYWAY: readonly Suffered[] = ['fading', 'fringes'];
/** What may be left as it is: it is said then. */
const MINOR: readonly Suffered[] = ['fringes', 'banding'];

const takenBy = (steps: readonly { kind: StepKind; on: boolean }[]): Set<Suffered> =>
  new Set(steps.flatMap(({ kind, on }) => (on ? (TAKES[kind] ?? []) : [])));

/** What a picture suffers from, in words, as far as a step is proposed against it. */
export function sufferedWords(findings: Findings): string[] {
  const needs = takenBy(proposeCleaning(findings).map(({ step }) => step));
  return SUFFERED.filter((one) => needs.has(one)).map((one) => WORDS[one]);
}

/** A picture as recipes are chosen for it. */
export interface ToSuit {
  findings: Findings;
  /** what it is taken for */
  kind: Kind;
  material: string | null;
}

/** A recipe that suits a picture, and why. */
export interface Suiting<T> {
  recipe: T;
  reason: string;
}

/**
 * Recipes that suit a picture, the best first: they are for its kind, or for what it is printed on, take back all that it
 * suffers from, and do nothing to it that it has no need of. Of equals the one that was used most and changed least.
 */
export function suitingRecipes<T extends Pick<ListedHouse, 'content' | 'evidence'>>(
  { findings, kind, material }: ToSuit,
  recipes: readonly T[],
): Suiting<T>[] {
  const needs = takenBy(proposeCleaning(findings).map(({ step }) => step));
  return recipes
    .flatMap((recipe) => {
      const { content, evidence } = recipe;
      if (!isFor(content, kind, material)) return [];
      const taken = takenBy(content.treatment);
      const left = [...needs].filter((need) => !taken.has(need));
      if (left.some((need) => !MINOR.includes(need))) return [];
      if (SEEN_ANYWAY.some((change) => taken.has(change) && !needs.has(change))) return [];
      const exact = 2 * Number(content.material !== null) + Number(content.kind !== null);
      const known = evidence.pictures - evidence.changed;
      return [{ recipe, reason: reasonOf(content, taken, needs), left: left.length, exact, known }];
    })
    .sort((a, b) => b.exact - a.exact || a.left - b.left || b.known - a.known)
    .map(({ recipe, reason }) => ({ recipe, reason }));
}

/** Whether it is for such pictures, and says so by kind or material. */
function isFor(content: HouseContent, kind: Kind, material: string | null): boolean {
  if (content.kind === null && content.material === null) return false;
  return (
    (content.kind === null || content.kind === kind) &&
    (content.material === null || content.material === material)
  );
}

/** A kind, many of it. */
const PLURAL: Record<Kind, string> = {
  photograph: say`photographs`,
  'flat artwork': say`flat artwork`,
  'line art': say`line art`,
  'pixel squares': say`pixel squares`,
  mixed: say`mixed pictures`,
};

function reasonOf(
  { kind, material }: HouseContent,
  taken: ReadonlySet<Suffered>,
  needs: ReadonlySet<Suffered>,
): string {
  const what = kind ? PLURAL[kind] : say`pictures of any kind`;
  const made = material ? say`For ${what} on ${material.toLowerCase()}` : say`For ${what}`;
  const named = (those: (one: Suffered) => boolean) =>
    SUFFERED.filter((one) => needs.has(one) && those(one))
      .map((one) => WORDS[one])
      .join(', ');
  const found = named((one) => taken.has(one));
  const left = named((one) => !taken.has(one));
  return [
    found ? say`${made}; it takes back what is found here: ${found}.` : say`${made}.`,
    ...(left ? [say`It leaves ${left}.`] : []),
  ].join(' ');
}
