import { stepChanges } from '@/core/house/changes';
import { useThroughput } from '../data/queries';
import { BeforeAfter } from './BeforeAfter';
import { comesTo, type Pictured, type Treated } from './recipe-on';
import { say } from '@/core/words/say';

/** What a recipe changes of a picture: its worst place both ways, step by step, and what it comes to. */
export function RecipeEffect({
  picture,
  recipe,
  after,
}: {
  picture: Pictured;
  recipe: { name: string };
  after: Treated;
}) {
  const { trial, resolved } = picture;
  const { data: throughput } = useThroughput();
  return (
    <>
      <BeforeAfter
        picture={picture}
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
              <span className="figure">{comesTo(picture, throughput)}</span>
            </td>
            <td>
              <span className="figure">{comesTo(after, throughput)}</span>
            </td>
          </tr>
        </tbody>
      </table>
    </>
  );
}
