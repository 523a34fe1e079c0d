import { useId } from 'react';
import { USUAL } from '@/core/shop/settings';
import { useSigner } from '../data/author';
import { useSettings } from '../data/settings';
import { say } from '@/core/words/say';

/** Who signs. */
export function Initials() {
  const { initials } = useSigner();
  const { data: { people } = USUAL } = useSettings();
  const id = useId();
  return (
    <div>
      <label className="field-label" htmlFor={id}>
        {say`Initials`}
      </label>
      <input
        id={id}
        className="form-control form-control-sm"
        value={initials}
        maxLength={8}
        autoComplete="off"
        list={`${id}-people`}
        onChange={(event) => useSigner.setState({ initials: event.target.value })}
      />
      <datalist id={`${id}-people`}>
        {people.map(({ initials: one, name }) => (
          <option key={one} value={one}>
            {name}
          </option>
        ))}
      </datalist>
    </div>
  );
}
