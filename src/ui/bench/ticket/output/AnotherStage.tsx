import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { stagesOf } from '@/core/recipe/stages';
import { Fold } from '../../../parts/Fold';
import type { WorkBench } from '../../use-work';
import { say } from '@/core/words/say';

/** Writes the picture as it is after one of its steps. */
export function AnotherStage({ bench }: { bench: WorkBench }) {
  const { trial, run, running } = bench;
  const stages = stagesOf(trial.treatment);
  const [chosen, setChosen] = useState<number | null>(null);
  const stage = stages.find(({ index }) => index === chosen) ?? stages[0];
  if (!stage) return null;
  return (
    <Fold title={say`Save after a step`} line={say`${stages.length} stages`}>
      <div className="d-flex gap-2">
        <Form.Select
          size="sm"
          aria-label={say`After which step`}
          value={stage.index}
          onChange={(event) => setChosen(Number(event.target.value))}
        >
          {stages.map(({ index, name }) => (
            <option key={index} value={index}>
              {trial.name} {name}
            </option>
          ))}
        </Form.Select>
        <Button
          variant="quiet"
          size="sm"
          className="text-nowrap"
          disabled={running}
          onClick={() => run(stage.index)}
        >
          {say`Write it`}
        </Button>
      </div>
    </Fold>
  );
}
