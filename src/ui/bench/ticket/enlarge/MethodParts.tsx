import { Plus, X } from 'lucide-react';
import { Button } from 'react-bootstrap';
import type { MethodPart } from '@/core/steps/enlarge/enlarge';
import { Method, methodNotes } from '@/core/steps/enlarge/methods';
import { stepOf } from '@/core/recipe/work';
import { Fold } from '../../../parts/Fold';
import { ofStep, type Change, type WorkBench } from '../../use-work';
import { editZone, useTool } from '../../stage/tools/tool';
import { newZone } from '../zones/make';
import { WhereSelect } from '../zones/WhereSelect';
import { Zones } from '../zones/Zones';
import { say } from '@/core/words/say';

/** The most zones that have a method of their own. */
const MOST = 4;

/** Zones that another method enlarges: lettering in a photograph, a photograph on a leaf. */
export function MethodParts({ bench }: { bench: WorkBench }) {
  const { trial, work, change } = bench;
  const { parts } = stepOf(trial.treatment, 'enlarge')!.settings;
  const put = (edit: (list: MethodPart[]) => void): Change =>
    ofStep('enlarge', (next) => edit(next.settings.parts));
  const add = () => {
    const made = newZone(work.zones);
    change(say`${made.name} by another method`, (next, on) => {
      next.zones.push(made);
      put((list) => list.push({ zone: made.id, method: 'learned-art' }))(next, on);
    });
    editZone(made.id);
    useTool.setState({ zoneLook: 'over' });
  };
  const line = parts.length > 0 ? `${parts.length}` : 'none';
  return (
    <Fold title={say`Other methods in zones`} line={line}>
      {parts.map((part, at) => (
        <div className="method-part" key={at}>
          <WhereSelect
            label={say`Zone ${at + 1}`}
            zones={work.zones}
            where={part}
            everywhere={false}
            onChoose={({ zone, elsewhere }, name, made) => {
              if (!zone) return;
              change(say`Another method in ${name}`, (next, on) => {
                if (made) next.zones.push(made);
                put((list) => {
                  const { method } = list[at]!;
                  list[at] = { zone, method, ...(elsewhere && { elsewhere }) };
                })(next, on);
              });
              if (made) editZone(made.id);
            }}
          />
          <select
            className="list-choice"
            aria-label={say`Method in zone ${at + 1}`}
            value={part.method}
            onChange={(event) => {
              const chosen = Method.parse(event.target.value);
              change(
                say`${methodNotes[chosen].title} in a zone`,
                put((list) => (list[at]!.method = chosen)),
              );
            }}
          >
            {Method.options.map((one) => (
              <option key={one} value={one}>
                {methodNotes[one].title}
              </option>
            ))}
          </select>
          <Button
            variant="quiet"
            size="sm"
            aria-label={say`Take this part out`}
            onClick={() =>
              change(
                say`One method less`,
                put((list) => list.splice(at, 1)),
              )
            }
          >
            <X size={14} />
          </Button>
        </div>
      ))}
      {parts.length < MOST && (
        <button type="button" className="text-button" onClick={add}>
          <Plus size={14} /> {say`Another method in a zone`}
        </button>
      )}
      {parts.length > 0 && <Zones bench={bench} />}
    </Fold>
  );
}
