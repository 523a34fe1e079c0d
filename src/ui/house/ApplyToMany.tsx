import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { Button, Modal } from 'react-bootstrap';
import { APPLIED_MOST, type Applied } from '@/core/house/applying';
import type { ListedHouse } from '@/core/house/house-recipe';
import { suitingRecipes } from '@/core/house/suits';
import { ALL_MODELS } from '@/core/learned/models';
import { originalOf } from '@/core/recipe/original';
import { resolveRecipe } from '@/core/recipe/resolve';
import type { JobView } from '@/core/shop/job';
import type { PictureOfJob } from '@/core/shop/picture-of-job';
import { api, thumbnailOf } from '../data/api';
import { author } from '../data/author';
import { useHouse } from '../data/house';
import { tell } from '../data/notices';
import { keys, useModels } from '../data/queries';
import { RecipeEffect } from './RecipeEffect';
import { useRecipeOn, type Pictured } from './recipe-on';
import { RecipeChoice } from './RecipeChoice';
import { say } from '@/core/words/say';

/** Begins a trial by a house recipe on every picture of some jobs; before that it shows what it changes on each. */
export function ApplyToMany({ jobs, onClose }: { jobs: readonly number[]; onClose(): void }) {
  const { data: recipes } = useHouse();
  const { data: entries, error } = useQuery({
    queryKey: ['pictures of', jobs],
    queryFn: () => api.picturesOf(jobs),
  });
  return (
    <Modal
      show
      onHide={onClose}
      centered
      size="xl"
      dialogClassName="house-dialog try-recipe to-many"
      aria-labelledby="apply-recipe"
    >
      <Modal.Body>
        <h2 id="apply-recipe">{say`A house recipe for ${entries?.length ?? '…'} pictures`}</h2>
        {error && <p className="trouble">{error.message}</p>}
        {recipes && entries && entries.length > 0 && (
          <Chosen entries={entries} recipes={recipes} onClose={onClose} />
        )}
      </Modal.Body>
    </Modal>
  );
}

function Chosen({
  entries,
  recipes,
  onClose,
}: {
  entries: readonly PictureOfJob[];
  recipes: readonly ListedHouse[];
  onClose(): void;
}) {
  const [shown, setShown] = useState(entries[0]!.piece);
  const [chosen, setChosen] = useState<number | null>(null);
  const entry = entries.find(({ piece }) => piece === shown) ?? entries[0]!;
  const { data: view, error } = useQuery({
    queryKey: ['picture', entry.jobId, entry.piece],
    queryFn: () => api.job(entry.jobId, entry.piece),
  });
  const apply = useApply(onClose);
  const tooMany = entries.length > APPLIED_MOST;
  const first = view && suitedTo(view, recipes);
  const recipe = recipes.find(({ id }) => id === chosen) ?? first ?? recipes[0];
  return (
    <>
      {view && (
        <RecipeChoice
          recipes={recipes}
          found={foundOf(view)}
          material={view.piece.work.material}
          chosen={recipe?.id}
          onChoose={setChosen}
        />
      )}
      <section className="house-outcome">
        <ol className="pictures-strip" aria-label={say`Pictures`}>
          {entries.map((one) => (
            <li key={one.piece}>
              <button
                type="button"
                aria-pressed={one.piece === entry.piece}
                title={`${one.number}, ${one.fileName}`}
                aria-label={`${one.number}, ${one.fileName}`}
                onClick={() => setShown(one.piece)}
              >
                <img src={thumbnailOf(one.digest, one.page)} alt="" />
              </button>
            </li>
          ))}
        </ol>
        <p className="mb-0">
          <b>{entry.number}</b> {entry.fileName}
        </p>
        {error && <p className="trouble">{error.message}</p>}
        {view && recipe && <OfPicture key={`${entry.piece} ${recipe.id}`} {...{ view, recipe }} />}
        <footer>
          {tooMany && (
            <span className="trouble">{say`At most ${APPLIED_MOST} pictures at once.`}</span>
          )}
          <Button variant="quiet" onClick={onClose}>
            {say`Cancel`}
          </Button>
          <Button
            disabled={!recipe || apply.isPending || tooMany}
            onClick={() =>
              apply.mutate({ recipe: recipe!, pieces: entries.map((one) => one.piece) })
            }
          >
            {entries.length === 1
              ? say`Begin a trial by it`
              : say`Begin a trial by it on ${entries.length} pictures`}
          </Button>
        </footer>
      </section>
    </>
  );
}

const foundOf = ({ piece: { findings, work } }: JobView) =>
  work.kind ? { ...findings, kind: work.kind } : findings;

function suitedTo(view: JobView, recipes: readonly ListedHouse[]): ListedHouse | undefined {
  const findings = foundOf(view);
  const { material } = view.piece.work;
  return suitingRecipes({ findings, kind: findings.kind, material }, recipes)[0]?.recipe;
}

function OfPicture({ view, recipe }: { view: JobView; recipe: ListedHouse }) {
  const { data: models = ALL_MODELS } = useModels();
  const { digest, findings, takenOut, work } = view.piece;
  const picture = useMemo((): Pictured => {
    const original = originalOf(digest, findings, takenOut);
    const [trial] = work.trials;
    const resolved = resolveRecipe(original, work, trial!, models);
    return { digest, findings, original, work, trial: trial!, resolved };
  }, [digest, findings, takenOut, work, models]);
  return (
    <RecipeEffect picture={picture} recipe={recipe} after={useRecipeOn(picture, recipe, models)} />
  );
}

/** Applies a recipe and says what came of it. */
function useApply(onDone: () => void) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ recipe, pieces }: { recipe: ListedHouse; pieces: number[] }) =>
      api.applyHouse(recipe.id, { pieces, author: author() }),
    onSuccess: (applied, { recipe }) => {
      tellApplied(recipe.name, applied);
      onDone();
      const changed = [keys.jobs, ['job'], ['picture'], ['house']];
      return Promise.all(changed.map((queryKey) => client.invalidateQueries({ queryKey })));
    },
    onError: (error) => tell(error.message, 'trouble'),
  });
}

function tellApplied(name: string, applied: readonly Applied[]): void {
  const of = (outcome: Applied['outcome']) => applied.filter((one) => one.outcome === outcome);
  const [begun, had, failed] = [of('begun'), of('had it'), of('failed')];
  if (begun.length > 0) tell(say`“${name}” is a trial of ${begun.length} pictures now.`, 'good');
  if (had.length > 0) tell(say`${had.length} pictures had a trial by “${name}” already.`, 'note');
  for (const words of new Set(failed.map((one) => one.words ?? ''))) tell(words, 'trouble');
}
