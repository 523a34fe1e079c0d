import { Form } from 'react-bootstrap';
import { stepOfKind, type StepChoice } from '@/core/steps';
import type { Zone } from '@/core/zone/zone';
import { ofStepAt, type WorkBench } from '../../use-work';
import { editZone } from '../../stage/tools/tool';

/** A zone with nothing in it, under a name that no other has. */
export function newZone(zones: readonly Zone[]): Zone {
  const names = new Set(zones.map(({ name }) => name));
  let number = zones.length + 1;
  while (names.has(`Zone ${number}`)) number++;
  return {
    id: crypto.randomUUID(),
    name: `Zone ${number}`,
    parts: [],
    painted: null,
    feather: 0,
    inverted: false,
  };
}

interface Props {
  bench: WorkBench;
  step: StepChoice;
  index: number;
}

/** Where a step works: everywhere, or in one of the zones. */
export function ZoneField({ bench, step, index }: Props) {
  const { work, change } = bench;
  const { title } = stepOfKind(step.kind);
  const zone = work.zones.find(({ id }) => id === step.zone);
  const choose = (value: string) => {
    if (value === 'new') {
      const made = newZone(work.zones);
      change(`${title} limited to ${made.name}`, (next, trial) => {
        next.zones.push(made);
        ofStepAt(index, (one) => Object.assign(one, { zone: made.id }))(next, trial);
      });
      editZone(made.id);
      return;
    }
    const name = work.zones.find(({ id }) => id === value)?.name ?? 'everywhere';
    change(
      `${title}: ${name}`,
      ofStepAt(index, (one) => {
        if (value) one.zone = value;
        else delete one.zone;
      }),
    );
  };
  return (
    <label className="zone-field">
      <span className="field-label">Where</span>
      <Form.Select
        size="sm"
        aria-label={`Where ${title.toLowerCase()} works`}
        value={zone?.id ?? ''}
        onChange={(event) => choose(event.target.value)}
      >
        <option value="">everywhere</option>
        {work.zones.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
        <option value="new">a new zone …</option>
      </Form.Select>
      {zone && (
        <button type="button" className="text-button" onClick={() => editZone(zone.id)}>
          Edit
        </button>
      )}
    </label>
  );
}
