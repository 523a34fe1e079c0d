import { useMemo } from 'react';
import type { ListedHouse } from '@/core/house/house-recipe';
import { suitingRecipes } from '@/core/house/suits';
import type { Findings } from '@/core/inspect/findings';
import { say } from '@/core/words/say';

/** House recipes to choose from: those that suit a picture first, each with its reason. */
export function RecipeChoice({
  recipes,
  found,
  material,
  chosen,
  onChoose,
}: {
  recipes: readonly ListedHouse[];
  /** of the picture, with the kind that it is taken for */
  found: Findings;
  material: string | null;
  chosen: number | undefined;
  onChoose(id: number): void;
}) {
  const suiting = useMemo(
    () => suitingRecipes({ findings: found, kind: found.kind, material }, recipes),
    [found, material, recipes],
  );
  const others = recipes.filter(({ id }) => !suiting.some(({ recipe }) => recipe.id === id));
  const entry = ({ id, name, content }: ListedHouse, reason?: string) => (
    <button key={id} type="button" aria-pressed={id === chosen} onClick={() => onChoose(id)}>
      <b>{name}</b>
      <span className="soft">{reason ?? content.note}</span>
    </button>
  );
  return (
    <nav className="house-choice" aria-label={say`House recipes`}>
      {suiting.length > 0 && <h3>{say`Suit this picture`}</h3>}
      {suiting.map(({ recipe, reason }) => entry(recipe, reason))}
      {suiting.length > 0 && others.length > 0 && <h3>{say`Others`}</h3>}
      {others.map((one) => entry(one))}
    </nav>
  );
}
