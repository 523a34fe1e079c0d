import { GitBranch, MoreVertical } from 'lucide-react';
import { useState } from 'react';
import { Button, Dropdown, Form } from 'react-bootstrap';
import { summaryOf } from '@/core/steps';
import { stepOf, type Trial } from '@/core/recipe/work';
import { removeTrial } from '@/core/recipe/trials';
import { TRIALS } from '@/core/recipe/work';
import { branch } from '../shortcuts';
import { Menu } from '../../parts/Menu';
import type { WorkBench } from '../use-work';
import { endSpotting } from '../stage/tools/tool';
import { useChosen } from '../trial-store';
import { openKeepRecipe, openTryRecipe } from '../../house/house-dialogs';
import { useOpen } from './open';
import { say } from '@/core/words/say';

/** The trials of the picture: one of them on the bench, others to go back to or to compare with. */
export function Trials({ bench }: { bench: WorkBench }) {
  const { work, trial, change, inside } = bench;
  const [naming, setNaming] = useState(false);
  const remove = () => {
    change(say`${trial.name} deleted`, (copy) => void removeTrial(copy, trial.id));
    useChosen.setState({ trial: null });
  };
  return (
    <div className="trials">
      <div className="trial-tabs" role="group" aria-label={say`Trials`}>
        {work.trials.map((one) => (
          <button
            key={one.id}
            type="button"
            aria-current={one.id === trial.id}
            title={`${one.name}: ${methodOf(one)}`}
            onClick={() => {
              useChosen.setState({ trial: one.id });
              useOpen.setState({ step: null });
              endSpotting();
            }}
            onDoubleClick={() => setNaming(true)}
          >
            {one.name}
          </button>
        ))}
      </div>
      <Button
        variant="quiet"
        size="sm"
        aria-label={say`Branch this trial`}
        title={say`Branch: another trial that begins as this one (B)`}
        disabled={work.trials.length >= TRIALS}
        onClick={() => branch(bench)}
      >
        <GitBranch size={15} />
      </Button>
      <Dropdown align="end">
        <Dropdown.Toggle
          variant="quiet"
          size="sm"
          bsPrefix="btn"
          aria-label={say`More about ${trial.name}`}
        >
          <MoreVertical size={15} />
        </Dropdown.Toggle>
        <Menu>
          {/* The menu takes the focus back as it closes; the field comes after that. */}
          <Dropdown.Item onClick={() => setTimeout(() => setNaming(true), 60)}>
            {say`Rename …`}
          </Dropdown.Item>
          {!inside && (
            <>
              <Dropdown.Item
                onClick={() => openTryRecipe()}
              >{say`By a house recipe …`}</Dropdown.Item>
              <Dropdown.Item
                onClick={openKeepRecipe}
              >{say`Keep as a house recipe …`}</Dropdown.Item>
            </>
          )}
          <Dropdown.Item disabled={work.trials.length < 2} onClick={remove}>
            {say`Delete`}
          </Dropdown.Item>
        </Menu>
      </Dropdown>
      {naming && <Naming bench={bench} onEnd={() => setNaming(false)} />}
    </div>
  );
}

const methodOf = (trial: Trial): string => summaryOf(stepOf(trial.treatment, 'enlarge')!);

/** A trial's name while it is typed. */
function Naming({ bench: { trial, change }, onEnd }: { bench: WorkBench; onEnd(): void }) {
  const enter = (text: string) => {
    const name = text.trim().slice(0, 60);
    if (name && name !== trial.name)
      change(say`${trial.name} named ${name}`, (_, on) => (on.name = name));
    onEnd();
  };
  return (
    <Form.Control
      className="naming"
      size="sm"
      autoFocus
      aria-label={say`Name of the trial`}
      defaultValue={trial.name}
      maxLength={60}
      onFocus={(event) => event.target.select()}
      onBlur={(event) => enter(event.target.value)}
      onKeyDown={(event) => {
        if (event.key === 'Enter') enter(event.currentTarget.value);
        if (event.key === 'Escape') onEnd();
      }}
    />
  );
}
