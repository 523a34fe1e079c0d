import { Form } from 'react-bootstrap';
import { isOfKind } from '@/core/steps';
import { ofStepAt } from '../../use-work';
import type { SpecialProps } from './special-props';
import { say } from '@/core/words/say';

/** Which trial's result is laid over this one's. */
export function InsetChoice({ bench: { work, trial, change }, step, index }: SpecialProps) {
  if (!isOfKind(step, 'inset')) return null;
  const others = work.trials.filter(({ id }) => id !== trial.id);
  return (
    <>
      <label className="zone-field">
        <span className="field-label">{say`Takes`}</span>
        <Form.Select
          size="sm"
          aria-label={say`The other trial`}
          value={step.settings.trial ?? ''}
          onChange={(event) => {
            const other = others.find(({ id }) => id === event.target.value);
            change(
              say`From ${other?.name ?? say`no other trial`}`,
              ofStepAt(index, (next) => Object.assign(next.settings, { trial: other?.id ?? null })),
            );
          }}
        >
          <option value="">{say`no trial yet`}</option>
          {others.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </Form.Select>
      </label>
      {others.length === 0 && (
        <p className="reason mb-0">
          {say`Branch a trial first: its result can then be laid in here.`}
        </p>
      )}
    </>
  );
}
