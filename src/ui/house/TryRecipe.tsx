import { useMemo } from 'react';
import { Button, Modal } from 'react-bootstrap';
import { putRecipe, tryRecipe } from '@/core/house/apply';
import { stepChanges } from '@/core/house/changes';
import type { ListedHouse } from '@/core/house/house-recipe';
import { suitingRecipes } from '@/core/house/suits';
import { formatMegapixels, formatPpi } from '@/core/measure/format';
import { outputWords } from '@/core/output/output';
import { resolveRecipe, type Resolved } from '@/core/recipe/resolve';
import { trialOf } from '@/core/recipe/trials';
import { TRIALS, type Trial } from '@/core/recipe/work';
import { estimate } from '@/core/render/throughput';
import { useChosen } from '../bench/trial-store';
import type { WorkBench } from '../bench/use-work';
import { useHouse } from '../data/house';
import { useThroughput } from '../data/queries';
import { estimateWords } from '../parts/time-left';
import { BeforeAfter } from './BeforeAfter';
import { closeHouseDialog, useHouseDialog } from './house-dialogs';
import { say } from '@/core/words/say';

/** What house recipes would make of the picture on the bench; one of them is taken as a new trial. */
export function TryRecipe({ bench }: { bench: WorkBench }) {
  const { data: recipes = [] } = useHouse();
  const { found, work } = bench;
  const chosen = useHouseDialog((dialog) => dialog.chosen);
  const suiting = useMemo(
    () => suitingRecipes({ findings: found, kind: found.kind, material: work.material }, recipes),
    [found, work.material, recipes],
  );
  const others = recipes.filter(({ id }) => !suiting.some(({ recipe }) => recipe.id === id));
  const recipe = recipes.find(({ id }) => id === chosen) ?? suiting[0]?.recipe ?? recipes[0];
  const entry = (one: ListedHouse, reason?: string) => (
    <button
      key={one.id}
      type="button"
      aria-pressed={one.id === recipe?.id}
      onClick={() => useHouseDialog.setState({ chosen: one.id })}
    >
      <b>{one.name}</b>
      <span className="soft">{reason ?? one.content.note}</span>
    </button>
  );
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
        <nav className="house-choice" aria-label={say`House recipes`}>
          {suiting.length > 0 && <h3>{say`Suit this picture`}</h3>}
          {suiting.map(({ recipe: one, reason }) => entry(one, reason))}
          {suiting.length > 0 && others.length > 0 && <h3>{say`Others`}</h3>}
          {others.map((one) => entry(one))}
        </nav>
        {recipe && <Outcome key={recipe.id} bench={bench} recipe={recipe} />}
      </Modal.Body>
    </Modal>
  );
}

function Outcome({ bench, recipe }: { bench: WorkBench; recipe: ListedHouse }) {
  const { original, trial, work, resolved, models, change } = bench;
  const { data: throughput } = useThroughput();
  const after = useMemo(() => {
    const copy = structuredClone(work);
    const its = trialOf(copy, trial.id);
    putRecipe(copy, its, recipe);
    return { trial: its, resolved: resolveRecipe(original, copy, its, models) };
  }, [original, work, trial.id, recipe, models]);
  const begin = () => {
    const next = tryRecipe(structuredClone(work), trial, recipe);
    if (!next) return;
    change(say`${next.name}, by house recipe`, (copy, from) => void tryRecipe(copy, from, recipe));
    useChosen.setState({ trial: next.id, beside: [{ of: 'trial', id: trial.id }] });
    closeHouseDialog();
  };
  const figures = (of: Trial, its: Resolved) =>
    its.ok
      ? [
          say`${formatPpi(its.plan.ppiAfter)} ppi`,
          say`${formatMegapixels(its.plan.megapixels)} MP`,
          outputWords(of.output),
          ...(throughput ? [estimateWords(estimate(its.recipe, throughput))] : []),
        ].join(' · ')
      : its.reason;
  const full = work.trials.length >= TRIALS;
  return (
    <section className="house-outcome" aria-label={recipe.name}>
      <BeforeAfter
        bench={bench}
        before={{ name: trial.name, resolved }}
        after={{ name: recipe.name, resolved: after.resolved }}
      />
      <table className="step-changes">
        <thead>
          <tr>
            <th scope="col">{say`Step`}</th>
            <th scope="col">{trial.name}</th>
            <th scope="col">{recipe.name}</th>
          </tr>
        </thead>
        <tbody>
          {stepChanges(trial, after.trial).map((one, i) => (
            <tr key={i} data-same={one.same}>
              <th scope="row">{one.title}</th>
              <td>{one.before ?? '–'}</td>
              <td>{one.after ?? '–'}</td>
            </tr>
          ))}
          <tr>
            <th scope="row">{say`Comes to`}</th>
            <td>
              <span className="figure">{figures(trial, resolved)}</span>
            </td>
            <td>
              <span className="figure">{figures(after.trial, after.resolved)}</span>
            </td>
          </tr>
        </tbody>
      </table>
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
