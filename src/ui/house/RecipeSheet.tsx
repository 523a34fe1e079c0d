import slugify from '@sindresorhus/slugify';
import { format } from 'date-fns';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { stepChanges } from '@/core/house/changes';
import type { ListedHouse, PastHouse } from '@/core/house/house-recipe';
import { houseFile } from '@/core/house/recipe-file';
import { authorWords } from '@/core/shop/author';
import { author } from '../data/author';
import { useHouseActs, useHouseVersions } from '../data/house';
import { downloadText } from '../parts/download';
import { AboutRecipe, type About } from './AboutRecipe';
import { evidenceWords } from './evidence-words';
import { StepList } from './StepList';
import { say } from '@/core/words/say';

/** One house recipe: what it is for, its steps, how it has served, and its versions. */
export function RecipeSheet({ recipe }: { recipe: ListedHouse }) {
  const { id, name, version, content, evidence, asShipped } = recipe;
  const kept: About = { name, kind: content.kind, material: content.material, note: content.note };
  // What is typed stays while somebody else makes a version.
  const [typed, setTyped] = useState<Partial<About>>({});
  const about = { ...kept, ...typed };
  const { change, remove } = useHouseActs();
  const setAbout = (next: About) => {
    const names = Object.keys(kept) as (keyof About)[];
    const changed = names.filter((name_) => next[name_] !== kept[name_]);
    setTyped(Object.fromEntries(changed.map((name_) => [name_, next[name_]])));
  };
  const differs = Object.keys(typed).length > 0;
  const keep = (next: About, of = content) =>
    change.mutate(
      {
        ...{ id, version, name: next.name.trim(), author: author() },
        content: { ...of, kind: next.kind, material: next.material, note: next.note.trim() },
      },
      { onSuccess: () => setTyped({}) },
    );
  return (
    <article className="recipe-sheet" aria-label={name}>
      <header>
        <h2>{name}</h2>
        <span className="soft">
          {say`version ${version}`}
          {asShipped && say`, as it came`} · {evidenceWords(evidence)}
        </span>
        <Button
          size="sm"
          variant="quiet"
          onClick={() => downloadText(`${slugify(name) || 'recipe'}.json`, houseFile(recipe))}
        >
          {say`Save as a file`}
        </Button>
        <Button
          size="sm"
          variant="quiet"
          disabled={remove.isPending}
          onClick={() => remove.mutate({ id, name })}
        >
          {say`Take off the list`}
        </Button>
      </header>
      <div className="recipe-parts">
        <section aria-label={say`What it does`}>
          <h3>{say`What it does`}</h3>
          <StepList content={content} />
          <p className="soft">
            {say`Steps are changed on the bench: begin a trial by it, change that, and keep it under the same name.`}
          </p>
        </section>
        <form
          aria-label={say`What it is for`}
          onSubmit={(event) => {
            event.preventDefault();
            keep(about);
          }}
        >
          <h3>{say`What it is for`}</h3>
          <AboutRecipe about={about} trouble={null} onChange={setAbout} />
          <div className="d-flex gap-2">
            <Button
              type="submit"
              disabled={!differs || about.name.trim() === '' || change.isPending}
            >
              {say`Keep as version ${version + 1}`}
            </Button>
            {differs && (
              <Button variant="quiet" onClick={() => setAbout(kept)}>
                {say`As it was`}
              </Button>
            )}
          </div>
        </form>
        <Versions
          recipe={recipe}
          onTake={(past) => keep({ ...past.content, name }, past.content)}
        />
      </div>
    </article>
  );
}

/** Every version, with what changed in it; an earlier one is taken up again as the newest. */
function Versions({ recipe, onTake }: { recipe: ListedHouse; onTake(past: PastHouse): void }) {
  const { data: versions = [], error } = useHouseVersions(recipe);
  return (
    <section aria-label={say`Versions`}>
      <h3>{say`Versions`}</h3>
      {error && <p className="trouble">{error.message}</p>}
      <ol className="house-versions" reversed>
        {versions.map((one, i) => (
          <li key={one.version} value={one.version}>
            <b>{say`Version ${one.version}`}</b>{' '}
            <span className="soft">
              {format(one.at, 'd MMM yyyy, HH:mm')}
              {one.author?.initials && ` · ${authorWords(one.author)}`}
            </span>
            <span>{changedIn(one, versions[i + 1])}</span>
            {i > 0 && (
              <Button size="sm" variant="quiet" onClick={() => onTake(one)}>
                {say`Take this one again`}
              </Button>
            )}
          </li>
        ))}
      </ol>
    </section>
  );
}

/** What a version changed of the one before it. */
function changedIn(now: PastHouse, before: PastHouse | undefined): string {
  if (!before) return say`its first`;
  const steps = stepChanges(before.content, now.content)
    .filter(({ same }) => !same)
    .map(({ title, before: was, after }) =>
      !was
        ? say`${title} added`
        : !after
          ? say`${title} left out`
          : say`${title}: ${was} → ${after}`,
    );
  const { content: one } = before;
  const { content: other } = now;
  if (now.name !== before.name) steps.push(say`named ${now.name}`);
  if (one.kind !== other.kind || one.material !== other.material)
    steps.push(say`for other pictures`);
  if (one.note !== other.note) steps.push(say`its note`);
  if (one.ppi !== other.ppi) steps.push(say`its resolution`);
  if (JSON.stringify(one.output) !== JSON.stringify(other.output))
    steps.push(say`how it is written`);
  if (JSON.stringify(one.guards) !== JSON.stringify(other.guards)) steps.push(say`its guards`);
  return steps.join('; ') || say`nothing that shows`;
}
