import { stepOfKind, type StepChoice } from '@/core/steps';
import { ofStepAt, type WorkBench } from '../../use-work';
import { editZone } from '../../stage/tools/tool';
import { WhereSelect } from './WhereSelect';
import { say } from '@/core/words/say';

interface Props {
  bench: WorkBench;
  step: StepChoice;
  index: number;
}

/** Where a step works. */
export function ZoneField({ bench, step, index }: Props) {
  const { work, change } = bench;
  const { title } = stepOfKind(step.kind);
  const zone = work.zones.find(({ id }) => id === step.zone);
  return (
    <div className="zone-field">
      <span className="field-label">{say`Where`}</span>
      <WhereSelect
        label={say`Where ${title.toLowerCase()} works`}
        zones={work.zones}
        where={step}
        everywhere
        onChoose={(where, name, made) => {
          change(made ? say`${title} limited to ${name}` : `${title}: ${name}`, (next, trial) => {
            if (made) next.zones.push(made);
            ofStepAt(index, (one) => {
              delete one.zone;
              delete one.elsewhere;
              Object.assign(one, where);
            })(next, trial);
          });
          if (made) editZone(made.id);
        }}
      />
      {zone && (
        <button type="button" className="text-button" onClick={() => editZone(zone.id)}>
          {say`Edit`}
        </button>
      )}
    </div>
  );
}
