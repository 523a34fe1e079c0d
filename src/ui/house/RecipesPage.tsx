'use client';

import { useRef, useState } from 'react';
import { Button } from 'react-bootstrap';
import type { ListedHouse } from '@/core/house/house-recipe';
import { readHouseFile } from '@/core/house/recipe-file';
import { author } from '../data/author';
import { useHouse, useHouseActs } from '../data/house';
import { tell } from '../data/notices';
import { FileInput } from '../parts/FileInput';
import { evidenceWords } from './evidence-words';
import { RecipeSheet } from './RecipeSheet';
import { say } from '@/core/words/say';

/** The shop's house recipes: what each does, for what, and how it has served. */
export function RecipesPage() {
  const { data: recipes, error } = useHouse();
  const [chosen, setChosen] = useState<number | null>(null);
  const shown = recipes?.find(({ id }) => id === chosen) ?? recipes?.[0];
  return (
    <main className="recipes-page">
      <section aria-labelledby="recipes-heading" className="recipes-list">
        <header>
          <h1 id="recipes-heading">{say`House recipes`}</h1>
          <Import recipes={recipes ?? []} onKept={setChosen} />
        </header>
        {error && <p className="trouble">{error.message}</p>}
        <ul>
          {recipes?.map((recipe) => (
            <li key={recipe.id}>
              <button
                type="button"
                aria-pressed={recipe.id === shown?.id}
                onClick={() => setChosen(recipe.id)}
              >
                <b>{recipe.name}</b>
                <span className="soft">
                  {recipe.content.kind ?? say`any kind`}
                  {recipe.content.material && ` · ${recipe.content.material}`}
                </span>
                <span className="figure">{evidenceWords(recipe.evidence)}</span>
              </button>
            </li>
          ))}
        </ul>
        {recipes?.length === 0 && (
          <p className="soft">
            {say`There is none. Keep a trial as one: on the bench, in the menu beside its name.`}
          </p>
        )}
      </section>
      {shown && <RecipeSheet key={shown.id} recipe={shown} />}
    </main>
  );
}

/** Reads recipes from files: new ones, or new versions of those of their names. */
function Import({
  recipes,
  onKept,
}: {
  recipes: readonly ListedHouse[];
  onKept(id: number): void;
}) {
  const input = useRef<HTMLInputElement>(null);
  const { keep } = useHouseActs();
  const read = async (file: File) => {
    const found = readHouseFile(await file.text());
    if (found.ok) {
      keep({ ...found.recipe, author: author() }, recipes, ({ id }) => onKept(id));
    } else tell(say`${file.name} can't be used. ${found.reason}`, 'trouble');
  };
  return (
    <>
      <Button size="sm" variant="outline-primary" onClick={() => input.current?.click()}>
        {say`From a file …`}
      </Button>
      <FileInput
        input={input}
        label={say`A house recipe`}
        accept=".json,application/json"
        onChoose={(file) => void read(file)}
      />
    </>
  );
}
