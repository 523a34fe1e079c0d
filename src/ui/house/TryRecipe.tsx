import { Button, Modal } from 'react-bootstrap';
import { tryRecipe } from '@/core/house/apply';
import type { ListedHouse } from '@/core/house/house-recipe';
import { suitingRecipes } from '@/core/house/suits';
import { TRIALS } from '@/core/recipe/work';
import { useChosen } from '../bench/trial-store';
import type { WorkBench } from '../bench/use-work';
import { useHouse } from '../data/house';
import { RecipeEffect } from './RecipeEffect';
import { useRecipeOn, type Pictured } from './recipe-on';
import { closeHouseDialog, useHouseDialog } from './house-dialogs';
import { RecipeChoice } from './RecipeChoice';
import { say } from '@/core/words/say';

/** What house recipes would make of the picture on the bench; one of them is taken as a new trial. */
export function TryRecipe({ bench }: { bench: WorkBench }) {
  const { data: recipes = [] } = useHouse();
  const { found, work } = bench;
  const chosen = useHouseDialog((dialog) => dialog.chosen);
  const recipe = recipes.find(({ id }) => id === chosen) ?? bestOf(bench, recipes);
  return (
    <Modal
      show
      onHide={closeHouseDialog}
      centered
      size="xl"
      dialogClassName="house-dialog try-recipe"
      aria-labelledby="try-recipe"
    >
      <Modal.Body>
        <h2 id="try-recipe">{say`By a house recipe`}</h2>
        <RecipeChoice
          {...{ recipes, found, material: work.material, chosen: recipe?.id }}
          onChoose={(id) => useHouseDialog.setState({ chosen: id })}
        />
        {recipe && <Outcome key={recipe.id} bench={bench} recipe={recipe} />}
      </Modal.Body>
    </Modal>
  );
}

const bestOf = (
  { found, work }: WorkBench,
  recipes: readonly ListedHouse[],
): ListedHouse | undefined => {
  const of = { findings: found, kind: found.kind, material: work.material };
  return suitingRecipes(of, recipes)[0]?.recipe ?? recipes[0];
};

function Outcome({ bench, recipe }: { bench: WorkBench; recipe: ListedHouse }) {
  const { original, trial, work, resolved, models, change, job } = bench;
  const { digest, findings } = job.piece;
  const picture: Pictured = { digest, findings, original, work, trial, resolved };
  const after = useRecipeOn(picture, recipe, models);
  const begin = () => {
    const next = tryRecipe(structuredClone(work), trial, recipe);
    if (!next) return;
    change(say`${next.name}, by house recipe`, (copy, from) => void tryRecipe(copy, from, recipe));
    useChosen.setState({ trial: next.id, beside: [{ of: 'trial', id: trial.id }] });
    closeHouseDialog();
  };
  const full = work.trials.length >= TRIALS;
  return (
    <section className="house-outcome" aria-label={recipe.name}>
      <RecipeEffect picture={picture} recipe={recipe} after={after} />
      <footer>
        {full && (
          <span className="trouble">{say`There are ${TRIALS} trials: delete one of them first.`}</span>
        )}
        <Button variant="quiet" onClick={closeHouseDialog}>
          {say`Cancel`}
        </Button>
        <Button disabled={full || !after.resolved.ok} onClick={begin}>
          {say`Begin a trial by it`}
        </Button>
      </footer>
    </section>
  );
}
