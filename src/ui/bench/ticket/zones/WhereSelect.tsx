import { mayJoin, type Where, type Zone } from '@/core/zone/zone';
import { copyOf, joinedZone, newZone } from './make';
import { say } from '@/core/words/say';

interface Props {
  label: string;
  zones: readonly Zone[];
  where: Where;
  /** whether it may work everywhere, in no zone at all */
  everywhere: boolean;
  /** @param made a zone that is new with it */
  onChoose(where: Where, name: string, made?: Zone): void;
}

/** Where something works: in a zone or everywhere but there, in a new one, a copy, or two that are joined. */
export function WhereSelect({ label, zones, where, everywhere, onChoose }: Props) {
  const zone = zones.find(({ id }) => id === where.zone);
  const choose = (value: string) => {
    const [how, id] = value.split(' ') as [string, string | undefined];
    const named = zones.find((one) => one.id === id);
    const make = (made: Zone) => onChoose({ zone: made.id }, made.name, made);
    if (how === 'new') make(newZone(zones));
    else if (how === 'copy' && named) make(copyOf(named, zones));
    else if (how === 'join' && zone && named) make(joinedZone(zone, named, zones));
    else if (how === 'in' && named) onChoose({ zone: named.id }, named.name);
    else if (how === 'but' && named) {
      onChoose({ zone: named.id, elsewhere: true }, say`everywhere but ${named.name}`);
    } else onChoose({}, 'everywhere');
  };
  const joinable = zone
    ? zones.filter((one) => one !== zone && mayJoin(one, '', zones) && mayJoin(zone, '', zones))
    : [];
  return (
    <select
      className="list-choice"
      aria-label={label}
      value={zone ? `${where.elsewhere ? 'but' : 'in'} ${zone.id}` : ''}
      onChange={(event) => choose(event.target.value)}
    >
      {everywhere ? (
        <option value="">
          {where.zone && !zone ? say`everywhere: its zone is gone` : say`everywhere`}
        </option>
      ) : (
        !zone && <option value="">{say`a zone that is gone`}</option>
      )}
      {zones.length > 0 && (
        <>
          <optgroup label={say`In`}>
            {zones.map(({ id, name }) => (
              <option key={id} value={`in ${id}`}>
                {name}
              </option>
            ))}
          </optgroup>
          <optgroup label={say`Outside`}>
            {zones.map(({ id, name }) => (
              <option key={id} value={`but ${id}`}>
                {say`everywhere but ${name}`}
              </option>
            ))}
          </optgroup>
        </>
      )}
      <optgroup label={say`Made for it`}>
        <option value="new">{say`a new zone …`}</option>
        {zone && <option value={`copy ${zone.id}`}>{say`a copy of ${zone.name} …`}</option>}
        {joinable.map(({ id, name }) => (
          <option key={id} value={`join ${id}`}>
            {say`${zone!.name} and ${name}, joined …`}
          </option>
        ))}
      </optgroup>
    </select>
  );
}
