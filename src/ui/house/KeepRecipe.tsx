import { useState } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import type { ListedHouse } from '@/core/house/house-recipe';
import { houseContent, leftOut } from '@/core/house/keep';
import { HouseName } from '@/core/house/house-version';
import { formatPpi } from '@/core/measure/format';
import { outputWords } from '@/core/output/output';
import type { WorkBench } from '../bench/use-work';
import { author } from '../data/author';
import { recipeNamed, useHouse, useHouseActs } from '../data/house';
import { AboutRecipe, type About } from './AboutRecipe';
import { closeHouseDialog } from './house-dialogs';
import { StepList } from './StepList';
import { say } from '@/core/words/say';

/** Keeps the trial on the bench as a house recipe: a new one, or the next version of the one that it was begun by. */
export function KeepRecipe({ bench }: { bench: WorkBench }) {
  const { data: recipes } = useHouse();
  return recipes ? <Keeping bench={bench} recipes={recipes} /> : null;
}

function Keeping({ bench, recipes }: { bench: WorkBench; recipes: readonly ListedHouse[] }) {
  const { trial, work, found } = bench;
  const begunBy = recipes.find(({ id }) => id === trial.house?.id);
  const [about, setAbout] = useState<About>(() =>
    begunBy
      ? { name: begunBy.name, ...begunBy.content }
      : {
          ...{ name: /^Trial [A-Z]+$/.test(trial.name) ? '' : trial.name },
          ...{ kind: found.kind, material: null, note: '' },
        },
  );
  const [ppi, setPpi] = useState(begunBy !== undefined && begunBy.content.ppi !== null);
  const [output, setOutput] = useState(begunBy !== undefined && begunBy.content.output !== null);
  const { keep, keeping } = useHouseActs();
  const { name, kind, material, note } = about;
  const content = houseContent(trial, work.zones, { kind, material, note, ppi, output });
  const left = leftOut(trial, work.zones);
  const same = recipeNamed(recipes, name);
  return (
    <Modal
      show
      onHide={closeHouseDialog}
      centered
      dialogClassName="house-dialog"
      aria-labelledby="keep-recipe"
    >
      <Form
        onSubmit={(event) => {
          event.preventDefault();
          const draft = { name: name.trim(), content, author: author() };
          keep(draft, recipes, closeHouseDialog);
        }}
      >
        <Modal.Body>
          <h2 id="keep-recipe">{say`Keep ${trial.name} as a house recipe`}</h2>
          <AboutRecipe about={about} trouble={null} onChange={setAbout} />
          <StepList content={content} />
          <Form.Check
            id="keep-ppi"
            label={say`At ${formatPpi(trial.ppi)} ppi always; else as each device uses`}
            checked={ppi}
            onChange={(event) => setPpi(event.target.checked)}
          />
          <Form.Check
            id="keep-output"
            label={say`Written as ${outputWords(trial.output)} always; else as each trial is`}
            checked={output}
            onChange={(event) => setOutput(event.target.checked)}
          />
          {left.length > 0 && (
            <div className="left-out">
              <b>{say`Left out, since it belongs to this picture alone`}</b>
              <ul>
                {left.map((words) => (
                  <li key={words}>{words}</li>
                ))}
              </ul>
            </div>
          )}
        </Modal.Body>
        <Modal.Footer>
          {same && (
            <span className="soft me-auto">
              {say`There is one of this name: this will be its version ${same.version + 1}.`}
            </span>
          )}
          <Button variant="quiet" onClick={closeHouseDialog}>
            {say`Cancel`}
          </Button>
          <Button type="submit" disabled={!HouseName.safeParse(name).success || keeping}>
            {same ? say`Keep as version ${same.version + 1}` : say`Keep`}
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
