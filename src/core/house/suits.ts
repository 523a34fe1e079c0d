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

/** Steps that change a picture which has no need of them; the others find nothing to do then. */
const SEEN_ANYWAY: readonly Suffered[] = ['fading'];

const takenBy = (steps: readonly { kind: StepKind; on: boolean }[]): Set<Suffered> =>
  new Set(steps.flatMap(({ kind, on }) => (on ? (TAKES[kind] ?? []) : [])));

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
      if ([...needs].some((need) => !taken.has(need))) return [];
      if (SEEN_ANYWAY.some((change) => taken.has(change) && !needs.has(change))) return [];
      const exact = 2 * Number(content.material !== null) + Number(content.kind !== null);
      const known = evidence.pictures - evidence.changed;
      return [{ recipe, reason: reasonOf(content, needs), exact, known }];
    })
    .sort((a, b) => b.exact - a.exact || b.known - a.known)
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

function reasonOf({ kind, material }: HouseContent, needs: ReadonlySet<Suffered>): string {
  const what = kind ?? say`pictures of any kind`;
  const made = material ? say`For ${what} on ${material.toLowerCase()}` : say`For ${what}`;
  const found = SUFFERED.filter((one) => needs.has(one)).map((one) => WORDS[one]);
  return found.length === 0
    ? say`${made}; nothing else is to be taken back here.`
    : say`${made}; it takes back what is found here: ${found.join(', ')}.`;
}
