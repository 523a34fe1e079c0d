import { useMemo } from 'react';
import { Button } from 'react-bootstrap';
import { suitingRecipes } from '@/core/house/suits';
import { useHouse } from '../../../data/house';
import { openTryRecipe } from '../../../house/house-dialogs';
import type { WorkBench } from '../../use-work';
import { say } from '@/core/words/say';

/** The house recipe that suits the picture best, where there is one that no trial of it has yet. */
export function SuitingRecipe({ bench: { found, work } }: { bench: WorkBench }) {
  const { data: recipes } = useHouse();
  const best = useMemo(
    () =>
      recipes &&
      suitingRecipes({ findings: found, kind: found.kind, material: work.material }, recipes)[0],
    [found, work.material, recipes],
  );
  if (!best || work.trials.some(({ house }) => house?.id === best.recipe.id)) return null;
  const { id, name } = best.recipe;
  return (
    <p className="suiting">
      <span>
        {say`House recipe`} <b>{name}</b>
      </span>
      <Button size="sm" variant="outline-primary" onClick={() => openTryRecipe(id)}>
        {say`See what it makes`}
      </Button>
      <span className="soft">{best.reason}</span>
    </p>
  );
}
