import { useId } from 'react';
import { useSigner } from '../data/author';
import { say } from '@/core/words/say';

/** Who signs. */
export function Initials() {
  const { initials } = useSigner();
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
        onChange={(event) => useSigner.setState({ initials: event.target.value })}
      />
    </div>
  );
}
